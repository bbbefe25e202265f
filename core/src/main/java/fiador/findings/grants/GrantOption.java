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
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import java.util.function.Consumer;

/** The right to grant on, outside owners. */
public final class GrantOption implements Check {
  static final Asked ASKED =
      new Asked(
          "grant-option",
          Severity.MEDIUM,
          "Who may pass a privilege on to others?",
          "Take the right to grant on, or make the holder the owner.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants grants = facts.access.grants();
    for (int grantee = 1; grantee < facts.people.size(); grantee++) {
      int holder = grantee;
      IntArrayList rows =
          !facts.isOurs(grantee)
              ? new IntArrayList()
              : facts.rowsOf(
                  grantee,
                  row ->
                      grants.terms(row).grantable() != 0
                          && !isOwner(facts, holder, grants.node(row)));
      if (!rows.isEmpty()) {
        long first = grants.terms(rows.getInt(0)).grantable();
        Phrase said = facts.firstOf(Phrase.of("may grant on "), rows, first);
        found.accept(
            Finding.about(ASKED, grantee, said)
                .concerns(facts.usersOf(grantee))
                .mendedBy(() -> steps(facts, rows)));
      }
    }
  }

  private static boolean isOwner(Facts facts, int holder, int node) {
    int owner = facts.tree.owner(node);
    return owner >= 0 && facts.stamps.holds(holder, owner);
  }

  private static List<Step> steps(Facts facts, IntArrayList rows) {
    List<Step> takes = rows.intStream().mapToObj(row -> facts.taking.takeOption(row)).toList();
    return facts.taking.complete(takes, Clock.fixed(facts.now, ZoneOffset.UTC));
  }
}
