package fiador.reviews;

import fiador.changes.Step;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Grants that give what comes by another way anyway. */
final class HeldTwice implements Check {
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
      if (!facts.isOurs(grantee)) {
        continue;
      }
      int first = -1;
      int other = -1;
      int count = 0;
      IntArrayList rows = new IntArrayList();
      for (int row : grants.byGrantee().run(grantee)) {
        int by = redundancy.coveredBy(row);
        if (by != Redundancy.NOTHING) {
          first = first < 0 ? row : first;
          other = count == 0 ? by : other;
          count++;
          rows.add(row);
        }
      }
      if (count > 0) {
        Phrase said =
            Phrase.of("has ")
                .privileges(grants.terms(first).privileges())
                .say(" on ")
                .where(grants.node(first));
        said.say(other == grantee ? " twice" : " already through ");
        if (other != grantee) {
          said.who(other);
        }
        said.say(count > 1 ? ", and " + (count - 1) + " more such" : "");
        found.accept(Finding.about(ASKED, grantee, said).mendedBy(() -> steps(facts, rows)));
      }
    }
  }

  private static List<Step> steps(Facts facts, IntArrayList rows) {
    return rows.intStream().mapToObj(row -> facts.taking.revoke(row, -1L)).toList();
  }
}
