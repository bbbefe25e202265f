package fiador.reviews;

import fiador.changes.Step;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Grants to users that no role carries. */
final class DirectGrant implements Check {
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
      if (!facts.isUser(user)) {
        continue;
      }
      int first = -1;
      int count = 0;
      IntArrayList rows = new IntArrayList();
      for (int row : grants.byGrantee().run(user)) {
        // what an owner has of his own things was not granted by anybody
        boolean own = facts.tree.owner(grants.node(row)) == user;
        if (own || facts.tree.isSystem(grants.node(row)) || grants.terms(row).privileges() == 0) {
          continue;
        }
        first = first < 0 ? row : first;
        count++;
        rows.add(row);
      }
      if (count > 0) {
        Phrase said =
            Phrase.of("was granted ")
                .privileges(grants.terms(first).privileges())
                .say(" on ")
                .where(grants.node(first));
        said.say(
            count > 1 ? " and " + (count - 1) + " more, no role between" : ", no role between");
        found.accept(
            Finding.about(ASKED, user, said)
                .concerns(IntArrayList.of(user))
                .mendedBy(() -> steps(facts, rows)));
      }
    }
  }

  private static List<Step> steps(Facts facts, IntArrayList rows) {
    return rows.intStream().mapToObj(row -> facts.taking.revoke(row, -1L)).toList();
  }
}
