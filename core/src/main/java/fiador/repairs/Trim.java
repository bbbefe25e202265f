package fiador.repairs;

import fiador.changes.Gap;
import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.Turned;
import fiador.changes.steps.Step;
import fiador.estate.Principals;
import fiador.evidence.Evidence;
import fiador.findings.Findings;
import fiador.findings.check.Expected;
import fiador.findings.check.Facts;
import fiador.findings.check.Phrase;
import fiador.grants.Access;
import fiador.grants.Reach;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/**
 * Which grants and memberships can go: redundant ones, which change nothing for anybody; and, where
 * it was watched what people use, those that nobody needed. Whatever was used works as well
 * afterwards, and nobody gains anything; both are checked on the outcome before it is told. Cost:
 * the redundancy checks of all grants, the uses times the role closures of their users, and the
 * effects of what is proposed.
 */
public final class Trim {
  /** Why something can go. */
  public enum Why {
    /** The same comes by another way. */
    IN_EXCESS,
    /** Nothing that comes over it was used. */
    UNUSED,
    /** Only part of what comes over it was used, and a smaller role has that part. */
    TOO_BROAD
  }

  /**
   * Something that can go.
   *
   * @param principal who loses it
   * @param said what it is
   * @param steps what takes it, and gives a smaller thing in its place
   * @param risk how much goes with it at most: things times users below, what writes or may be
   *     granted on counting more
   */
  public record Cut(Why why, int principal, Phrase said, List<Step> steps, long risk) {}

  /**
   * What can go.
   *
   * @param cuts the one that removes the most risk first
   * @param gap all of them together, with what people lose
   * @param kept uses that were looked after
   * @param notHeld uses of what their users do not hold: refused, or held no more
   */
  public record Result(List<Cut> cuts, Gap gap, int kept, int notHeld) {}

  private Trim() {}

  /** Looks for cuts; parameters as for {@link Findings#of}. */
  public static Result of(Access access, Clock clock, Expected expected, Evidence evidence) {
    Facts facts = new Facts(access, clock, expected, evidence, null);
    // what was thought of piece by piece is looked at as a whole; what would hurt stays
    List<Cut> cuts = harmless(access, new Excess(facts).cuts(), null, clock);
    Needs needs = evidence == null ? null : new Needs(facts);
    if (needs != null) {
      Access without = Outcome.of(access, steps(cuts)).after();
      Facts then = new Facts(without, clock, expected, evidence, null);
      cuts.addAll(new Unused(then, new Needs(then)).cuts());
      cuts.sort(Comparator.comparingLong(Cut::risk).reversed());
      cuts = harmless(access, cuts, needs, clock);
    }
    Gap gap = Gap.of(access, steps(cuts), clock);
    int kept = needs == null ? 0 : needs.count();
    return new Result(List.copyOf(cuts), gap, kept, needs == null ? 0 : needs.notHeld());
  }

  /**
   * As many of the cuts as go together without harm, those first that come first. All are tried
   * together; where that hurts, those without which nobody who was hurt could be, and then the
   * others, by halves down to the cuts that hurt. Cost: the effects of all, a few times.
   */
  private static List<Cut> harmless(Access access, List<Cut> proposed, Needs needs, Clock clock) {
    Set<Integer> hurt = hurt(access, proposed, needs, clock);
    if (hurt.isEmpty()) {
      return new ArrayList<>(proposed);
    }
    Reach reach = new Reach(access);
    Predicate<Cut> suspect =
        cut ->
            cut.principal() == Principals.PUBLIC
                || hurt.stream().anyMatch(user -> reach.holds(user, cut.principal()));
    List<Cut> cuts = new ArrayList<>();
    add(access, proposed.stream().filter(suspect.negate()).toList(), cuts, needs, clock);
    add(access, proposed.stream().filter(suspect).toList(), cuts, needs, clock);
    IdentityHashMap<Cut, Integer> place = new IdentityHashMap<>();
    proposed.forEach(cut -> place.put(cut, place.size()));
    cuts.sort(Comparator.comparingInt(place::get));
    return cuts;
  }

  private static void add(Access access, List<Cut> more, List<Cut> cuts, Needs needs, Clock clock) {
    if (more.isEmpty()) {
      return;
    }
    List<Cut> together = new ArrayList<>(cuts);
    together.addAll(more);
    if (hurt(access, together, needs, clock).isEmpty()) {
      cuts.addAll(more);
    } else if (more.size() > 1) {
      int half = more.size() / 2;
      add(access, more.subList(0, half), cuts, needs, clock);
      add(access, more.subList(half, more.size()), cuts, needs, clock);
    }
  }

  /** Who would gain something, or lose what they need: without knowing what is needed, anything. */
  private static Set<Integer> hurt(Access access, List<Cut> cuts, Needs needs, Clock clock) {
    Outcome.Result outcome = Outcome.of(access, steps(cuts));
    Set<Integer> users = new HashSet<>();
    if (needs == null) {
      PeopleEffects.of(access, outcome, clock).stream()
          .filter(change -> change.isGain() || change.isLoss())
          .forEach(change -> users.add(change.user()));
      return users;
    }
    PeopleEffects.gains(access, outcome, clock).forEach(change -> users.add(change.user()));
    users.addAll(needs.losers(outcome.after(), Turned.of(access, outcome)));
    return users;
  }

  private static List<Step> steps(List<Cut> cuts) {
    List<Step> steps = new ArrayList<>();
    cuts.forEach(cut -> steps.addAll(cut.steps()));
    return steps.stream().distinct().toList();
  }
}
