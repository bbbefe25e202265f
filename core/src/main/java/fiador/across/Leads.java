package fiador.across;

import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Abroad;
import fiador.grants.Access;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Which table of which server a foreign table is, as far as names and addresses tell. */
final class Leads {
  private Leads() {}

  /** The tables and views of a server to which foreign tables of others lead, in their order. */
  static List<Integer> targets(Atlas around, Access target) {
    Set<String> named = new HashSet<>();
    for (Access from : around.all()) {
      from.seen().abroad().tables().values().forEach(said -> named.add(said.name()));
    }
    List<Integer> found = new ArrayList<>();
    Tree tree = target.tree();
    for (int node = 0; !named.isEmpty() && node < tree.size(); node++) {
      boolean may = tree.columns(node) > 0 && named.contains(tree.name(node));
      if (may && isMeant(around, target, node)) {
        found.add(node);
      }
    }
    return found;
  }

  private static boolean isMeant(Atlas around, Access target, int node) {
    for (Access from : around.all()) {
      for (int table : from.seen().abroad().tables().keySet()) {
        if (to(around, from, table, target, node)) {
          return true;
        }
      }
    }
    return false;
  }

  /** Whether a foreign table is that table, whoever is asking. */
  static boolean to(Atlas around, Access from, int table, Access target, int node) {
    Abroad abroad = from.seen().abroad();
    Abroad.Table said = abroad.table(table);
    Tree tree = target.tree();
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    int database = tree.enclosing(node, NodeKind.DATABASE);
    Abroad.Place place = abroad.places().get(said.place());
    return said.name().equals(tree.name(node))
        && schema >= 0
        && said.schema().equals(tree.name(schema))
        && (place.database().isEmpty()
            || database >= 0 && place.database().equals(tree.name(database)))
        && around.isAt(from, place, target);
  }

  /** Columns of the foreign table, by their ordinals there. */
  static BitSet there(Access from, int table, Access target, int node, BitSet columns) {
    Abroad.Table said = from.seen().abroad().table(table);
    BitSet found = new BitSet();
    for (int at = columns.nextSetBit(0); at >= 0; at = columns.nextSetBit(at + 1)) {
      String name = said.columns().getOrDefault(at, from.tree().column(table, at));
      int ordinal = target.tree().columnNamed(node, name);
      if (ordinal >= 0) {
        found.set(ordinal);
      }
    }
    return found;
  }
}
