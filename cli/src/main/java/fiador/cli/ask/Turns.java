package fiador.cli.ask;

import fiador.cli.shell.Asking;
import fiador.files.ledger.Ledger;
import fiador.files.ledger.Ledger.Survey;
import fiador.files.ledger.Ledger.Turn;
import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import fiador.history.Concern;
import fiador.history.Touched;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.text.HistoryText.Moment;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** When a server was found to be something else, as its ledger knows it; the oldest first. */
public final class Turns {
  private final Ledger ledger;
  private final List<Turn> known;
  private final List<Turn> turns;

  private Turns(Ledger ledger, List<Turn> known, List<Turn> turns) {
    this.ledger = ledger;
    this.known = known;
    this.turns = turns;
  }

  /** Those of a server between two times, both included. */
  static Turns of(Ledger ledger, String server, Instant from, Instant to) throws IOException {
    List<Turn> known = ledger.turns(server);
    return new Turns(
        ledger,
        known,
        known.stream()
            .filter(turn -> !turn.first().taken().isBefore(from))
            .filter(turn -> !turn.first().taken().isAfter(to))
            .toList());
  }

  /** How often it changed. */
  long changes() {
    return turns.stream().filter(turn -> turn.last() != null).count();
  }

  /**
   * Those that may matter to what one user or role holds, and the first of all. Cost: what the
   * others were about, which is soon read; the surveys after those that may matter.
   *
   * @param things whether it matters, too, that things came and went
   */
  Turns concerning(String name, boolean things) throws SurveyException, IOException {
    Concern concern = new Concern(name);
    boolean looked = false;
    List<Turn> found = new ArrayList<>();
    for (int i = turns.size() - 1; i >= 0; i--) {
      Turn turn = turns.get(i);
      Touched touched = ledger.touched(turn);
      boolean matters = i == 0 || touched.all() || things && touched.things();
      if (!matters) {
        if (!looked) {
          concern.in(ledger.read(turn.first()));
        }
        looked = true;
        matters = concern.mayBe(touched);
      }
      if (matters) {
        found.add(0, turn);
        // before it they may have acted through others
        looked = false;
      }
    }
    return new Turns(ledger, known, found);
  }

  /** When something changed, and who did it as far as that is known. */
  public static Moment moment(Turn turn) {
    String by =
        turn.by().stream()
            .map(
                change ->
                    change.what()
                        + " by "
                        + change.by()
                        + (change.ended() == null ? ", not seen to its end" : ""))
            .distinct()
            .collect(Collectors.joining(", "));
    Instant last = turn.last() == null ? turn.first().taken() : turn.last().taken();
    return new Moment(last, turn.first().taken(), by);
  }

  /** What one of them was about. */
  Touched touched(Turn turn) throws SurveyException, IOException {
    return ledger.touched(turn);
  }

  /** Goes through the changes, reading each survey once. */
  void each(Visit visit) throws SurveyException, IOException {
    Access before = null;
    Survey known = null;
    for (Turn turn : turns) {
      if (turn.last() == null) {
        continue;
      }
      boolean same = known != null && known.state().equals(turn.last().state());
      Access earlier = same ? before : ledger.read(turn.last());
      before = ledger.read(turn.first());
      known = turn.first();
      visit.between(earlier, before, turn);
    }
  }

  @FunctionalInterface
  interface Visit {
    void between(Access earlier, Access later, Turn turn) throws SurveyException, IOException;
  }

  /** Goes through the states after the changes, the first one included. */
  void eachState(State visit) throws SurveyException, IOException {
    for (Turn turn : turns) {
      Instant last = turn.last() == null ? null : turn.last().taken();
      visit.found(ledger.read(turn.first()), last, moment(turn));
    }
  }

  @FunctionalInterface
  interface State {
    /**
     * What was found.
     *
     * @param last when it was last seen otherwise; null for never
     */
    void found(Access state, Instant last, Moment moment);
  }

  /**
   * Finds whom or what a question is about in the newest survey that knows it. Older ones are
   * looked at only where a change since then may be why newer ones do not know it.
   *
   * @param mayKnow whether the state before a change may know what the one after it does not
   */
  <T> T found(Predicate<Touched> mayKnow, Question<T> question) throws Refusal, IOException {
    BadInput newest = null;
    boolean looks = true;
    for (int i = known.size() - 1; i >= 0; i--) {
      Turn turn = known.get(i);
      try {
        if (looks) {
          return question.in(ledger.read(turn.first()));
        }
      } catch (BadInput unknown) {
        newest = newest == null ? unknown : newest;
      }
      looks = mayKnow.test(ledger.touched(turn));
    }
    throw newest;
  }

  /** The stored name of a user or role. */
  String person(String asked) throws Refusal, IOException {
    // a server may keep it in other letters, or as an account with its host
    String bare = asked.replaceFirst("@.*", "").toLowerCase(Locale.ROOT);
    return found(
        change ->
            change.all()
                || change.names().stream()
                    .anyMatch(name -> name.toLowerCase(Locale.ROOT).contains(bare)),
        access -> access.principals().name(Asking.principal(access, asked)));
  }

  @FunctionalInterface
  interface Question<T> {
    T in(Access access) throws BadInput;
  }
}
