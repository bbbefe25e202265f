package fiador.repairs;

import fiador.changes.Gap;
import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.planning.Taking;
import fiador.changes.steps.Deny;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import fiador.repairs.SeverGraph.Removal;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Takes a privilege away from a user with the least damage: the lightest set of memberships and
 * grants without which nothing gives it any more, by a minimum cut (see {@link SeverGraph} for the
 * weights), and what each such set really does to everybody; where a kind of server has denials,
 * one to the user alone is a way too. Cost: the user's role closure and the members below it, and
 * the effects of each alternative.
 */
public final class Sever {
  private static final int ALTERNATIVES = 3;
  private static final int ROUNDS = 5;
  private static final int DEEPEST = 20;

  private final Access access;
  private final Clock clock;

  /** On that server. */
  public Sever(Access access, Clock clock) {
    this.access = access;
    this.clock = clock;
  }

  /**
   * One way to do it.
   *
   * @param gap the steps, and what they do to people; the wish itself is among the effects
   * @param others how many other users lose something
   * @param lostByOthers how many holdings those lose together
   * @param lostBesides how many holdings the user loses besides the one that was meant
   */
  public record Way(Gap gap, int others, int lostByOthers, int lostBesides) {
    /** Whether it denies something instead of taking it. */
    public boolean denies() {
      return gap.plan().steps().stream().anyMatch(Deny.class::isInstance);
    }

    /** What it costs, in the weights of {@link SeverGraph}. */
    long damage() {
      return (long) SeverGraph.OTHERS * lostByOthers + lostBesides;
    }
  }

  /**
   * What can be done.
   *
   * @param held whether the user holds it at all
   * @param ways the possible ways, the one with the least damage first; empty when there is none
   * @param inTheWay what no revocation takes away: a power, or who owns it; empty when there are
   *     ways
   */
  public record Result(boolean held, List<Way> ways, List<Firm> inTheWay) {}

  /**
   * What no revocation takes away.
   *
   * @param principal who has it: the user or a role it holds
   * @param power the power, or null for an owner
   * @param node what is owned, or -1
   */
  public record Firm(int principal, Power power, int node) {}

  /**
   * Looks for ways.
   *
   * @param column the ordinal of a column, or -1 for all of the object
   */
  public Result of(int user, Privilege privilege, int node, int column) {
    if (!holds(access, user, privilege, node, column)) {
      return new Result(false, List.of(), List.of());
    }
    SeverGraph graph = new SeverGraph(access, user, privilege, node, column);
    List<Removal> best = graph.cut(List.of());
    List<Way> ways = new ArrayList<>();
    Way denial = denial(user, privilege, node, column);
    if (denial != null) {
      ways.add(denial);
    }
    if (best == null) {
      return new Result(true, ways, ways.isEmpty() ? graph.firm() : List.of());
    }
    Set<List<Removal>> cuts = new LinkedHashSet<>();
    cuts.add(best);
    for (Removal kept : best) {
      List<Removal> other = cuts.size() < ALTERNATIVES ? graph.cut(List.of(kept)) : null;
      if (other != null) {
        cuts.add(other);
      }
    }
    for (List<Removal> cut : cuts) {
      Way way = way(cut, user, privilege, node, column);
      if (way != null) {
        ways.add(way);
      }
    }
    ways.sort(
        // what was given too much is better taken than hidden
        java.util.Comparator.comparingLong(Way::damage)
            .thenComparing(Way::denies)
            .thenComparingInt(way -> way.gap().plan().steps().size()));
    return new Result(true, ways, ways.isEmpty() ? graph.firm() : List.of());
  }

  /** Denying it the user alone; null where that cannot be done, or does not help. */
  private @Nullable Way denial(int user, Privilege privilege, int node, int column) {
    if (!access.rules().has(HouseFact.DENIALS)
        || !works(access, user, privilege, node, column)
        || (access.rules().privilegesOn(access.tree().kind(node)) & privilege.bit()) == 0) {
      return null;
    }
    List<String> columns = column < 0 ? List.of() : List.of(access.tree().column(node, column));
    String who = access.principals().name(user);
    Step deny = new Deny(privilege.bit(), Places.on(access.tree(), node), columns, who, false);
    Gap gap = Gap.of(access, List.of(deny), clock);
    boolean widens = gap.effects().stream().anyMatch(Change::isGain);
    boolean held = works(gap.outcome().after(), user, privilege, node, column);
    return widens || held ? null : judged(gap, user, privilege, node, column);
  }

  private boolean works(Access on, int user, Privilege privilege, int node, int column) {
    return new Holdings(on, clock, true)
        .at(user, node).stream()
            .filter(row -> row.state() == State.LIVE || row.state() == State.ON_REQUEST)
            .filter(row -> row.privilege() == privilege)
            .anyMatch(row -> row.columns() == null || column < 0 || row.columns().get(column));
  }

  /** Carries a cut out on paper; null when even so something gives the privilege. */
  private Way way(List<Removal> cut, int user, Privilege privilege, int node, int column) {
    List<Step> steps = new ArrayList<>();
    List<Removal> next = cut;
    Access now = access;
    // where rows compete, one that goes can make room for another
    for (int round = 0; round < ROUNDS; round++) {
      Taking taking = new Taking(now);
      for (Removal removal : next) {
        if (!take(taking, removal, privilege, column, steps, 0)) {
          return null;
        }
      }
      Gap gap = Gap.of(access, steps, clock);
      now = gap.outcome().after();
      if (!holds(now, user, privilege, node, column)) {
        gap = withoutNeedless(gap, cut.size(), user, privilege, node, column);
        // what goes may have held something else back: a denial, or a better row for a worse one
        boolean widens = gap.effects().stream().anyMatch(Change::isGain);
        return widens ? null : judged(gap, user, privilege, node, column);
      }
      // further rows are known by their numbers in the estate as it was
      next = new SeverGraph(now, user, privilege, node, column).cut(List.of());
      if (next == null) {
        return null;
      }
    }
    return null;
  }

  /** Adds the step that takes something, after those that take what rests on it. */
  private static boolean take(
      Taking taking,
      Removal removal,
      Privilege privilege,
      int column,
      List<Step> steps,
      int depth) {
    if (depth > DEEPEST) {
      return false;
    }
    boolean grant = removal.isGrant();
    for (int resting :
        grant
            ? taking.restingOn(removal.id(), privilege.bit())
            : taking.membershipsRestingOn(removal.id())) {
      if (!take(taking, new Removal(grant, resting), privilege, column, steps, depth + 1)) {
        return false;
      }
    }
    Step step =
        grant ? taking.revoke(removal.id(), privilege.bit(), column) : taking.leave(removal.id());
    if (step != null && !steps.contains(step)) {
      steps.add(step);
    }
    return step != null;
  }

  /**
   * Leaves out steps that others make needless: what goes from a whole may go from its columns.
   * Where something had to go because it rests on something else, all stay.
   */
  private Gap withoutNeedless(
      Gap gap, int removals, int user, Privilege privilege, int node, int column) {
    List<Step> needed = new ArrayList<>(gap.plan().steps());
    for (Step step : needed.size() > removals ? List.<Step>of() : gap.plan().steps()) {
      List<Step> fewer = new ArrayList<>(needed);
      fewer.remove(step);
      Access after = Outcome.of(access, fewer).after();
      if (fewer.size() > 0 && !holds(after, user, privilege, node, column)) {
        needed = fewer;
      }
    }
    return needed.size() == gap.plan().steps().size() ? gap : Gap.of(access, needed, clock);
  }

  private Way judged(Gap gap, int user, Privilege privilege, int node, int column) {
    Set<Integer> others = new LinkedHashSet<>();
    int lostByOthers = 0;
    int lostBesides = 0;
    for (Change change : gap.effects()) {
      boolean meant =
          change.user() == user
              && change.node() == node
              && change.privilege() == privilege
              && (column < 0 || change.columns() != null && change.columns().get(column));
      if (change.isLoss() && !meant) {
        if (change.user() == user) {
          lostBesides++;
        } else {
          lostByOthers++;
          others.add(change.user());
        }
      }
    }
    return new Way(gap, others.size(), lostByOthers, lostBesides);
  }

  private boolean holds(Access on, int user, Privilege privilege, int node, int column) {
    for (Holding row : new Holdings(on, clock, true).at(user, node)) {
      boolean there = row.columns() == null || column < 0 || row.columns().get(column);
      if (row.privilege() == privilege && there) {
        return true;
      }
    }
    return false;
  }
}
