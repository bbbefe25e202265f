package fiador.changes.adopting;

import fiador.estate.NodeKind;
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

  private record Place(int in, NodeKind kind, boolean option) {}

  /** Privileges on all of a kind that somebody, or everybody, will create in a schema. */
  record Later(int in, NodeKind kind, long privileges, boolean option) {}

  AdoptedLater(Access access, int grantee) {
    this.tree = access.tree();
    for (LaterGrant later : access.later()) {
      boolean inSchema =
          later.in() >= 0
              && tree.enclosing(later.in(), NodeKind.SCHEMA) >= 0
              && !tree.isSystem(later.in());
      for (LaterGrant.Given one : later.given()) {
        if (one.grantee() == grantee && later.creator() >= 0 && inSchema) {
          add(later, one.privileges() & ~one.grantable(), false);
          add(later, one.privileges() & one.grantable(), true);
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
