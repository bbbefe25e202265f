package fiador.report.text;

import fiador.changes.steps.Step;
import fiador.evidence.Evidence;
import fiador.grants.Access;
import fiador.repairs.Trim;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** What can go, for people and for programs. */
public final class TrimText {
  /** The fields, in order. */
  public static final List<String> FIELDS =
      List.of("why", "principal", "what", "risk", "statements");

  private static final int LINES = 15;

  private final Shown shown;
  private final Shown plain;
  private final int width;
  private final Instant now;
  private final Function<List<Step>, List<String>> statements;

  /** Parameters as for {@link FindingText}. */
  public TrimText(
      Access access, int width, Instant now, Function<List<Step>, List<String>> statements) {
    this.shown = Shown.brief(access);
    this.plain = new Shown(access, false);
    this.width = width;
    this.now = now;
    this.statements = statements;
  }

  /**
   * The answer, what can go with the most risk first, and what people lose.
   *
   * @param evidence what was used, or null
   */
  public String text(Trim.Result result, Evidence evidence) {
    StringBuilder text = new StringBuilder();
    int count = result.cuts().size();
    String answer =
        count == 0
            ? "nothing can go"
            : (count == 1 ? "1 thing can go" : count + " things can go")
                + (evidence == null
                    ? " and changes nothing for anybody"
                    : ", nobody loses what they used");
    text.append(Headline.of(answer, shown.origin(now), width)).append("\n");
    text.append("  ").append(watched(evidence, result)).append('\n');
    for (Trim.Why why : Trim.Why.values()) {
      Columns lines = new Columns(width);
      int left = LINES;
      int more = 0;
      for (Trim.Cut cut : result.cuts()) {
        if (cut.why() == why && left-- > 0) {
          lines.line(shown.principal(cut.principal()), FindingText.words(cut.said(), shown));
        } else if (cut.why() == why) {
          more++;
        }
      }
      String said = lines.text();
      text.append(said.isEmpty() ? "" : "\n" + title(why) + "\n" + said);
      text.append(more == 0 ? "" : "  and " + more + " more; --format json has all of them\n");
    }
    String effects = new ChangeText(result.gap(), width).text();
    text.append(effects.isEmpty() ? "" : "\neffect\n" + effects);
    return text.toString();
  }

  private static String watched(Evidence evidence, Trim.Result result) {
    if (evidence == null) {
      return "usage was not watched: only what is redundant is looked for (--usage LOG)";
    }
    LocalDate from = LocalDate.ofInstant(evidence.from(), ZoneOffset.UTC);
    LocalDate to = LocalDate.ofInstant(evidence.to(), ZoneOffset.UTC);
    String days = from.equals(to) ? "on " + from : "from " + from + " to " + to;
    return evidence.statements()
        + " statements "
        + days
        + ", "
        + result.kept()
        + " uses that stay"
        + (evidence.unread() == 0 ? "" : ", " + evidence.unread() + " statements not understood");
  }

  private static String title(Trim.Why why) {
    return switch (why) {
      case IN_EXCESS -> "redundant, the same comes by another way";
      case UNUSED -> "unused";
      case TOO_BROAD -> "too broad, a smaller role is enough";
    };
  }

  /** One thing that can go. */
  public Map<String, Object> row(Trim.Cut cut) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("why", cut.why().name().toLowerCase(java.util.Locale.ROOT));
    row.put("principal", plain.principal(cut.principal()));
    row.put("what", FindingText.words(cut.said(), plain));
    row.put("risk", cut.risk());
    row.put("statements", statements.apply(cut.steps()));
    return row;
  }
}
