package fiador.policies;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Reach;
import fiador.grants.Sights.Seal;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Consumer;

/**
 * What seals mean on an estate: what they close, whom they stay open to, and who gets through all
 * the same. No server knows seals: they are kept by giving nobody else anything, and a power or an
 * owner's right passes them. Cost: the members of those named; of who passes, the holders.
 */
public final class Sealing {
  private static final List<Power> BROAD =
      List.of(
          Power.SUPERUSER,
          Power.READ_EVERYTHING,
          Power.WRITE_EVERYTHING,
          Power.MAINTAIN_EVERYTHING);

  private final Access access;
  private final Clock clock;
  private final Reach reach;

  /**
   * Somebody who gets through a seal.
   *
   * @param privilege one of those they have on the node
   * @param power the power or ownership that no grant stops; null where grants alone do it
   */
  public record Passing(int user, Privilege privilege, int node, String power) {}

  /** On that estate. */
  public Sealing(Access access, Clock clock) {
    this.access = access;
    this.clock = clock;
    this.reach = new Reach(access);
  }

  /** The seal that closes a node, itself or with what it is in; null for none. */
  public Seal on(int node) {
    for (Seal seal : access.sights().seals()) {
      for (int sealed : seal.on()) {
        if (node == sealed || access.tree().isInside(node, sealed)) {
          return seal;
        }
      }
    }
    return null;
  }

  /** Whom a seal stays open to: those it names and all who hold them. */
  public IntOpenHashSet openTo(Seal seal) {
    IntOpenHashSet open = new IntOpenHashSet();
    seal.openTo().forEach(id -> open.addAll(reach.below(id)));
    return open;
  }

  /** What a seal closes, each thing before what it holds. */
  public IntArrayList inside(Seal seal) {
    IntArrayList found = new IntArrayList(seal.on());
    for (int i = 0; i < found.size(); i++) {
      found.addElements(found.size(), access.tree().children().run(found.getInt(i)));
    }
    return found;
  }

  /** All tables and views that policies or seals are about, in their order. */
  public SortedSet<Integer> guarded() {
    SortedSet<Integer> found = new TreeSet<>(access.sights().kept().keySet());
    access.sights().kept().values().forEach(kept -> found.add(kept.table()));
    access
        .sights()
        .filters()
        .forEach(
            (table, filter) -> {
              if (filter.enabled()) {
                found.add(table);
              }
            });
    access.sights().seals().forEach(seal -> found.addAll(inside(seal)));
    found.removeIf(
        node -> !access.tree().kind(node).isObject() || access.tree().columns(node) == 0);
    return found;
  }

  /** Who gets through a seal to one thing, each user once. */
  public List<Passing> passing(Seal seal, int node) {
    List<Passing> found = new ArrayList<>();
    IntOpenHashSet seen = new IntOpenHashSet();
    IntOpenHashSet open = openTo(seal);
    passing(
        open,
        new Holders(access, clock),
        node,
        one -> {
          if (seen.add(one.user())) {
            found.add(one);
          }
        });
    return found;
  }

  /** Who gets through a seal to anything it closes; a user may come several times. */
  public void passing(Seal seal, Consumer<Passing> found) {
    IntOpenHashSet open = openTo(seal);
    Holders holders = new Holders(access, clock);
    for (int node : inside(seal)) {
      passing(open, holders, node, found);
    }
  }

  private void passing(IntOpenHashSet open, Holders holders, int node, Consumer<Passing> found) {
    for (Holding row : holders.of(node)) {
      boolean works = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
      if (works && !open.contains(row.user())) {
        found.accept(new Passing(row.user(), row.privilege(), node, power(row.user(), node)));
      }
    }
  }

  /** The power or ownership by which a user holds things, whatever is granted; null for none. */
  public String power(int user, int node) {
    Principals people = access.principals();
    Tree tree = access.tree();
    IntOpenHashSet up = new IntOpenHashSet(reach.up(user));
    for (int id : up.toIntArray()) {
      for (Power power : BROAD) {
        if (people.has(id, power)) {
          return power.text();
        }
      }
    }
    for (int at = node; at >= 0; at = tree.parent(at)) {
      if (tree.owner(at) >= 0 && up.contains(tree.owner(at))) {
        return "owner of " + tree.path(at);
      }
    }
    return null;
  }
}
