package fiador.changes.ordering;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.SightEffects;
import fiador.changes.outcome.SightEffects.Eyes;
import fiador.changes.outcome.SightEffects.Look;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.Guard;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Keeps rows and values hidden while a change is on its way, on servers where every step counts at
 * once. What somebody sees hangs on policies, on what is known of them, and on their roles; in
 * between some of that is old and some new, and they may see what they see neither before nor
 * after. Then the table shows nobody any row from the first step to the last one, by a view that is
 * closed meanwhile. Cost: the looks of all readers at all tables with policies, after each step;
 * with more than {@value #LOOKED_AT} steps every table that is seen otherwise is closed unlooked
 * at.
 */
public final class SightOrder {
  private static final int LOOKED_AT = 400;

  private final Access before;
  private final List<Step> steps;
  private final Clock clock;
  private final Map<Integer, Map<Integer, Look>> was = new HashMap<>();
  private final Map<Integer, Map<Integer, Look>> is = new HashMap<>();

  /**
   * An order.
   *
   * @param steps the steps
   * @param closed the tables that are closed meanwhile
   */
  public record Result(List<Step> steps, Set<Integer> closed) {}

  private SightOrder(Access before, List<Step> steps, Clock clock) {
    this.before = before;
    this.steps = steps;
    this.clock = clock;
  }

  /** The steps with those that close and open tables. */
  public static Result of(Access before, List<Step> steps, Clock clock) {
    Access after = Outcome.of(before, steps).after();
    Set<Integer> tables = SightEffects.tables(before, after);
    if (tables.isEmpty()) {
      return new Result(steps, Set.of());
    }
    SightOrder order = new SightOrder(before, steps, clock);
    Eyes then = new Eyes(before, clock);
    Eyes now = new Eyes(after, clock);
    for (int table : tables) {
      order.was.put(table, then.of(table));
      order.is.put(table, now.of(table));
    }
    Set<Integer> closed = order.exposed(tables);
    List<Step> all = steps;
    for (int table : closed) {
      all = order.closing(all, table);
    }
    return new Result(guardsLast(all), closed);
  }

  /** A guarded schema that goes has to be there until the last view is opened or dropped. */
  private static List<Step> guardsLast(List<Step> steps) {
    List<Step> ordered = new ArrayList<>(steps);
    ordered.removeIf(SightOrder::endsGuard);
    steps.stream().filter(SightOrder::endsGuard).forEach(ordered::add);
    return ordered;
  }

  private static boolean endsGuard(Step step) {
    return step instanceof Guard guard && !guard.make();
  }

  /** The tables of which somebody would see too much on the way. */
  private Set<Integer> exposed(Set<Integer> tables) {
    Set<Integer> found = new TreeSet<>();
    if (steps.size() > LOOKED_AT) {
      tables.stream().filter(each -> !was.get(each).equals(is.get(each))).forEach(found::add);
      return found;
    }
    for (int done = 1; done < steps.size() && found.size() < tables.size(); done++) {
      if (!matters(steps.get(done - 1))) {
        continue;
      }
      Eyes eyes = new Eyes(Outcome.of(before, steps.subList(0, done)).after(), clock);
      for (int table : tables) {
        if (!found.contains(table) && exposes(table, eyes.of(table))) {
          found.add(table);
        }
      }
    }
    return found;
  }

  private static boolean matters(Step step) {
    return !(step instanceof CreateRole
        || step instanceof CreateUser
        || step instanceof Guard
        || step instanceof LimitInTime
        || step instanceof LimitAccount);
  }

  private boolean exposes(int table, Map<Integer, Look> looks) {
    for (Map.Entry<Integer, Look> each : looks.entrySet()) {
      Look look = each.getValue();
      boolean same =
          look.equals(was.get(table).get(each.getKey()))
              || look.equals(is.get(table).get(each.getKey()));
      if (!look.isNothing() && !same) {
        return true;
      }
    }
    return false;
  }

  /** The steps with the table's views closed from the first to the last. */
  private List<Step> closing(List<Step> all, int table) {
    On on = Places.on(before.tree(), table);
    List<Step> closed = new ArrayList<>();
    Map<On, ShowSafely> views = new LinkedHashMap<>();
    for (Step step : all) {
      boolean ours = step instanceof ShowSafely show && show.either().table().equals(on);
      if (!ours) {
        closed.add(step);
        continue;
      }
      ShowSafely show = (ShowSafely) step;
      views.put(show.either().view(), show);
      if (show.before() == null) {
        closed.add(new ShowSafely(null, show.after().closed()));
      }
    }
    SafeView kept = views.isEmpty() ? SafeView.kept(before, table) : null;
    if (kept != null) {
      views.put(kept.view(), new ShowSafely(kept, kept));
    }
    for (ShowSafely show : views.values()) {
      if (show.before() != null) {
        closed.add(0, new ShowSafely(show.before(), show.before().closed()));
      }
      // its name is free before the table gets it back
      int at = show.after() == null ? backAgain(closed, on) : closed.size();
      closed.add(at, new ShowSafely(show.either().closed(), show.after()));
    }
    return closed;
  }

  private static int backAgain(List<Step> steps, On table) {
    for (int i = 0; i < steps.size(); i++) {
      if (steps.get(i) instanceof MoveTable move && !move.aside() && move.from().equals(table)) {
        return i;
      }
    }
    return steps.size();
  }
}
