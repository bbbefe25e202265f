package fiador.reviews;

import fiador.changes.Step;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** The right to grant on, outside owners. */
final class GrantOption implements Check {
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
      if (!facts.isOurs(grantee)) {
        continue;
      }
      int first = -1;
      int count = 0;
      IntArrayList rows = new IntArrayList();
      for (int row : grants.byGrantee().run(grantee)) {
        int node = grants.node(row);
        int owner = facts.tree.owner(node);
        boolean own = owner >= 0 && facts.reach.holds(grantee, owner);
        if (grants.terms(row).grantable() != 0 && !own && !facts.tree.isSystem(node)) {
          first = first < 0 ? row : first;
          count++;
          rows.add(row);
        }
      }
      if (count > 0) {
        Phrase said =
            Phrase.of("may grant on ")
                .privileges(grants.terms(first).grantable())
                .say(" on ")
                .where(grants.node(first));
        said.say(count > 1 ? " and " + (count - 1) + " more" : "");
        found.accept(
            Finding.about(ASKED, grantee, said)
                .concerns(facts.usersOf(grantee))
                .mendedBy(() -> steps(facts, rows)));
      }
    }
  }

  private static List<Step> steps(Facts facts, IntArrayList rows) {
    return rows.intStream().mapToObj(row -> facts.taking.takeOption(row)).toList();
  }
}
