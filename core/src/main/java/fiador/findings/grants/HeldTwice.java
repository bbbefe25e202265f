package fiador.findings.grants;

import fiador.changes.steps.Step;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Redundancy;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Grants that give what comes by another way anyway. */
public final class HeldTwice implements Check {
  static final Asked ASKED =
      new Asked(
          "held-twice",
          Severity.LOW,
          "Which grants change nothing because the same comes by another way?",
          "Take the narrower one of the two away; nobody loses anything.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Redundancy redundancy = new Redundancy(facts);
    Grants grants = facts.access.grants();
    for (int grantee = 1; grantee < facts.people.size(); grantee++) {
      IntArrayList rows =
          !facts.isOurs(grantee)
              ? new IntArrayList()
              : facts.rowsOf(grantee, row -> redundancy.coveredBy(row) != Redundancy.NOTHING);
      if (!rows.isEmpty()) {
        int first = rows.getInt(0);
        int by = redundancy.coveredBy(first);
        Phrase said = Phrase.of("has ").privileges(grants.terms(first).privileges());
        said.say(" on ").where(grants.node(first));
        said.say(by == grantee ? " twice" : " already through ");
        if (by != grantee) {
          said.who(by);
        }
        said.say(rows.size() > 1 ? ", and " + (rows.size() - 1) + " more such" : "");
        found.accept(Finding.about(ASKED, grantee, said).mendedBy(() -> steps(facts, rows)));
      }
    }
  }

  private static List<Step> steps(Facts facts, IntArrayList rows) {
    return rows.intStream().mapToObj(row -> facts.taking.revoke(row, -1L)).toList();
  }
}
