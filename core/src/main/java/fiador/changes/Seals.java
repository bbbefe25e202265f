package fiador.changes;

import fiador.changes.Plan.Problem;
import fiador.changes.WantedSight.Seal;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/**
 * Checks seals against an estate as it would be: nobody but those named may hold anything inside.
 * Who holds it by a power or as owner cannot be stopped by any grant, and whom the charter does not
 * govern it cannot stop either: these are named; anybody else is a problem. Cost: the holders of
 * what is sealed.
 */
final class Seals {
  private static final int NAMES = 5;

  private final Access after;
  private final Tree tree;
  private final Clock clock;
  private final Governed governed;
  private final UnaryOperator<String> stored;
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();

  /**
   * @param governed whom the charter decides about: about others it can only tell
   */
  Seals(Access after, Clock clock, Governed governed, UnaryOperator<String> stored) {
    this.governed = governed;
    this.after = after;
    this.tree = after.tree();
    this.clock = clock;
    this.stored = stored;
  }

  List<Problem> problems() {
    return problems;
  }

  Set<String> notes() {
    return notes;
  }

  void check(Seal seal) {
    IntOpenHashSet open = new IntOpenHashSet();
    for (String name : seal.openTo()) {
      int id = principal(name);
      if (id >= 0) {
        below(id, open);
      }
    }
    Map<String, Set<String>> against = new TreeMap<>();
    Map<String, Set<String>> unstoppable = new TreeMap<>();
    Holders holders = new Holders(after, clock);
    for (int node : inside(seal)) {
      for (Holding row : holders.of(node)) {
        boolean works = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
        if (works && !open.contains(row.user())) {
          String who = after.principals().name(row.user());
          String why = power(row.user(), node);
          (why == null ? against : unstoppable)
              .computeIfAbsent(
                  why == null ? who : who + " (" + why + ")", n -> new LinkedHashSet<>())
              .add(row.privilege().text() + " on " + tree.path(node));
        }
      }
    }
    if (!against.isEmpty()) {
      Map<String, String> first = new LinkedHashMap<>();
      against.forEach((who, what) -> first.put(who, what.iterator().next()));
      List<String> some =
          first.entrySet().stream()
              .limit(NAMES)
              .map(one -> one.getKey() + " (" + one.getValue() + ")")
              .toList();
      problems.add(
          new Problem(
              seal.place(),
              "the seal "
                  + seal.name()
                  + " is open to others too: "
                  + String.join(", ", some)
                  + (first.size() > NAMES ? " and " + (first.size() - NAMES) + " more" : "")
                  + "; fiador trace shows through what"));
    }
    if (!unstoppable.isEmpty()) {
      notes.add(
          "the seal " + seal.name() + " cannot stop " + String.join(", ", unstoppable.keySet()));
    }
  }

  private int principal(String name) {
    int id = after.principals().named(stored.apply(name));
    return id >= 0 ? id : new Lookup(after).principal(name).id();
  }

  /** The sealed things and all they hold. */
  private IntArrayList inside(Seal seal) {
    IntArrayList found = new IntArrayList();
    for (WantedSight.Labelled thing : seal.on()) {
      Lookup.Found on = new Lookup(after).node(thing.name(), 0, false);
      if (on.ok()) {
        found.add(on.id());
      } else {
        problems.add(new Problem(thing.place(), on.problem()));
      }
    }
    for (int i = 0; i < found.size(); i++) {
      for (int child : tree.children().run(found.getInt(i))) {
        found.add(child);
      }
    }
    return found;
  }

  /** The power or ownership by which a user holds things, whatever is granted; null for none. */
  private String power(int user, int node) {
    Principals people = after.principals();
    if (!governed.principal(user) && !people.has(user, Power.SUPERUSER)) {
      return "not governed";
    }
    IntOpenHashSet up = new IntOpenHashSet(new int[] {user});
    IntArrayList open = IntArrayList.of(user);
    while (!open.isEmpty()) {
      for (int edge : after.memberships().rolesOf().run(open.popInt())) {
        if (up.add(after.memberships().role(edge))) {
          open.add(after.memberships().role(edge));
        }
      }
    }
    for (int id : up.toIntArray()) {
      for (Power power : List.of(Power.SUPERUSER, Power.READ_EVERYTHING, Power.WRITE_EVERYTHING)) {
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

  private void below(int start, IntOpenHashSet found) {
    IntArrayList open = IntArrayList.of(start);
    found.add(start);
    while (!open.isEmpty()) {
      for (int edge : after.memberships().membersOf().run(open.popInt())) {
        if (found.add(after.memberships().member(edge))) {
          open.add(after.memberships().member(edge));
        }
      }
    }
  }
}
