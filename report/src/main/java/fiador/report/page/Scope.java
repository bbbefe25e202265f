package fiador.report.page;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Reach;
import fiador.report.pictures.OwnRights;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * What goes into a page: things, who holds something on them, and the roles between. Whatever else
 * the estate has is not in the file.
 *
 * @param said what it is, for the reader; empty for all
 * @param things the nodes
 * @param people the users and roles
 * @param held who holds what on the things
 */
public record Scope(String said, BitSet things, BitSet people, List<Holding> held) {

  /** So many things and users a browser still handles at once. */
  public static final int MOST_THINGS = 20_000;

  public static final int MOST_PEOPLE = 20_000;

  /** Whether nothing was left out. */
  public boolean whole() {
    return said.isEmpty();
  }

  /** All that is not the server's own. */
  public static BitSet everything(Access access) {
    BitSet all = new BitSet();
    for (int node = 0; node < access.tree().size(); node++) {
      all.set(node, !access.tree().isSystem(node));
    }
    return all;
  }

  /** The things that are a user's or role's, or those of a role they hold. */
  public static BitSet ownedBy(Access access, int owner) {
    OwnRights rights = new OwnRights(access);
    IntOpenHashSet owners = new IntOpenHashSet(new Reach(access).up(owner));
    owners.add(owner);
    BitSet theirs = new BitSet();
    for (int node = 0; node < access.tree().size(); node++) {
      boolean counts = !access.tree().isSystem(node) && access.tree().kind(node) != NodeKind.SERVER;
      theirs.set(node, counts && owners.contains(rights.ownerOf(node)));
    }
    return theirs;
  }

  /**
   * A part of the estate, or all of it.
   *
   * @param things the nodes
   * @param said what they are; empty for all
   */
  public static Scope of(Access access, BitSet things, String said, Clock clock) {
    boolean whole = said.isEmpty();
    List<Holding> held = new ArrayList<>();
    Holders holders = new Holders(access, clock);
    things.stream().forEach(node -> held.addAll(holders.of(node)));
    BitSet people = new BitSet();
    if (whole) {
      people.set(0, access.principals().size());
    } else {
      held.forEach(row -> people.set(row.user()));
      addBetween(access, things, people);
    }
    return new Scope(said, things, people, held);
  }

  /** The roles that were given something there, and those on the way to them. */
  private static void addBetween(Access access, BitSet things, BitSet people) {
    IntOpenHashSet seen = new IntOpenHashSet();
    IntArrayList open = new IntArrayList();
    Tree tree = access.tree();
    OwnRights rights = new OwnRights(access);
    things.stream()
        .forEach(
            node -> {
              for (int at = node; at >= 0; at = tree.parent(at)) {
                var rows = access.grants().byNode();
                for (int place = rows.from(at); place < rows.to(at); place++) {
                  boolean counts =
                      at == node || access.grants().terms(rows.row(place)).covers() != 0;
                  if (counts && seen.add(access.grants().granteeAt(place))) {
                    open.add(access.grants().granteeAt(place));
                  }
                }
              }
              if (rights.ownerOf(node) >= 0 && seen.add(rights.ownerOf(node))) {
                open.add(rights.ownerOf(node));
              }
            });
    var memberships = access.memberships();
    while (!open.isEmpty()) {
      int at = open.popInt();
      // users without anything there stay out
      if (at == 0 || !access.principals().isUser(at)) {
        people.set(at);
      }
      for (int edge : memberships.membersOf().run(at)) {
        if (seen.add(memberships.member(edge))) {
          open.add(memberships.member(edge));
        }
      }
    }
  }
}
