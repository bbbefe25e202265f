package fiador.changes.wanted;

import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Extent;
import fiador.grants.Grants;
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

  /** Adds all of the others. */
  public void add(Rights others) {
    whole |= others.whole;
    grantable |= others.grantable;
    others.columns.forEach((column, extent) -> columns.merge(column, extent, Extent::and));
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

  /** What one principal is denied on one node by its name. Cost: the denials there. */
  public static Rights denied(Access access, int principal, int node) {
    Rights found = new Rights();
    Grants denials = access.denials();
    for (int row : principal < 0 || node < 0 ? new int[0] : denials.byNode().run(node)) {
      if (denials.grantee(row) != principal || !denials.terms(row).isByName()) {
        continue;
      }
      long privileges = denials.terms(row).privileges();
      if (denials.columns(row) == ColumnSets.WHOLE) {
        found.add(privileges, false);
      } else {
        for (int ordinal : access.columnSets().ordinals(denials.columns(row))) {
          found.add(ordinal, privileges, false);
        }
      }
    }
    return found;
  }

  /**
   * What stays of them when that goes and these are wanted.
   *
   * @param gone what goes; on the whole means on every column too, but not the other way round
   * @param wanted what stays in any case
   * @param optionByPlace whether the right to grant belongs to the place and not to each privilege
   */
  public Rights without(Rights gone, Rights wanted, boolean optionByPlace) {
    boolean option = gone.grantable != 0;
    for (Extent extent : gone.columns.values()) {
      option |= extent.grantable() != 0;
    }
    boolean optionGoes = optionByPlace && option;
    Rights stays = new Rights();
    stays.add(wanted);
    stays.whole |= whole & ~gone.whole;
    long options = optionByPlace ? grantable : grantable & ~gone.grantable & stays.whole;
    stays.grantable |= optionGoes ? 0 : options;
    columns.forEach(
        (column, extent) -> {
          long left = extent.privileges() & ~gone.on(column) & ~gone.whole;
          long given =
              optionByPlace
                  ? extent.grantable()
                  : extent.grantable() & ~gone.grantableOn(column) & left;
          if (left != 0) {
            stays.columns.merge(column, new Extent(left, optionGoes ? 0 : given), Extent::and);
          }
        });
    return stays;
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
