package fiador.proofs;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.climb.Climb;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Reach;
import it.unimi.dsi.fastutil.ints.IntAVLTreeSet;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntSet;
import it.unimi.dsi.fastutil.ints.IntSortedSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.IntPredicate;

/**
 * Who could do something by their own means, however little they can now: by taking roles they may
 * give, by granting what they own or may grant on, by becoming somebody else or administrator.
 * Nobody else does anything for them.
 *
 * <p>Everybody who may give themselves something that leads to the goal is supposed to have done
 * so, all at once; that gives nobody anything they could not get, since who acts as somebody else
 * has their means too. Who then has the right but stands before a gate is looked at alone.
 */
final class Ahead {
  private final Access access;
  private final Clock clock;
  private final Climb climb;
  private final Holdings now;
  private Map<Integer, Climb.Ladder> administrators;

  /** On that server; the clock as for {@link Holdings}. */
  Ahead(Access access, Clock clock) {
    this.access = access;
    this.clock = clock;
    this.climb = new Climb(access);
    this.now = new Holdings(access, clock, true);
  }

  /**
   * The users who can now, or could. Cost: an outcome of what people could do for it, and the
   * holders after that; a ladder for each who stands before a gate.
   *
   * @param asked who is looked at
   */
  IntSortedSet able(Goal goal, IntPredicate asked) {
    OwnMeans means = new OwnMeans(access, goal);
    List<Rung> all = new ArrayList<>(means.rolesForThemselves());
    all.addAll(means.rightsForOwners());
    Access after = after(all, None.PRINCIPAL);
    List<Holding> rows = new Holders(after, clock).of(goal.node());
    IntSortedSet able = new IntAVLTreeSet();
    IntSortedSet doubtful = new IntAVLTreeSet();
    for (Holding row : rows) {
      boolean takes = (row.privilege().bit() & Moving.TAKES) != 0;
      if (goal.reachedBy(row)) {
        able.add(row.user());
      } else if (goal.meantBy(row) || takes) {
        doubtful.add(row.user());
      }
    }
    addTakers(after, able);
    able.addAll(administrators().keySet());
    able.removeIf(user -> !asked.test(user));
    doubtful.removeIf(user -> !asked.test(user) || able.contains(user));
    for (int user : hopeful(goal, means, doubtful)) {
      if (ladder(goal, means, user) != null) {
        able.add(user);
      }
    }
    return able;
  }

  /**
   * Those of some users who could, if all of them used all their means at once; which is more than
   * each of them can alone.
   */
  private IntSortedSet hopeful(Goal goal, OwnMeans means, IntSortedSet users) {
    Set<Step> steps = new LinkedHashSet<>();
    for (int user : users) {
      Climb.Result result = climb.of(user);
      List<List<Rung>> parts = parts(user, means, result);
      addForOthers(user, means, result, parts);
      steps.addAll(steps(flat(parts), user));
    }
    Access most = after(new ArrayList<>(steps));
    Moving moving = new Moving(most, clock, goal);
    IntSortedSet found = new IntAVLTreeSet();
    if (!steps.isEmpty()) {
      for (Holding row : new Holders(most, clock).of(goal.node())) {
        if (goal.reachedBy(row) && users.contains(row.user())) {
          found.add(row.user());
        }
      }
    }
    users.intStream().filter(user -> moving.schemaFor(user) >= 0).forEach(found::add);
    return found;
  }

  /** Who can go on as any user goes on as one who can. */
  private void addTakers(Access after, IntSortedSet able) {
    String taker = access.rules().waysUp().roleThatTakesAnyPlace();
    int role = taker == null ? -1 : access.principals().named(taker);
    if (role >= 0 && able.intStream().anyMatch(user -> !access.isSuperuser(user))) {
      for (int id : new Reach(after).below(role)) {
        if (access.principals().isUser(id)) {
          able.add(id);
        }
      }
    }
  }

  private Map<Integer, Climb.Ladder> administrators() {
    if (administrators == null) {
      administrators = climb.administrators(access.principals()::isUser);
    }
    return administrators;
  }

  /**
   * The shortest way found by which a user or role could; empty when it can now, null when there is
   * none.
   */
  List<Rung> ladder(Goal goal, int principal) {
    return ladder(goal, new OwnMeans(access, goal), principal);
  }

  private List<Rung> ladder(Goal goal, OwnMeans means, int principal) {
    if (goal.reachedBy(now.at(principal, goal.node()))) {
      return List.of();
    }
    Climb.Result result = climb.of(principal);
    List<List<Rung>> parts = parts(principal, means, result);
    List<Rung> found = shortest(goal, principal, parts);
    if (found == null && !parts.isEmpty()) {
      addForOthers(principal, means, result, parts);
      found = shortest(goal, principal, parts);
    }
    if (result.administrator() == null) {
      return found;
    }
    List<Rung> top = climbs(result.administrator().rungs());
    return found == null || top.size() < found.size() ? top : found;
  }

  /** What somebody can get and give itself, each with the rungs before. */
  private static List<List<Rung>> parts(int principal, OwnMeans means, Climb.Result result) {
    List<List<Rung>> parts = new ArrayList<>();
    means.ladders(result).forEach(ladder -> parts.add(climbs(ladder.rungs())));
    addGiven(principal, means, result, parts);
    return parts;
  }

  /** What it may give it gives to those it can act as too, so that it counts together there. */
  private static void addForOthers(
      int principal, OwnMeans means, Climb.Result result, List<List<Rung>> parts) {
    for (int other : result.acts().keySet()) {
      if (other != principal && other != Principals.PUBLIC && means.isSource(other)) {
        addGiven(other, means, result, parts);
      }
    }
  }

  /** What it may give to one of those it can act as, each with the rungs before. */
  private static void addGiven(
      int to, OwnMeans means, Climb.Result result, List<List<Rung>> parts) {
    IntSet acts = new IntOpenHashSet(result.acts().keySet());
    List<Rung> given = new ArrayList<>(means.rolesToGive(acts, to));
    given.addAll(means.rightsToGive(acts, to));
    for (Rung rung : given) {
      List<Rung> part = climbs(result.acts().get(rung.by()));
      part.add(rung);
      parts.add(part);
    }
  }

  private List<Rung> shortest(Goal goal, int principal, List<List<Rung>> parts) {
    if (!enough(goal, principal, parts)) {
      return null;
    }
    List<List<Rung>> few = Shrunk.of(parts, some -> enough(goal, principal, some));
    List<Rung> rungs = flat(few);
    Access after = after(rungs, principal);
    if (!goal.reachedBy(new Holdings(after, clock, true).at(principal, goal.node()))) {
      int schema = new Moving(after, clock, goal).schemaFor(principal);
      rungs.add(new Rung.Moves(principal, goal.node(), schema));
    }
    return rungs;
  }

  private boolean enough(Goal goal, int principal, List<List<Rung>> parts) {
    Access after = after(flat(parts), principal);
    return goal.reachedBy(new Holdings(after, clock, true).at(principal, goal.node()))
        || new Moving(after, clock, goal).schemaFor(principal) >= 0;
  }

  private static List<Rung> climbs(List<Climb.Rung> ladder) {
    List<Rung> rungs = new ArrayList<>();
    ladder.forEach(rung -> rungs.add(new Rung.Climbs(rung)));
    return rungs;
  }

  private static List<Rung> flat(List<List<Rung>> parts) {
    Set<Rung> rungs = new LinkedHashSet<>();
    parts.forEach(rungs::addAll);
    return new ArrayList<>(rungs);
  }

  private Access after(List<? extends Rung> rungs, int climber) {
    return after(steps(rungs, climber));
  }

  private Access after(List<Step> steps) {
    return steps.isEmpty() ? access : Outcome.of(access, steps).after();
  }

  /** What is done to the server. What somebody climbs to, the climber holds. */
  private List<Step> steps(List<? extends Rung> rungs, int climber) {
    List<Step> steps = new ArrayList<>();
    Principals people = access.principals();
    for (Rung rung : rungs) {
      if (rung instanceof Rung.Gives gives) {
        steps.add(give(gives.role(), gives.to()));
      } else if (rung instanceof Rung.Climbs climbs) {
        steps.add(give(climbs.rung().gained(), climber));
      } else if (rung instanceof Rung.Grants grants) {
        String to = people.name(grants.to());
        var on = Places.on(access.tree(), grants.node());
        steps.add(new Grant(grants.privileges(), on, List.of(), to, false));
      }
    }
    return steps;
  }

  private Step give(int role, int to) {
    Principals people = access.principals();
    Membership how = Membership.of(true, true, true);
    return new GiveRole(people.name(role), people.name(to), how, null, false);
  }
}
