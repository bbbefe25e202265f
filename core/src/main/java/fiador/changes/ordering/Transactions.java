package fiador.changes.ordering;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.Step;
import fiador.changes.steps.Turn;
import fiador.grants.Access;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Which steps a server carries out together, where each of its databases has transactions of its
 * own. What concerns the whole server joins one of them; so with one database everything happens at
 * once, and with several nobody meanwhile holds what they hold neither before nor after.
 */
public final class Transactions {
  private Transactions() {}

  /**
   * Steps of one transaction.
   *
   * @param database where to carry them out; null for anywhere on the server
   */
  public record Part(String database, List<Step> steps) {}

  /**
   * The transactions of steps, in their order: one for each run of steps of one database. Nobody is
   * dropped before the end, because another database may still have grants to them.
   */
  public static List<Part> of(List<Step> steps) {
    List<Part> parts = new ArrayList<>();
    List<Step> drops = new ArrayList<>();
    String database = null;
    List<Step> together = new ArrayList<>();
    for (Step step : steps) {
      String own = step.about().database();
      if (isDrop(step)) {
        drops.add(step);
        continue;
      }
      if (own != null && database != null && !own.equals(database)) {
        parts.add(new Part(database, together));
        together = new ArrayList<>();
      }
      database = own == null ? database : own;
      together.add(step);
    }
    together.addAll(drops);
    parts.add(new Part(database, together));
    return parts;
  }

  private static boolean isDrop(Step step) {
    return step.about().turn() == Turn.DROPS && !(step instanceof SightStep);
  }

  /**
   * The steps database by database, with what concerns the whole server first. Where that would let
   * somebody hold too much between two transactions, memberships and logins are given last: until
   * then nobody has roles that they have not before and after, which leaves them in each database
   * no more than they hold there at one of the ends. Cost: the effects of each transaction but the
   * last.
   *
   * @param effects what all of them together do
   */
  public static List<Step> ordered(
      Access before, List<Step> steps, List<Change> effects, Clock clock) {
    Map<String, List<Step>> byDatabase = new LinkedHashMap<>();
    List<Step> whole = new ArrayList<>();
    List<Step> drops = new ArrayList<>();
    for (Step step : steps) {
      String database = step.about().database();
      if (isDrop(step)) {
        drops.add(step);
      } else if (database == null) {
        whole.add(step);
      } else {
        byDatabase.computeIfAbsent(database, none -> new ArrayList<>()).add(step);
      }
    }
    List<Step> giving = new ArrayList<>();
    List<Step> first = new ArrayList<>();
    for (Step step : whole) {
      boolean gives = step.about().turn() == Turn.GIVES;
      (gives ? giving : first).add(step);
    }
    List<Step> plain = new ArrayList<>(whole);
    byDatabase.values().forEach(plain::addAll);
    plain.addAll(drops);
    if (byDatabase.size() < 2 || giving.isEmpty() || !widens(before, plain, effects, clock)) {
      return plain;
    }
    List<Step> later = new ArrayList<>(first);
    byDatabase.values().forEach(later::addAll);
    later.addAll(giving);
    later.addAll(drops);
    return later;
  }

  /** Whether somebody between two transactions holds what they hold at neither end. */
  private static boolean widens(
      Access before, List<Step> steps, List<Change> effects, Clock clock) {
    Set<Object> lasting = new LinkedHashSet<>();
    effects.stream().filter(Change::isGain).map(Transactions::gain).forEach(lasting::add);
    List<Step> done = new ArrayList<>();
    List<Part> parts = of(steps);
    for (Part part : parts.subList(0, parts.size() - 1)) {
      done.addAll(part.steps());
      List<Change> gains = PeopleEffects.gains(before, Outcome.of(before, done), clock);
      if (gains.stream().anyMatch(gain -> !lasting.contains(gain(gain)))) {
        return true;
      }
    }
    return false;
  }

  private static Object gain(Change change) {
    return java.util.Arrays.asList(
        change.user(), change.privilege(), change.node(), change.columns());
  }
}
