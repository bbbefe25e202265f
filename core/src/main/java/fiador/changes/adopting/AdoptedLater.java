package fiador.changes.adopting;

import fiador.changes.wanted.Governed;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.LaterGrant;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.ObjIntConsumer;

/**
 * What one grantee gets of what will be created, by creator. Where everybody who owns something in
 * a schema gives the same, a charter need not name them: "later" means just these.
 */
final class AdoptedLater {
  private final Tree tree;
  private final Map<Place, Map<Integer, Long>> given = new LinkedHashMap<>();

  private static final IntOpenHashSet NONE = new IntOpenHashSet();

  private record Place(int in, NodeKind kind, boolean option) {}

  /** Privileges on all of a kind that somebody, or everybody, will create in a schema. */
  record Later(int in, NodeKind kind, long privileges, boolean option) {}

  AdoptedLater(Access access, Governed governed, int grantee) {
    this.tree = access.tree();
    for (LaterGrant later : access.later()) {
      boolean meant =
          later.in() >= 0
              && (tree.enclosing(later.in(), NodeKind.SCHEMA) >= 0 || grantee == Principals.PUBLIC)
              && !tree.isSystem(later.in());
      for (LaterGrant.Given one : later.given()) {
        if (one.grantee() == grantee && later.creator() >= 0 && meant) {
          add(later, one.privileges() & ~one.grantable(), false);
          add(later, one.privileges() & one.grantable(), true);
        }
      }
    }
    if (grantee == Principals.PUBLIC) {
      openToAll(access, governed);
    }
  }

  /** What everybody gets on the routines of those who have said nothing about that. */
  private void openToAll(Access access, Governed governed) {
    for (int database : tree.children().run(0)) {
      for (int creator : governed.grant(Principals.PUBLIC, database) ? creators(database) : NONE) {
        String name = access.principals().name(creator);
        long open = LaterGrant.openToAll(access, name, database, NodeKind.ROUTINE);
        if (open != 0) {
          given
              .computeIfAbsent(
                  new Place(database, NodeKind.ROUTINE, false), fresh -> new LinkedHashMap<>())
              .merge(creator, open, (a, b) -> a | b);
        }
      }
    }
  }

  private void add(LaterGrant later, long privileges, boolean option) {
    if (privileges != 0) {
      given
          .computeIfAbsent(
              new Place(later.in(), later.kind(), option), fresh -> new LinkedHashMap<>())
          .merge(later.creator(), privileges, (a, b) -> a | b);
    }
  }

  /** Whoever owns something in a schema, or the schema. */
  private IntOpenHashSet creators(int schema) {
    IntOpenHashSet found = new IntOpenHashSet();
    IntArrayList inside = IntArrayList.of(schema);
    for (int i = 0; i < inside.size(); i++) {
      int node = inside.getInt(i);
      if (tree.owner(node) >= 0 && !tree.isSystem(node)) {
        found.add(tree.owner(node));
      }
      inside.addElements(inside.size(), tree.children().run(node));
    }
    return found;
  }

  /**
   * Which of the privileges everybody gives who owns something there; they are taken out of what is
   * left.
   */
  long takenByAll(int schema, NodeKind kind, long privileges) {
    return privileges == 0 ? 0 : takenByAll(new Place(schema, kind, false), privileges);
  }

  private long takenByAll(Place place, long privileges) {
    Map<Integer, Long> by = given.get(place);
    long all = by == null ? 0 : privileges;
    for (int creator : by == null ? new int[0] : creators(place.in()).toIntArray()) {
      all &= by.getOrDefault(creator, 0L);
    }
    for (int creator : all == 0 ? new int[0] : creators(place.in()).toIntArray()) {
      long taken = all;
      by.computeIfPresent(creator, (id, bits) -> bits & ~taken);
    }
    return all;
  }

  /** What is left: with the creator, or -1 where all who own something there give it. */
  void left(ObjIntConsumer<Later> each) {
    given.forEach(
        (place, by) -> {
          long all = takenByAll(place, -1L);
          if (all != 0) {
            each.accept(new Later(place.in(), place.kind(), all, place.option()), -1);
          }
          by.forEach(
              (creator, bits) -> {
                if (bits != 0) {
                  each.accept(new Later(place.in(), place.kind(), bits, place.option()), creator);
                }
              });
        });
  }
}
