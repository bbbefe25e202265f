package fiador.reviews;

import fiador.changes.Gap;
import fiador.changes.planning.Taking;
import fiador.changes.steps.Step;
import fiador.estate.Principals;
import fiador.findings.check.Phrase;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.Reach;
import fiador.reviews.Drafting.Draft;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * What has to be taken away when a review is closed. A role goes only where all that it gives the
 * person was revoked; where it gives more, that is left to the administrator unless they chose, so
 * that nobody loses what nobody decided on.
 */
public final class Revocations {
  /** What is done with a role that gives more than was revoked. */
  public enum Broader {
    /** It stays; the administrator is told. */
    LEAVE,
    /** It is taken, and the roles it holds that give exactly the rest are given instead. */
    SMALLER,
    /** It is taken with all that it gives. */
    WHOLE
  }

  /** A revocation that has to be done by hand. */
  public record Left(Line line, Phrase why) {}

  /**
   * What came out.
   *
   * @param gap the steps and what they do to people
   * @param left revocations that no step was made for
   */
  public record Result(Gap gap, List<Left> left) {}

  private final Review review;
  private final Access access;
  private final Drafting drafting;
  private final Broader broader;
  private final Taking taking;
  private final Reach reach;
  private final List<Draft> all;
  private final Set<Step> steps = new LinkedHashSet<>();
  private final List<Left> left = new ArrayList<>();
  private final Map<Held, List<Line>> linesOf = new LinkedHashMap<>();
  private final Map<Held, List<Step>> stepsOf = new HashMap<>();
  private final Set<Held> instead = new HashSet<>();

  private record Held(int user, int role) {}

  private Revocations(Review review, Access access, Drafting drafting, Broader broader) {
    this.review = review;
    this.access = access;
    this.drafting = drafting;
    this.broader = broader;
    this.taking = new Taking(access);
    this.reach = new Reach(access);
    this.all = drafting.drafts();
  }

  /**
   * Works them out.
   *
   * @param drafting of the same survey without any limits of scope, so that it is known what else a
   *     role gives
   */
  public static Result of(
      Review review, Access access, Drafting drafting, Broader broader, Clock clock) {
    return new Revocations(review, access, drafting, broader).find(clock);
  }

  private Result find(Clock clock) {
    Map<Entitlement, Draft> today = new HashMap<>();
    all.forEach(draft -> today.put(draft.about(), draft));
    for (Line line : review.lines()) {
      if (isRevoked(line)) {
        Draft draft = today.get(line.about());
        if (draft == null) {
          left(line, "it is gone already");
        } else {
          take(line, draft);
        }
      }
    }
    // a role that was revoked may be what is left of a larger one that was only partly revoked
    linesOf.forEach(
        (held, lines) -> {
          if (instead.contains(held)) {
            steps.removeAll(stepsOf.get(held));
            lines.forEach(line -> left(line, "it stays, in place of a larger role that was taken"));
          }
        });
    return new Result(Gap.of(access, List.copyOf(steps), clock), List.copyOf(left));
  }

  private boolean isRevoked(Line line) {
    Decision decision = review.decision(line.key());
    return decision != null && decision.answer() == Answer.REVOKE;
  }

  private void take(Line line, Draft draft) {
    if (reach.below(draft.user()).size() > 1 && draft.user() != Principals.PUBLIC) {
      left(line, "others hold this account as if it were a role, and would lose it too");
      return;
    }
    switch (line.about().means()) {
      case ROLE -> role(line, draft);
      case GRANT -> grants(line, draft);
      case OWNER -> left(line, "what is owned needs another owner first");
      case POWER -> left(line, "a power is taken with the account's own statement");
      case EVERYBODY -> left(line, "it concerns everybody, not one person");
    }
  }

  private void role(Line line, Draft draft) {
    Set<String> revoked = new TreeSet<>();
    for (Line other : review.lines()) {
      boolean same =
          other.about().user().equals(line.about().user())
              && other.about().means() == Means.ROLE
              && other.about().through().equals(line.about().through());
      if (same && isRevoked(other)) {
        revoked.add(other.about().area());
      }
    }
    Set<Integer> areas = new TreeSet<>();
    Set<String> rest = new TreeSet<>();
    for (Draft other : all) {
      boolean same = other.user() == draft.user() && other.role() == draft.role();
      if (same && !revoked.contains(other.about().area())) {
        areas.add(other.area());
        rest.addAll(other.facts());
      }
    }
    rest.remove(Drafting.MAY_GIVE_ON);
    if (rest.isEmpty() || broader == Broader.WHOLE) {
      leave(line, draft, List.of());
      return;
    }
    List<Integer> smaller = smaller(draft, rest);
    if (broader == Broader.SMALLER && !smaller.isEmpty()) {
      leave(line, draft, smaller);
      return;
    }
    Phrase why = Phrase.of("the role gives more than was revoked, in ");
    String between = "";
    for (int area : areas) {
      why.say(between).where(area);
      between = ", ";
    }
    if (smaller.isEmpty()) {
      why.say("; no roles in it give just the rest: make one, or close with --whole");
    } else {
      why.say("; close with --smaller to give ").whoOf(smaller).say(" instead, or --whole");
    }
    left.add(new Left(line, why));
  }

  private void left(Line line, String why) {
    left.add(new Left(line, Phrase.of(why)));
  }

  /**
   * The nearest roles that a role holds and that together give exactly that, no more; empty where
   * there are none.
   */
  private List<Integer> smaller(Draft draft, Set<String> rest) {
    List<Integer> chosen = new ArrayList<>();
    Set<String> covered = new TreeSet<>();
    for (int role : reach.up(draft.role())) {
      Set<String> gives = role == draft.role() ? Set.of() : drafting.factsOf(role);
      if (!gives.isEmpty() && rest.containsAll(gives) && covered.addAll(gives)) {
        chosen.add(role);
      }
    }
    return covered.equals(rest) ? chosen : List.of();
  }

  private void leave(Line line, Draft draft, List<Integer> smaller) {
    Memberships memberships = access.memberships();
    List<Step> leaving = new ArrayList<>();
    Set<Integer> held = new HashSet<>();
    Membership as = Membership.PLAIN;
    for (int edge : memberships.rolesOf().run(draft.user())) {
      held.add(memberships.role(edge));
      if (memberships.role(edge) == draft.role()) {
        Step step = taking.membershipsRestingOn(edge).isEmpty() ? taking.leave(edge) : null;
        if (step == null) {
          left(line, "others have the role from this person; take it from them first");
          return;
        }
        as = memberships.options(edge);
        leaving.add(step);
      }
    }
    for (int role : smaller) {
      instead.add(new Held(draft.user(), role));
      if (!held.contains(role)) {
        steps.add(taking.giveInstead(access.principals().name(role), draft.user(), as));
      }
    }
    steps.addAll(leaving);
    Held pair = new Held(draft.user(), draft.role());
    linesOf.computeIfAbsent(pair, fresh -> new ArrayList<>()).add(line);
    stepsOf.put(pair, leaving);
  }

  private void grants(Line line, Draft draft) {
    List<Step> taken = new ArrayList<>();
    for (int row : access.grants().byGrantee().run(draft.user())) {
      int node = access.grants().node(row);
      boolean here = Entitlement.area(access, node) == draft.area();
      // the scope may have been narrower than the schema
      boolean asked = drafting.factsOfGrant(row).stream().anyMatch(line.facts()::contains);
      if (here && asked) {
        long bits = access.grants().terms(row).privileges();
        boolean rests = !taking.restingOn(row, bits).isEmpty();
        Step step = rests ? null : taking.revoke(row, bits);
        if (step == null) {
          left(
              line,
              rests
                  ? "others have it from this person; take it from them first"
                  : "no statement takes it from this person alone");
          return;
        }
        taken.add(step);
      }
    }
    steps.addAll(taken);
  }
}
