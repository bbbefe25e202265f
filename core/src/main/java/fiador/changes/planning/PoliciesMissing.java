package fiador.changes.planning;

import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Wanted;
import fiador.grants.Access;
import fiador.grants.Sights.Kept;
import fiador.policies.ColumnMask;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Policies of a charter that a table lacks: because it was made since the charter was last settled,
 * or got a label since.
 *
 * @param rows the names of row policies
 * @param masks the names of mask policies, by the columns that lack them
 */
public record PoliciesMissing(int table, Set<String> rows, Map<String, Set<String>> masks) {
  /** Of all tables, in the order of their ids. Cost: the policies times the tables they name. */
  public static List<PoliciesMissing> of(Access access, Wanted wanted) {
    if (!wanted.sight().decided()) {
      return List.of();
    }
    Governed governed = new Governed(access, wanted, Set.of());
    Map<Integer, TableSight> there = there(access);
    List<PoliciesMissing> found = new ArrayList<>();
    new SightDemands(access, wanted, access.rules()::fold)
        .desired()
        .forEach(
            (table, meant) -> {
              TableSight is = there.getOrDefault(table, TableSight.OPEN);
              Set<String> rows = new TreeSet<>();
              meant.rows().forEach(policy -> rows.add(policy.name()));
              is.rows().stream().map(RowPolicy::name).forEach(rows::remove);
              Map<String, Set<String>> masks = new HashMap<>();
              meant.masks().stream()
                  .filter(
                      mask ->
                          is.masksOf(mask.column()).stream()
                              .noneMatch(one -> one.policy().equals(mask.policy())))
                  .forEach(
                      mask ->
                          masks
                              .computeIfAbsent(mask.column(), none -> new TreeSet<>())
                              .add(mask.policy()));
              if ((!rows.isEmpty() || !masks.isEmpty()) && governed.node(table)) {
                found.add(new PoliciesMissing(table, rows, masks));
              }
            });
    return found;
  }

  /** What decides on each table at present. */
  private static Map<Integer, TableSight> there(Access access) {
    Map<Integer, TableSight> found = new HashMap<>();
    for (Kept kept : access.sights().kept().values()) {
      try {
        List<SafeColumn> columns = SafeColumn.all(access.tree(), kept.table());
        found.merge(kept.table(), SightText.read(kept.policies(), columns), PoliciesMissing::both);
      } catch (IllegalArgumentException doesNotFit) {
        // a column was dropped or renamed since: what is there is no longer what was meant
      }
    }
    return found;
  }

  /** Rules on the table itself, and a view that shows it safely. */
  private static TableSight both(TableSight one, TableSight other) {
    List<RowPolicy> rows = new ArrayList<>(one.rows());
    rows.addAll(other.rows());
    List<ColumnMask> masks = new ArrayList<>(one.masks());
    masks.addAll(other.masks());
    return new TableSight(rows, masks);
  }
}
