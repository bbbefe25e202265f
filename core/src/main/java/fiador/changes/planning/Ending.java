package fiador.changes.planning;

import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.estate.Few;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BiConsumer;

/**
 * What a charter wanted for a time that is over, and is still there. It goes whether the charter
 * governs it or not: a sentence said that it would. What another sentence wants now stays.
 */
public final class Ending {
  private static final int NAMED = 4;
  private static final Duration SOON = Duration.ofDays(14);

  private Ending() {}

  /**
   * The steps that take it and do nothing else.
   *
   * @param untouchable as for {@link Planner}
   */
  public static Plan plan(Access surveyed, Wanted atAnyTime, Set<String> untouchable, Clock clock) {
    Instant now = clock.instant();
    Wanted wanted = atAnyTime.at(now);
    Wanted ended = atAnyTime.endedBy(now);
    Governed nothing = new Governed(surveyed, Wanted.Governs.NOTHING, untouchable);
    Map<Integer, ShownSafely> safe = SightPlanner.standing(surveyed);
    Set<Integer> views = new LinkedHashSet<>();
    safe.values().forEach(shown -> views.add(shown.view()));
    Map<String, List<String>> accounts = StoredName.accounts(wanted, surveyed);
    Demands demands = new Demands(surveyed, wanted.sight().labels(), safe, views);
    wanted.grants().forEach(grant -> demands.add(grant, accounts));
    // what else the charter lacks on the server is not the matter here
    Set<Step> lacking = new LinkedHashSet<>();
    Set<Step> take = new LinkedHashSet<>();
    Set<String> unsaid = new LinkedHashSet<>();
    new MembershipDifference(surveyed, nothing, take, take, unsaid).end(wanted, ended, accounts);
    new GrantDifference(surveyed, nothing, lacking, take, unsaid)
        .compare(demands, demands(surveyed, ended, safe, views, accounts));
    new Resting(surveyed).takeOver(take, new LinkedHashSet<>());
    lock(surveyed, wanted, nothing, accounts, now, take);
    Set<String> notes = new LinkedHashSet<>();
    if (!take.isEmpty()) {
      // a timer that found nothing to do has nothing to say
      tell(ended, now, notes);
    }
    return new Plan(List.copyOf(take), demands.problems(), List.copyOf(notes));
  }

  /** The accounts whose time is over on servers that do not end them. */
  private static void lock(
      Access access,
      Wanted wanted,
      Governed governed,
      Map<String, List<String>> accounts,
      Instant now,
      Set<Step> take) {
    boolean locks = access.rules().has(HouseFact.LOCKS_ACCOUNTS);
    if (!locks || access.rules().has(HouseFact.ENDS_ACCOUNTS)) {
      return;
    }
    for (Wanted.Principal user : wanted.users()) {
      for (String name : user.login().isOver(now) ? accounts.get(user.name()) : List.<String>of()) {
        int id = access.principals().named(name);
        if (id >= 0
            && governed.canEnd(id)
            && access.principals().isUser(id)
            && !access.principals().account(id).disabled()) {
          take.add(new LetLogIn(name, false));
        }
      }
    }
  }

  /**
   * What ended sentences come to on the server. What they gave before a table was shown safely is
   * on the table itself, and since then on its view: both are meant. Things that are no longer
   * there are nobody's any more.
   */
  static Demands demands(
      Access access,
      Wanted ended,
      Map<Integer, ShownSafely> safe,
      Set<Integer> safeViews,
      Map<String, List<String>> accounts) {
    Map<String, List<WantedSight.Labelled>> labels = ended.sight().labels();
    Demands direct = new Demands(access, labels, Map.of(), safeViews);
    ended.grants().forEach(grant -> direct.add(grant, accounts));
    if (!safe.isEmpty()) {
      Demands shown = new Demands(access, labels, safe, safeViews);
      ended.grants().forEach(grant -> shown.add(grant, accounts));
      direct.join(shown);
    }
    return direct;
  }

  /** Adds what has ended, what ends soon and what has not begun, one note each. */
  static void tell(Wanted atAnyTime, Instant now, Collection<String> notes) {
    TreeMap<Instant, Set<String>> over = new TreeMap<>();
    TreeMap<Instant, Set<String>> soon = new TreeMap<>();
    TreeMap<Instant, Set<String>> ahead = new TreeMap<>();
    each(
        atAnyTime,
        (when, what) -> {
          Instant until = when.until();
          if (when.isAhead(now)) {
            note(ahead, when.from(), what + " from " + Period.startText(when.from()));
          } else if (until != null && when.isOver(now)) {
            note(over, until, what + ", until " + Period.endText(until));
          } else if (until != null && until.isBefore(now.plus(SOON))) {
            note(soon, until, what + " on " + Period.endText(until));
          }
        });
    tell("its time is over: ", over.descendingMap().values(), notes);
    tell("ends within " + SOON.toDays() + " days: ", soon.values(), notes);
    tell("not begun yet: ", ahead.values(), notes);
  }

  private static void note(Map<Instant, Set<String>> into, Instant when, String what) {
    into.computeIfAbsent(when, fresh -> new LinkedHashSet<>()).add(what);
  }

  private static void tell(String what, Collection<Set<String>> said, Collection<String> notes) {
    List<String> all = said.stream().flatMap(Set::stream).toList();
    if (!all.isEmpty()) {
      notes.add(what + Few.of(all, NAMED));
    }
  }

  private static void each(Wanted wanted, BiConsumer<Period, String> said) {
    for (Wanted.Member one : wanted.memberships()) {
      said.accept(one.when(), one.role() + " of " + one.member());
    }
    for (Wanted.Grant one : wanted.grants()) {
      said.accept(one.when(), one.text() + " to " + one.grantee());
    }
    for (Wanted.Principal user : wanted.users()) {
      said.accept(new Period(null, user.login().until()), "the account of " + user.name());
    }
  }
}
