package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.Long2ObjectOpenHashMap;

/**
 * The grants on a container that count for everything of a kind in it. A container may have been
 * given to thousands and pass on next to nothing; so they are looked through once for all that is
 * in it. Cost: the grants on the container, the first time.
 */
final class ComingDown {
  private final Access access;
  private final Long2ObjectOpenHashMap<IntArrayList> known = new Long2ObjectOpenHashMap<>();

  ComingDown(Access access) {
    this.access = access;
  }

  /**
   * The rows, in their order.
   *
   * @return not to be written to
   */
  IntArrayList rows(int container, NodeKind kind) {
    long key = (long) container << 32 | kind.ordinal();
    IntArrayList rows = known.get(key);
    if (rows == null) {
      rows = find(container, kind);
      known.put(key, rows);
    }
    return rows;
  }

  private IntArrayList find(int container, NodeKind kind) {
    Grants grants = access.grants();
    Adjacency all = grants.byNode();
    IntArrayList rows = new IntArrayList(0);
    for (int place = all.from(container); place < all.to(container); place++) {
      int row = all.row(place);
      if ((grants.terms(row).covers() & kind.bit()) != 0) {
        rows.add(row);
      }
    }
    return rows;
  }
}
