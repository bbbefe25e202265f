package fiador.findings.roles;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Membership;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Users none of whose roles is on after login. */
public final class NotSwitchedOn implements Check {
  public static final Asked ASKED =
      new Asked(
          "not-switched-on",
          Severity.LOW,
          "Whose roles do nothing until they switch one on, so that they are refused at first?",
          "Make one role the default, or let the memberships inherit.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    var memberships = facts.access.memberships();
    for (int user = 1; user < facts.people.size(); user++) {
      boolean any = false;
      IntArrayList waiting = new IntArrayList();
      for (int edge : facts.isUser(user) ? memberships.rolesOf().run(user) : new int[0]) {
        Membership how = memberships.options(edge);
        any |= how.inherit();
        if (!how.inherit() && how.set() && !how.implicit()) {
          waiting.add(memberships.role(edge));
        }
      }
      if (!any && !waiting.isEmpty()) {
        found.accept(
            Finding.about(
                    ASKED,
                    user,
                    Phrase.of("has no role on after login, only to switch to: ").whoOf(waiting))
                .concerns(IntArrayList.of(user)));
      }
    }
  }
}
