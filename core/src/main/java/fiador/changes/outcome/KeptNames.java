package fiador.changes.outcome;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.grants.Access;
import fiador.policies.UnderName;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Leaves out of what people gain and lose what they go on holding by the same name, because a view
 * takes the name of its table, or gives it back. What they see otherwise is another matter, see
 * {@link SightEffects}. Cost: what those people hold on those tables.
 */
public final class KeptNames {
  private final Holdings was;
  private final Holdings is;
  private final Access before;
  private final Map<Integer, Integer> taken;
  private final Map<Integer, Integer> givenBack;

  private KeptNames(
      Access before,
      Access after,
      Map<Integer, Integer> taken,
      Map<Integer, Integer> givenBack,
      Clock clock) {
    this.before = before;
    this.was = new Holdings(before, clock, true);
    this.is = new Holdings(after, clock, true);
    this.taken = taken;
    this.givenBack = givenBack;
  }

  /** The changes without those that only follow the name. */
  public static List<Change> without(
      List<Change> changes, Access before, Access after, Clock clock) {
    Map<Integer, Integer> then = UnderName.tables(before);
    Map<Integer, Integer> now = UnderName.tables(after);
    Map<Integer, Integer> taken = new HashMap<>(now);
    Map<Integer, Integer> givenBack = new HashMap<>(then);
    taken.keySet().removeAll(then.keySet());
    givenBack.keySet().removeAll(now.keySet());
    if (taken.isEmpty() && givenBack.isEmpty()) {
      return changes;
    }
    KeptNames names = new KeptNames(before, after, taken, givenBack, clock);
    List<Change> left = new ArrayList<>();
    for (Change change : changes) {
      if (!names.follows(change)) {
        left.add(change);
      }
    }
    return List.copyOf(left);
  }

  private boolean follows(Change change) {
    boolean old = change.user() < before.principals().size();
    return old && (follows(change, taken, true) || follows(change, givenBack, false));
  }

  private boolean follows(Change change, Map<Integer, Integer> tables, boolean take) {
    for (Map.Entry<Integer, Integer> each : tables.entrySet()) {
      int view = each.getKey();
      int table = each.getValue();
      boolean about = change.node() == view || change.node() == table;
      if (about) {
        BitSet then = held(was, change, take ? table : view);
        BitSet now = held(is, change, take ? view : table);
        return then != null && then.equals(now);
      }
    }
    return false;
  }

  /**
   * The columns in which somebody holds the privilege at once, and behind them those in which they
   * may give it on; null for none.
   */
  private @Nullable BitSet held(Holdings holdings, Change change, int node) {
    BitSet columns = null;
    for (Holding row : holdings.at(change.user(), node)) {
      if (row.state().works() && row.privilege() == change.privilege()) {
        columns = columns == null ? new BitSet() : columns;
        int all = before.tree().columns(node);
        for (int column = 0; column < all; column++) {
          boolean held = row.columns() == null || row.columns().get(column);
          columns.set(column, columns.get(column) || held);
          columns.set(all + column, columns.get(all + column) || held && row.grantable());
        }
      }
    }
    return columns;
  }
}
