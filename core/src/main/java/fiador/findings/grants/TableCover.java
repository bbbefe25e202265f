package fiador.findings.grants;

import fiador.estate.NodeKind;
import fiador.findings.check.Facts;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import it.unimi.dsi.fastutil.ints.Int2LongMap;
import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.longs.Long2IntMap;
import it.unimi.dsi.fastutil.longs.Long2IntOpenHashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;

/**
 * How many tables of a schema each role was granted a privilege on, one by one. Cost: the grants on
 * the schema's tables; and the tables again for each role and privilege that is asked about.
 */
final class TableCover {
  private static final int BITS = 6;

  private final Facts facts;
  private final int schema;
  private final IntArrayList tables = new IntArrayList();
  private final Long2IntOpenHashMap counts = new Long2IntOpenHashMap();

  TableCover(Facts facts, int schema) {
    this.facts = facts;
    this.schema = schema;
    for (int node : facts.tree.children().run(schema)) {
      // a table with a safe view is closed to roles on purpose
      if (facts.tree.kind(node) == NodeKind.TABLE && facts.safeViewOf(node) < 0) {
        tables.add(node);
        for (Int2LongMap.Entry held : held(node).int2LongEntrySet()) {
          for (long rest = held.getLongValue(); rest != 0; rest &= rest - 1) {
            int bit = Long.numberOfTrailingZeros(rest);
            counts.addTo((long) held.getIntKey() << BITS | bit, 1);
          }
        }
      }
    }
  }

  /** What each role was granted on a table. */
  private Int2LongOpenHashMap held(int table) {
    Grants grants = facts.access.grants();
    Int2LongOpenHashMap held = new Int2LongOpenHashMap();
    for (int at = grants.byNode().from(table); at < grants.byNode().to(table); at++) {
      int row = grants.byNode().row(at);
      int grantee = grants.grantee(row);
      if (grants.columns(row) == ColumnSets.WHOLE && facts.isRole(grantee)) {
        held.put(grantee, held.get(grantee) | grants.terms(row).privileges());
      }
    }
    return held;
  }

  int schema() {
    return schema;
  }

  /** How many tables the schema has. */
  int tables() {
    return tables.size();
  }

  /** The privileges that each role has on at least, and at most, so many of the tables. */
  Map<Integer, Long> between(int atLeast, int atMost) {
    Map<Integer, Long> found = new TreeMap<>();
    for (Long2IntMap.Entry one : counts.long2IntEntrySet()) {
      if (one.getIntValue() >= atLeast && one.getIntValue() <= atMost) {
        long bit = 1L << (one.getLongKey() & (1 << BITS) - 1);
        found.merge((int) (one.getLongKey() >> BITS), bit, (a, b) -> a | b);
      }
    }
    return found;
  }

  /** Some privileges of a role, by the tables on which it was not granted them. */
  Map<IntArrayList, Long> byMissing(int role, long privileges) {
    Map<IntArrayList, Long> found = new LinkedHashMap<>();
    for (long rest = privileges; rest != 0; rest &= rest - 1) {
      long bit = Long.lowestOneBit(rest);
      IntArrayList missing = new IntArrayList();
      for (int table : tables) {
        if (!has(role, table, bit)) {
          missing.add(table);
        }
      }
      found.merge(missing, bit, (a, b) -> a | b);
    }
    return found;
  }

  private boolean has(int role, int table, long bit) {
    Grants grants = facts.access.grants();
    for (int at = grants.byNode().from(table); at < grants.byNode().to(table); at++) {
      int row = grants.byNode().row(at);
      boolean theirs = grants.grantee(row) == role && grants.columns(row) == ColumnSets.WHOLE;
      if (theirs && (grants.terms(row).privileges() & bit) != 0) {
        return true;
      }
    }
    return false;
  }

  /** Who owns tables here without the role getting the privileges on what they create later. */
  IntArrayList creatorsWithoutLater(int role, long privileges) {
    IntOpenHashSet owners = new IntOpenHashSet();
    tables.forEach((int table) -> owners.add(facts.tree.owner(table)));
    owners.remove(-1);
    for (LaterGrant later : facts.access.later()) {
      boolean here = later.in() == schema || later.in() == facts.tree.parent(schema);
      boolean given =
          later.given().stream()
              .anyMatch(one -> one.grantee() == role && (privileges & ~one.privileges()) == 0);
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
