package fiador.changes;

import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.estate.Power;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Sights;
import fiador.policies.Sealing;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Checks seals against an estate as it would be: nobody but those named may hold anything inside.
 * Who holds it by a power or as owner cannot be stopped by any grant, and whom the charter does not
 * govern it cannot stop either: these are named; anybody else is a problem. Cost: the holders of
 * what is sealed.
 */
public final class Seals {
  private static final int NAMES = 5;

  private final Access after;
  private final Tree tree;
  private final Clock clock;
  private final Governed governed;
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();

  /**
   * @param governed whom the charter decides about: about others it can only tell
   */
  Seals(Access after, Clock clock, Governed governed) {
    this.governed = governed;
    this.after = after;
    this.tree = after.tree();
    this.clock = clock;
  }

  List<Problem> problems() {
    return problems;
  }

  Set<String> notes() {
    return notes;
  }

  void check(Seal seal) {
    Map<String, Set<String>> against = new TreeMap<>();
    Set<String> unstoppable = new TreeSet<>();
    for (WantedSight.Labelled thing : seal.on()) {
      Lookup.Found on = new Lookup(after).node(thing.name(), 0, false);
      if (!on.ok()) {
        problems.add(new Problem(thing.place(), on.problem()));
      }
    }
    new Sealing(after, clock)
        .passing(
            found(after, seal),
            one -> {
              String who = after.principals().name(one.user());
              String why = isBeyond(one.user()) ? "not governed" : one.power();
              if (why == null) {
                against
                    .computeIfAbsent(who, fresh -> new LinkedHashSet<>())
                    .add(one.privilege().text() + " on " + tree.path(one.node()));
              } else {
                unstoppable.add(who + " (" + why + ")");
              }
            });
    if (!against.isEmpty()) {
      List<String> some =
          against.entrySet().stream()
              .limit(NAMES)
              .map(one -> one.getKey() + " (" + one.getValue().iterator().next() + ")")
              .toList();
      problems.add(
          new Problem(
              seal.place(),
              "the seal "
                  + seal.name()
                  + " is open to others too: "
                  + String.join(", ", some)
                  + (against.size() > NAMES ? " and " + (against.size() - NAMES) + " more" : "")
                  + "; fiador trace shows through what"));
    }
    if (!unstoppable.isEmpty()) {
      notes.add("the seal " + seal.name() + " cannot stop " + String.join(", ", unstoppable));
    }
  }

  private boolean isBeyond(int user) {
    return !governed.principal(user) && !after.principals().has(user, Power.SUPERUSER);
  }

  /** The estate, with what a charter seals in it noted. */
  public static Access noted(Access access, List<Seal> seals) {
    return seals.isEmpty()
        ? access
        : access.sealed(seals.stream().map(seal -> found(access, seal)).toList());
  }

  /** A seal on the things and principals that are there. */
  public static Sights.Seal found(Access access, Seal seal) {
    Lookup lookup = new Lookup(access);
    List<Integer> on =
        seal.on().stream()
            .map(thing -> lookup.node(thing.name(), 0, false))
            .filter(Lookup.Found::ok)
            .map(Lookup.Found::id)
            .toList();
    List<Integer> openTo =
        seal.openTo().stream()
            .map(name -> principal(access, lookup, name))
            .filter(id -> id >= 0)
            .toList();
    return new Sights.Seal(seal.name(), on, openTo);
  }

  private static int principal(Access access, Lookup lookup, String name) {
    int id = access.principals().named(StoredName.of(name, access.rules()));
    return id >= 0 ? id : lookup.principal(name).id();
  }
}
