package fiador.reviews;

import fiador.changes.WantedSight.Seal;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;

/** Users who reach what a seal closes to them. */
final class SealPassed implements Check {
  static final Asked ASKED =
      new Asked(
          "seal-passed",
          Severity.HIGH,
          "Who reaches what is sealed, without being named by the seal?",
          "Take the privilege away; where a power opens it, take that or accept it by a waiver.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  private static boolean isIn(Facts facts, Holding row) {
    return !facts.tree.kind(row.node()).isObject();
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    SealedThings sealed = new SealedThings(facts);
    Holders holders = new Holders(facts.access, facts.clock);
    for (Seal seal : facts.expected.seals()) {
      IntOpenHashSet open = sealed.openTo(seal);
      Map<Integer, Holding> firsts = new TreeMap<>();
      for (int node : sealed.inside(seal)) {
        for (Holding row : holders.of(node)) {
          boolean works = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
          if (works && !open.contains(row.user()) && facts.isUser(row.user())) {
            // a thing says more than the schema it is in
            firsts.merge(row.user(), row, (a, b) -> b.node() > a.node() && isIn(facts, a) ? b : a);
          }
        }
      }
      firsts.forEach(
          (user, row) -> {
            Phrase said =
                Phrase.of("passes the seal " + seal.name() + ": " + row.privilege().text());
            found.accept(
                Finding.about(ASKED, user, said.say(" on ").where(row.node()))
                    .concerns(IntArrayList.of(user)));
          });
    }
  }
}
