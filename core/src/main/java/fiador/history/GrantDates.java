package fiador.history;

import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Since when each grant of an estate is there, as far as older states of it tell: those are given
 * one after the other, the newest first. Whoever gave it, and whether it may be granted on, does
 * not make it another grant. Cost: the grants of each state.
 */
public final class GrantDates {
  /**
   * Since when.
   *
   * @param when the first state that has it, with all later ones
   * @param orEarlier whether there is no older state to tell
   */
  public record Since(Instant when, boolean orEarlier) {}

  private final Set<String> open;
  private final Map<String, Since> found = new HashMap<>();
  private Instant last;

  /**
   * Of an estate.
   *
   * @param taken when it was found to be so
   */
  public GrantDates(Access now, Instant taken) {
    this.open = keys(now);
    this.last = taken;
  }

  /**
   * Adds an older state.
   *
   * @param first when it was first found
   * @return whether still older states may tell more
   */
  public boolean add(Access state, Instant first) {
    Set<String> then = keys(state);
    Iterator<String> each = open.iterator();
    while (each.hasNext()) {
      String key = each.next();
      if (!then.contains(key)) {
        found.put(key, new Since(last, false));
        each.remove();
      }
    }
    last = first;
    return !open.isEmpty();
  }

  /** Since when each grant is there, by {@link #key}. */
  public Map<String, Since> result() {
    Map<String, Since> all = new HashMap<>(found);
    open.forEach(key -> all.put(key, new Since(last, true)));
    return all;
  }

  private static Set<String> keys(Access access) {
    Set<String> keys = new HashSet<>();
    Grants grants = access.grants();
    for (int row = 0; row < grants.size(); row++) {
      long bits = grants.terms(row).privileges();
      for (long rest = bits; rest != 0; rest &= rest - 1) {
        keys.add(key(access, row, Privilege.lowest(rest)));
      }
    }
    return keys;
  }

  /** What tells one privilege of a grant from all others, by names. */
  public static String key(Access access, int row, Privilege privilege) {
    Grants grants = access.grants();
    int node = grants.node(row);
    Set<String> columns = new TreeSet<>();
    if (grants.columns(row) != ColumnSets.WHOLE) {
      for (int ordinal : access.columnSets().ordinals(grants.columns(row))) {
        columns.add(access.tree().column(node, ordinal));
      }
    }
    return access.principals().name(grants.grantee(row))
        + "\n"
        + privilege.text()
        + "\n"
        + access.tree().kind(node)
        + "\n"
        + access.tree().path(node)
        + "\n"
        + columns;
  }
}
