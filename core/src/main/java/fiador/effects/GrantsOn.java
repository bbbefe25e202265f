package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntCollection;

/**
 * The grants on one node, and those that come down to it, by who was given them. What they give is
 * not looked at: of most grantees nobody asks.
 */
final class GrantsOn {
  private static final IntArrayList NONE = new IntArrayList(0);

  private final Int2ObjectOpenHashMap<IntArrayList> itself = new Int2ObjectOpenHashMap<>();
  private final Int2ObjectOpenHashMap<IntArrayList> fromAbove = new Int2ObjectOpenHashMap<>();

  /**
   * @param comingDown of that estate; may be kept for others
   */
  GrantsOn(Access access, ComingDown comingDown, int node) {
    Tree tree = access.tree();
    Adjacency here = access.grants().byNode();
    for (int place = here.from(node); place < here.to(node); place++) {
      add(itself, access.grants().granteeAt(place), here.row(place));
    }
    NodeKind kind = tree.kind(node);
    for (int at = tree.parent(node); at >= 0; at = tree.parent(at)) {
      IntArrayList rows = comingDown.rows(at, kind);
      for (int i = 0; i < rows.size(); i++) {
        add(fromAbove, access.grants().grantee(rows.getInt(i)), rows.getInt(i));
      }
    }
  }

  private static void add(Int2ObjectOpenHashMap<IntArrayList> to, int grantee, int row) {
    IntArrayList rows = to.get(grantee);
    if (rows == null) {
      rows = new IntArrayList(1);
      to.put(grantee, rows);
    }
    rows.add(row);
  }

  /** The rows on the node itself that somebody was given; not to be written to. */
  IntArrayList itself(int grantee) {
    return itself.getOrDefault(grantee, NONE);
  }

  /** The rows on what it lies in; not to be written to. */
  IntArrayList fromAbove(int grantee) {
    return fromAbove.getOrDefault(grantee, NONE);
  }

  /** Who was given any on the node itself. */
  IntCollection givenItself() {
    return itself.keySet();
  }

  /** Who was given any on what it lies in. */
  IntCollection givenFromAbove() {
    return fromAbove.keySet();
  }
}
