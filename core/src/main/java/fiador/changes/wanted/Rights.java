package fiador.changes.wanted;

import fiador.grants.Access;
import fiador.grants.Extent;
import fiador.grants.Terms;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** What one principal is given on one node: on the whole, and on columns by ordinal. */
public final class Rights {
  public long whole;
  public long grantable;
  public final TreeMap<Integer, Extent> columns = new TreeMap<>();

  public void add(long privileges, boolean grantOption) {
    whole |= privileges;
    grantable |= grantOption ? privileges : 0;
  }

  public void add(int column, long privileges, boolean grantOption) {
    columns.merge(column, new Extent(privileges, grantOption ? privileges : 0), Extent::and);
  }

  /** Adds a grant on columns; those that the server itself adds to every table are its own. */
  public void add(int row, Access access) {
    Terms terms = access.grants().terms(row);
    int node = access.grants().node(row);
    for (int ordinal : access.columnSets().ordinals(access.grants().columns(row))) {
      if (access.rules().systemColumns().contains(access.tree().column(node, ordinal))) {
        continue;
      }
      add(ordinal, terms.privileges(), false);
      add(ordinal, terms.grantable(), true);
    }
  }

  public long on(int column) {
    return columns.getOrDefault(column, Extent.NONE).privileges();
  }

  public long grantableOn(int column) {
    return columns.getOrDefault(column, Extent.NONE).grantable();
  }

  /**
   * Privileges by the columns they are on.
   *
   * @param bitsOf what counts of a column
   */
  public static Map<List<Integer>, Long> byColumns(
      Iterable<Integer> ordinals, java.util.function.IntToLongFunction bitsOf) {
    Map<Long, List<Integer>> byPrivilege = new TreeMap<>();
    for (int ordinal : ordinals) {
      for (long rest = bitsOf.applyAsLong(ordinal); rest != 0; rest &= rest - 1) {
        byPrivilege
            .computeIfAbsent(Long.lowestOneBit(rest), fresh -> new ArrayList<>())
            .add(ordinal);
      }
    }
    Map<List<Integer>, Long> found = new LinkedHashMap<>();
    byPrivilege.forEach((bit, on) -> found.merge(on, bit, (a, b) -> a | b));
    return found;
  }
}
