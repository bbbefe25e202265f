package fiador.findings.accounts;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Users that others hold like a role. */
public final class UserAsRole implements Check {
  public static final Asked ASKED =
      new Asked(
          "user-as-role",
          Severity.LOW,
          "Which accounts are used as roles, so that one person's rights are also another's?",
          "Make a role of what is shared, and give that to both.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int user = 1; user < facts.people.size(); user++) {
      IntArrayList members = new IntArrayList();
      var edges = facts.access.memberships();
      for (int edge : facts.isUser(user) ? edges.membersOf().run(user) : new int[0]) {
        if (facts.isOurs(edges.member(edge))) {
          members.add(edges.member(edge));
        }
      }
      if (!members.isEmpty()) {
        found.accept(
            Finding.about(ASKED, user, Phrase.of("is held like a role by ").whoOf(members))
                .concerns(members));
      }
    }
  }
}
