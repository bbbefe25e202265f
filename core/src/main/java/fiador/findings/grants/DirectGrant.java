package fiador.findings.grants;

import fiador.changes.steps.Step;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Grants to users that no role carries. */
public final class DirectGrant implements Check {
  static final Asked ASKED =
      new Asked(
          "direct-grant",
          Severity.MEDIUM,
          "Who was granted something personally, past all roles?",
          "Put the privilege into a role, give the user that role, then take the grant away.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants grants = facts.access.grants();
    for (int user = 1; user < facts.people.size(); user++) {
      int holder = user;
      // what an owner has of their own things was not granted by anybody
      IntArrayList rows =
          !facts.isUser(user)
              ? new IntArrayList()
              : facts.rowsOf(
                  user,
                  row ->
                      facts.tree.owner(grants.node(row)) != holder
                          && grants.terms(row).privileges() != 0);
      if (!rows.isEmpty()) {
        long first = grants.terms(rows.getInt(0)).privileges();
        Phrase said = facts.firstOf(Phrase.of("was granted "), rows, first);
        found.accept(
            Finding.about(ASKED, user, said.say(", no role between"))
                .concerns(IntArrayList.of(user))
                .mendedBy(() -> steps(facts, rows)));
      }
    }
  }

  private static List<Step> steps(Facts facts, IntArrayList rows) {
    return rows.intStream().mapToObj(row -> facts.taking.revoke(row, -1L)).toList();
  }
}
