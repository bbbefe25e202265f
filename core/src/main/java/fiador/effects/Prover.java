package fiador.effects;

import fiador.effects.Proof.Who;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;

/**
 * Finds out whether proofs hold. Superusers, whom no server refuses anything, are no exception that
 * breaks an "only" or a "nobody"; they are named. Cost of a proof: that of one user's holdings on
 * an object, or of an object's holders.
 */
public final class Prover {
  private final Access access;
  private final Principals people;
  private final Lookup lookup;
  private final Holdings holdings;
  private final Holders holders;

  /** Parameters as for {@link Holdings}. */
  public Prover(Access access, Clock clock) {
    this.access = access;
    this.people = access.principals();
    this.lookup = new Lookup(access);
    this.holdings = new Holdings(access, clock, true);
    this.holders = new Holders(access, clock);
  }

  /**
   * What became of a proof.
   *
   * @param holds whether it holds
   * @param problem why it could not be looked at: a name that is not there; else null
   * @param against the users who make it fail: who can and should not, or the other way round
   * @param unable the principals that an "only" names and that cannot themselves
   * @param remarks who can all the same, because nothing stops them
   * @param node what it is about, -1 if not found
   * @param column which column, -1 for the whole
   * @param unknown whether it could not be looked at because the survey did not
   */
  public record Result(
      boolean holds,
      String problem,
      List<Integer> against,
      List<Integer> unable,
      List<Integer> remarks,
      int node,
      int column,
      boolean unknown) {
    private Result(
        boolean holds,
        String problem,
        List<Integer> against,
        List<Integer> unable,
        List<Integer> remarks,
        int node,
        int column) {
      this(holds, problem, against, unable, remarks, node, column, false);
    }
  }

  /**
   * Looks at one proof.
   *
   * @throws IllegalArgumentException when it is about what somebody gets to see
   */
  public Result prove(Proof proof) {
    if (proof instanceof Proof.OfSight) {
      throw new IllegalArgumentException("not a proof about who can do what: " + proof);
    }
    Lookup.Found found = lookup.node(proof.object(), proof.privilege().bit(), true);
    if (!found.ok()) {
      return new Result(
          false,
          found.problem(),
          List.of(),
          List.of(),
          List.of(),
          None.NODE,
          None.COLUMN,
          found.unknown());
    }
    if (proof instanceof Proof.Can can) {
      return one(can.who(), can, found, true);
    } else if (proof instanceof Proof.Cannot cannot) {
      return one(cannot.who(), cannot, found, false);
    } else if (proof instanceof Proof.Only only) {
      return all(only.who(), only, found, true);
    }
    Proof.Nobody nobody = (Proof.Nobody) proof;
    return all(nobody.except(), nobody, found, false);
  }

  private Result one(Who who, Proof proof, Lookup.Found on, boolean wanted) {
    Lookup.Found principal = lookup.principal(who.name());
    if (!principal.ok()) {
      return new Result(
          false, principal.problem(), List.of(), List.of(), List.of(), on.id(), on.column());
    }
    Lookup.Found through = on;
    boolean can = false;
    for (Lookup.Found way : ways(on, proof.privilege())) {
      if (!can && can(principal.id(), proof.privilege(), way, !wanted)) {
        can = true;
        through = way;
      }
    }
    return new Result(
        can == wanted,
        null,
        can == wanted ? List.of() : List.of(principal.id()),
        List.of(),
        List.of(),
        through.id(),
        through.column());
  }

  /** A table that is closed is read through the view that shows it safely: both count. */
  private List<Lookup.Found> ways(Lookup.Found on, Privilege privilege) {
    List<Lookup.Found> found = new ArrayList<>(List.of(on));
    if (privilege == Privilege.SELECT) {
      access
          .sights()
          .kept()
          .forEach(
              (node, kept) -> {
                if (kept.table() == on.id() && node != on.id()) {
                  found.add(new Lookup.Found(node, on.column(), null));
                }
              });
    }
    return found;
  }

  /**
   * Whether somebody can, after login or after switching a role on.
   *
   * @param anyPart whether a part of it is enough
   */
  private boolean can(int principal, Privilege privilege, Lookup.Found on, boolean anyPart) {
    return holdings.at(principal, on.id()).stream()
        .anyMatch(row -> row.privilege() == privilege && works(row, on.column(), anyPart));
  }

  private static boolean works(Holding row, int column, boolean anyPart) {
    boolean open = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
    boolean covers = row.columns() == null || (column < 0 ? anyPart : row.columns().get(column));
    return open && covers;
  }

  private Result all(List<Who> named, Proof proof, Lookup.Found on, boolean mustBeAble) {
    IntOpenHashSet allowed = new IntOpenHashSet();
    List<Integer> against = new ArrayList<>();
    List<Integer> unable = new ArrayList<>();
    for (Who who : named) {
      Lookup.Found principal = lookup.principal(who.name());
      if (!principal.ok()) {
        return new Result(
            false, principal.problem(), List.of(), List.of(), List.of(), on.id(), on.column());
      }
      addBelow(principal.id(), allowed);
      boolean able =
          ways(on, proof.privilege()).stream()
              .anyMatch(way -> can(principal.id(), proof.privilege(), way, false));
      if (mustBeAble && !able) {
        unable.add(principal.id());
      }
    }
    List<Integer> remarks = new ArrayList<>();
    List<Holding> rows = new ArrayList<>();
    ways(on, proof.privilege()).forEach(way -> rows.addAll(holders.of(way.id())));
    for (Holding row : rows) {
      boolean can = row.privilege() == proof.privilege() && works(row, on.column(), true);
      if (can && !allowed.contains(row.user())) {
        List<Integer> list = isSuperuser(row.user()) ? remarks : against;
        if (!list.contains(row.user())) {
          list.add(row.user());
        }
      }
    }
    boolean holds = against.isEmpty() && unable.isEmpty();
    return new Result(holds, null, against, unable, remarks, on.id(), on.column());
  }

  private void addBelow(int principal, IntOpenHashSet found) {
    IntArrayList open = IntArrayList.of(principal);
    found.add(principal);
    while (!open.isEmpty()) {
      for (int edge : access.memberships().membersOf().run(open.popInt())) {
        if (found.add(access.memberships().member(edge))) {
          open.add(access.memberships().member(edge));
        }
      }
    }
  }

  private boolean isSuperuser(int user) {
    boolean hosts = access.rules().has(HouseFact.ACCOUNTS_BY_HOST) && people.isUser(user);
    return access.isSuperuser(user) || hosts && access.rules().isOwn(access.bareName(user));
  }
}
