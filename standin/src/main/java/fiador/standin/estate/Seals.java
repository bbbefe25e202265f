package fiador.standin.estate;

import fiador.standin.house.Gate;
import fiador.standin.house.House;
import fiador.standin.house.House.Fact;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Containers that are sealed: they open to those who own them and to whom what lets people in was
 * given, and to nobody by a power. So that no administrator comes in by somebody else, whoever is
 * let in is out of reach of those who are not: they cannot set their secret, act as them, give
 * their roles, or make them owner of a view.
 */
public final class Seals {
  private final House house;
  private final Warehouse warehouse;
  private final Holds holds;

  /** Tells whether somebody has a privilege on the whole of a container. */
  interface Holds {
    boolean on(Session session, String privilege, Thing container);
  }

  Seals(House house, Warehouse warehouse, Holds holds) {
    this.house = house;
    this.warehouse = warehouse;
    this.holds = holds;
  }

  /** Whether that privilege lets people into that container, which is sealed. */
  boolean isKey(String privilege, Thing container) {
    return container.sealed()
        && house.gates().stream()
            .anyMatch(
                gate ->
                    gate.sealed()
                        && gate.container().equals(container.kind())
                        && gate.privilege().equals(privilege));
  }

  /**
   * What keeps somebody out of a thing because it is sealed, or lies in what is; null if nothing.
   */
  public @Nullable RefusedException shut(Session session, Thing thing) {
    for (Gate gate : house.gates()) {
      Thing container = gate.sealed() ? thing.enclosing(gate.container()) : null;
      if (container != null
          && container.sealed()
          && !holds.on(session, gate.privilege(), container)) {
        return new RefusedException(
            container + " is sealed, and " + session.acting() + " was not let in",
            gate.privilege(),
            container);
      }
    }
    return null;
  }

  /** What keeps somebody from giving a privilege that would let others in further down. */
  @Nullable RefusedException shutBelow(Session session, String privilege, Thing thing) {
    if (!house.has(Fact.SCHEMA_GRANTS_REACH_DOWN)) {
      return null;
    }
    for (Thing each : warehouse.things()) {
      boolean below = each != thing && each.enclosing(thing.kind()) == thing;
      if (below && isKey(privilege, each) && !holds.on(session, privilege, each)) {
        return shut(session, each);
      }
    }
    return null;
  }

  /**
   * What keeps somebody from doing as, or to, another because that one is let in somewhere and they
   * are not; null if nothing.
   */
  public @Nullable RefusedException beyond(Session session, Principal other) {
    Set<Principal> all = new LinkedHashSet<>(warehouse.closure(List.of(other)));
    all.addAll(warehouse.closure(List.of(warehouse.everybody())));
    Session theirs = new Session(other, other, all, all, null);
    for (Thing each : warehouse.things()) {
      RefusedException mine = each.sealed() ? shut(session, each) : null;
      if (mine != null && shut(theirs, each) == null) {
        return new RefusedException(
            other
                + " is let into "
                + each
                + ", which is sealed, and "
                + session.acting()
                + " is not",
            Objects.requireNonNull(mine.privilege()),
            each);
      }
    }
    return null;
  }

  /** A view elsewhere that reads what is in a container; null for none. */
  public @Nullable Thing viewFromOutside(Thing container) {
    for (Thing view : warehouse.things()) {
      boolean outside = view.enclosing(container.kind()) != container;
      if (outside
          && view.reads().stream()
              .anyMatch(read -> read.enclosing(container.kind()) == container)) {
        return view;
      }
    }
    return null;
  }
}
