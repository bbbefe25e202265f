package fiador.reviews;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.Map;
import java.util.TreeMap;

/**
 * How many tables of a schema each role was granted a privilege on, one by one. Cost: the grants on
 * the schema's tables.
 */
final class TableCover {
  /** Takes a role, a privilege and on how many tables. */
  interface Each {
    void take(int role, Privilege privilege, int count);
  }

  private final Facts facts;
  private final int schema;
  private final IntArrayList tables = new IntArrayList();
  private final Map<Long, Integer> counts = new TreeMap<>();

  TableCover(Facts facts, int schema) {
    this.facts = facts;
    this.schema = schema;
    Grants grants = facts.access.grants();
    for (int node : facts.tree.children().run(schema)) {
      // a table with a safe view is closed to roles on purpose
      if (facts.tree.kind(node) != NodeKind.TABLE || facts.safeViewOf(node) >= 0) {
        continue;
      }
      tables.add(node);
      Map<Integer, Long> held = new TreeMap<>();
      for (int place = grants.byNode().from(node); place < grants.byNode().to(node); place++) {
        int row = grants.byNode().row(place);
        int grantee = grants.grantee(row);
        if (grants.columns(row) == ColumnSets.WHOLE && facts.isRole(grantee)) {
          held.merge(grantee, grants.terms(row).privileges(), (a, b) -> a | b);
        }
      }
      held.forEach(
          (role, bits) -> {
            for (long rest = bits; rest != 0; rest &= rest - 1) {
              long key = (long) role << 32 | Privilege.lowest(rest).ordinal();
              counts.merge(key, 1, Integer::sum);
            }
          });
    }
  }

  int schema() {
    return schema;
  }

  /** How many tables the schema has. */
  int tables() {
    return tables.size();
  }

  void each(Each to) {
    counts.forEach(
        (key, count) ->
            to.take((int) (key >>> 32), Privilege.values()[(int) (key & 0xffff)], count));
  }

  /** Says which tables the role was not granted it on. */
  void others(int role, Privilege privilege, Phrase said) {
    Grants grants = facts.access.grants();
    int count = 0;
    for (int table : tables) {
      boolean has = false;
      for (int row : grants.byNode().run(table)) {
        has |=
            grants.grantee(row) == role
                && (grants.terms(row).privileges() & privilege.bit()) != 0
                && grants.columns(row) == ColumnSets.WHOLE;
      }
      if (!has && ++count <= 3) {
        said.say(count == 1 ? "" : ", ").where(table);
      }
    }
    said.say(count > 3 ? " and " + (count - 3) + " more" : "");
  }

  /** Who owns tables here without the role getting the privilege on what they create later. */
  IntArrayList creatorsWithoutLater(int role, Privilege privilege) {
    IntOpenHashSet owners = new IntOpenHashSet();
    tables.forEach((int table) -> owners.add(facts.tree.owner(table)));
    owners.remove(-1);
    for (LaterGrant later : facts.access.later()) {
      boolean here = later.in() == schema || later.in() == facts.tree.parent(schema);
      boolean given =
          later.given().stream()
              .anyMatch(one -> one.grantee() == role && (one.privileges() & privilege.bit()) != 0);
      if (here && given && later.kind() == NodeKind.TABLE) {
        if (later.creator() < 0) {
          owners.clear();
        }
        owners.remove(later.creator());
      }
    }
    owners.remove(role);
    IntArrayList sorted = new IntArrayList(owners);
    sorted.sort(null);
    return sorted;
  }
}
