package fiador.proofs;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import fiador.proofs.Proof.Who;
import it.unimi.dsi.fastutil.ints.IntAVLTreeSet;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntSet;
import it.unimi.dsi.fastutil.ints.IntSortedSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Finds out whether proofs hold. Superusers, whom no server refuses anything, are no exception that
 * breaks an "only" or a "nobody"; they are named. Cost of a proof: that of one user's holdings on
 * an object, or of an object's holders; of one that looks ahead that of {@link Ahead}.
 */
public final class Prover {
  /** Of so many users a proof that looks ahead shows how. */
  private static final int WAYS = 3;

  private final Access access;
  private final Principals people;
  private final Lookup lookup;
  private final Holdings holdings;
  private final Holders holders;
  private final Ahead ahead;

  /** Parameters as for {@link Holdings}. */
  public Prover(Access access, Clock clock) {
    this.access = access;
    this.people = access.principals();
    this.lookup = new Lookup(access);
    this.holdings = new Holdings(access, clock, true);
    this.holders = new Holders(access, clock);
    this.ahead = new Ahead(access, clock);
  }

  /**
   * What became of a proof.
   *
   * @param holds whether it holds
   * @param problem why it could not be looked at: a name that is not there; else null
   * @param against the users who make it fail: who can and should not, or the other way round
   * @param ways how the first of those come to it by their own means, and an empty way for all who
   *     can already. Only of proofs that look ahead
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
      Map<Integer, List<Rung>> ways,
      List<Integer> unable,
      List<Integer> remarks,
      int node,
      int column,
      boolean unknown) {
    private static Result notLooked(Lookup.Found missing) {
      return new Result(
          false,
          missing.problem(),
          List.of(),
          Map.of(),
          List.of(),
          List.of(),
          None.NODE,
          None.COLUMN,
          missing.unknown());
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
      return Result.notLooked(found);
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
      return Result.notLooked(principal);
    }
    int id = principal.id();
    Lookup.Found through = on;
    boolean can = false;
    List<Rung> rungs = null;
    for (Lookup.Found way : ways(on, proof.privilege())) {
      if (can) {
        break;
      }
      rungs = proof.ever() ? ahead.ladder(goal(proof, way), id) : null;
      if (proof.ever() ? rungs != null : can(id, proof.privilege(), way, !wanted)) {
        can = true;
        through = way;
      }
    }
    boolean holds = can == wanted;
    return new Result(
        holds,
        null,
        holds ? List.of() : List.of(id),
        rungs == null ? Map.of() : Map.of(id, rungs),
        List.of(),
        List.of(),
        through.id(),
        through.column(),
        false);
  }

  private static Goal goal(Proof proof, Lookup.Found on) {
    return new Goal(proof.privilege(), on.id(), on.column());
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
    List<Integer> unable = new ArrayList<>();
    for (Who who : named) {
      Lookup.Found principal = lookup.principal(who.name());
      if (!principal.ok()) {
        return Result.notLooked(principal);
      }
      addBelow(principal.id(), proof.ever(), allowed);
      boolean able =
          ways(on, proof.privilege()).stream()
              .anyMatch(way -> can(principal.id(), proof.privilege(), way, false));
      if (mustBeAble && !able) {
        unable.add(principal.id());
      }
    }
    IntSortedSet able = new IntAVLTreeSet();
    for (Lookup.Found way : ways(on, proof.privilege())) {
      able.addAll(able(proof, way, allowed));
    }
    List<Integer> remarks = new ArrayList<>();
    List<Integer> against = new ArrayList<>();
    able.forEach((int user) -> (isSuperuser(user) ? remarks : against).add(user));
    boolean holds = against.isEmpty() && unable.isEmpty();
    Map<Integer, List<Rung>> ways = proof.ever() ? waysOf(against, proof, on) : Map.of();
    return new Result(holds, null, against, ways, unable, remarks, on.id(), on.column(), false);
  }

  /** Who can, or could, but for those who may. */
  private IntSortedSet able(Proof proof, Lookup.Found on, IntSet allowed) {
    Goal goal = goal(proof, on);
    if (proof.ever()) {
      return ahead.able(goal, user -> !allowed.contains(user));
    }
    IntSortedSet able = able(goal);
    able.removeAll(allowed);
    return able;
  }

  private IntSortedSet able(Goal goal) {
    IntSortedSet able = new IntAVLTreeSet();
    for (Holding row : holders.of(goal.node())) {
      if (goal.reachedBy(row)) {
        able.add(row.user());
      }
    }
    return able;
  }

  private Map<Integer, List<Rung>> waysOf(List<Integer> users, Proof proof, Lookup.Found on) {
    Map<Integer, List<Rung>> found = new LinkedHashMap<>();
    List<Goal> goals = ways(on, proof.privilege()).stream().map(way -> goal(proof, way)).toList();
    IntSet already = new IntOpenHashSet();
    goals.forEach(goal -> already.addAll(able(goal)));
    int shown = 0;
    for (int user : users) {
      if (already.contains(user)) {
        found.put(user, List.of());
      } else if (shown++ < WAYS) {
        for (Goal goal : goals) {
          List<Rung> rungs = ahead.ladder(goal, user);
          if (rungs != null) {
            found.putIfAbsent(user, rungs);
          }
        }
      }
    }
    return found;
  }

  /**
   * All who hold a principal.
   *
   * @param acting whether those are left out who may only give it to others
   */
  private void addBelow(int principal, boolean acting, IntOpenHashSet found) {
    Memberships memberships = access.memberships();
    IntArrayList open = IntArrayList.of(principal);
    found.add(principal);
    while (!open.isEmpty()) {
      for (int edge : memberships.membersOf().run(open.popInt())) {
        Membership how = memberships.options(edge);
        boolean holds = !acting || how.inherit() || how.set();
        if (holds && found.add(memberships.member(edge))) {
          open.add(memberships.member(edge));
        }
      }
    }
  }

  private boolean isSuperuser(int user) {
    boolean hosts = access.rules().has(HouseFact.ACCOUNTS_BY_HOST) && people.isUser(user);
    return access.isSuperuser(user) || hosts && access.rules().isOwn(access.bareName(user));
  }
}
