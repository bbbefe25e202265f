package fiador.cli.review;

import fiador.evidence.Evidence;
import fiador.files.ledger.Ledger;
import fiador.files.survey.SurveyException;
import fiador.findings.Findings;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.text.HistoryText;
import fiador.report.text.ReviewText;
import fiador.reviews.Drafting;
import fiador.reviews.Drafting.Draft;
import fiador.reviews.Line;
import fiador.reviews.Review;
import fiador.reviews.Reviewers;
import fiador.reviews.Whose;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/** Makes the lines that are asked: who is asked, in which words, since when. */
final class ReviewLines {
  private final Access access;
  private final Drafting drafting;
  private final Ledger ledger;
  private final Findings.Result findings;
  private final Evidence evidence;
  private final Instant now;
  private final Whose whose;

  /**
   * @param whose whose the accounts are
   */
  ReviewLines(
      Access access,
      Drafting drafting,
      Ledger ledger,
      Findings.Result findings,
      Evidence evidence,
      Instant now,
      Whose whose) {
    this.access = access;
    this.drafting = drafting;
    this.ledger = ledger;
    this.findings = findings;
    this.evidence = evidence;
    this.now = now;
    this.whose = whose;
  }

  /**
   * The lines.
   *
   * @param before a review whose lines stay what they are where the facts are as they were, or null
   */
  List<Line> of(List<Draft> drafts, Reviewers reviewers, Review before)
      throws Refusal, IOException {
    Map<Object, Line> kept = new HashMap<>();
    int last = 0;
    for (Line line : before == null ? List.<Line>of() : before.lines()) {
      kept.put(line.about(), line);
      last = Math.max(last, line.number());
    }
    Map<Draft, Instant> since = since(drafts);
    Map<String, Integer> nobody = new TreeMap<>();
    List<Line> lines = new ArrayList<>();
    for (Draft draft : whose.together(drafts)) {
      Line same = kept.get(draft.about());
      if (same != null && same.facts().equals(draft.facts())) {
        lines.add(same);
        continue;
      }
      String reviewer = same == null ? reviewers.of(draft) : same.reviewer();
      if (reviewer == null) {
        nobody.merge(draft.about().area(), 1, Integer::sum);
        continue;
      }
      Instant used = evidence == null ? null : drafting.lastUsed(draft, evidence);
      lines.add(
          new Line(
              Line.key(++last, draft.about(), draft.facts()),
              reviewer,
              draft.about(),
              ReviewText.person(access, draft),
              ReviewText.may(access, draft),
              ReviewText.through(access, draft, now),
              said(since.get(draft)),
              evidence == null ? "" : used == null ? "not seen" : day(used),
              Drafting.findings(draft, findings.open()),
              draft.facts(),
              whose.of(draft.user())));
    }
    if (!nobody.isEmpty()) {
      List<String> areas = new ArrayList<>();
      nobody.forEach(
          (area, count) ->
              areas.add(
                  (area.isEmpty() ? "the server" : HistoryText.shown(access, area))
                      + " ("
                      + ReviewStep.lines(count)
                      + ")"));
      throw new BadInput(
          "nobody can be asked about "
              + String.join(", ", areas)
              + "; say who with --reviewer SCHEMA=NAME, or --else NAME");
    }
    return lines;
  }

  private static String day(Instant instant) {
    return LocalDate.ofInstant(instant, ZoneOffset.UTC).toString();
  }

  private String said(Instant since) {
    return since == null ? "" : since.equals(Instant.MIN) ? "longer" : day(since);
  }

  /**
   * Since when each is there: the first of the surveys in a row that have it; {@link Instant#MIN}
   * where already the oldest has it. Cost: reading each survey that found something new.
   */
  private Map<Draft, Instant> since(List<Draft> drafts) throws SurveyException, IOException {
    Map<Draft, Instant> since = new HashMap<>();
    List<Ledger.Turn> turns = ledger.turns(access.about().server());
    Set<Draft> open = new HashSet<>(drafts);
    for (int i = turns.size() - 1; i >= 0 && !open.isEmpty(); i--) {
      Access then = ledger.read(turns.get(i).first());
      Instant first = i == 0 ? Instant.MIN : turns.get(i).first().taken();
      List<Draft> still = open.stream().filter(draft -> draft.about().isIn(then)).toList();
      still.forEach(draft -> since.put(draft, first));
      open.retainAll(still);
    }
    return since;
  }
}
