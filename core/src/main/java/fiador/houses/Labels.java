package fiador.houses;

import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.Terms;
import fiador.grants.rules.HouseRules;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Map.Entry;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Which things carry which labels, and what was given or refused by label: it is spelled out on all
 * that carries one, each with the privileges that exist on it. A label on a container is one on
 * everything in it, and none counts in what is sealed.
 */
final class Labels {
  private final AccessBuilder builder;
  private final EstateBuilder estate;
  private final Things things;
  private final HouseRules rules;
  private final Map<Integer, Carriers> carriers = new HashMap<>();
  private final Map<ByLabel, Long> given = new LinkedHashMap<>();

  /** What carries one label: things, and columns of things by ordinal. */
  private record Carriers(IntOpenHashSet things, Map<Integer, TreeSet<Integer>> columns) {}

  /**
   * One grant or denial, but for its privileges.
   *
   * @param label the id of its text
   */
  record ByLabel(boolean grant, int to, int label, boolean grantable, long until, int grantor) {}

  Labels(AccessBuilder builder, HouseSheet sheet, Things things) {
    this.builder = builder;
    this.estate = builder.estate();
    this.things = things;
    this.rules = sheet.rules();
  }

  /** Says that something carries a label. */
  void carries(BoundSource source, SourceRow row) throws BadRowException {
    int node = things.find(source, row);
    Carriers all =
        carriers.computeIfAbsent(
            estate.names().intern(source.needed("label", row)),
            fresh -> new Carriers(new IntOpenHashSet(), new TreeMap<>()));
    String column = source.some("column", row);
    if (column == null) {
      all.things().add(node);
      return;
    }
    int ordinal = things.column(source, node, column);
    all.columns().computeIfAbsent(node, fresh -> new TreeSet<>()).add(ordinal);
  }

  void give(ByLabel row, long privileges) {
    given.merge(row, privileges, (more, less) -> more | less);
  }

  /** After the last row of all. Cost: the things, once for each grant or denial by label. */
  void end() {
    Map<Integer, IntOpenHashSet> carrying = new HashMap<>();
    IntOpenHashSet sealed = given.isEmpty() ? new IntOpenHashSet() : inWhatIsSealed();
    for (Entry<ByLabel, Long> each : given.entrySet()) {
      ByLabel row = each.getKey();
      Carriers all = carriers.get(row.label());
      if (all == null) {
        continue;
      }
      IntOpenHashSet whole = carrying.computeIfAbsent(row.label(), label -> inside(all.things()));
      for (int node : whole.toIntArray()) {
        if (!sealed.contains(node)) {
          add(row, node, each.getValue() & on(node), ColumnSets.WHOLE);
        }
      }
      all.columns()
          .forEach(
              (node, ordinals) -> {
                if (!sealed.contains((int) node)) {
                  int[] sorted = ordinals.stream().mapToInt(ordinal -> ordinal).toArray();
                  long bits = each.getValue() & on(node) & rules.columnPrivileges();
                  add(row, node, bits, builder.columnSets().intern(sorted));
                }
              });
    }
  }

  private long on(int node) {
    return rules.privilegesOn(estate.kind(node));
  }

  private void add(ByLabel row, int node, long privileges, int columns) {
    if (privileges == 0) {
      return;
    }
    long grantable = row.grantable() ? privileges : 0;
    Terms terms = new Terms(privileges, grantable, 0, row.until()).by(row.label());
    if (row.grant()) {
      builder.grant(row.to(), node, terms, columns, row.grantor());
    } else {
      builder.denial(row.to(), node, terms, columns);
    }
  }

  /** The same and all that is in them: what is inside comes after what it is in. */
  private IntOpenHashSet inside(IntOpenHashSet outer) {
    IntOpenHashSet found = new IntOpenHashSet(outer);
    for (int node = 0; node < estate.nodes(); node++) {
      if (found.contains(estate.parent(node))) {
        found.add(node);
      }
    }
    return found;
  }

  private IntOpenHashSet inWhatIsSealed() {
    IntOpenHashSet sealed = new IntOpenHashSet();
    for (int node = 0; node < estate.nodes(); node++) {
      if (estate.is(node, NodeFact.SEALED)) {
        sealed.add(node);
      }
    }
    return inside(sealed);
  }
}
