package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.effects.StateCounts;
import fiador.effects.Tracer;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/** What users hold, for people. */
public final class HoldingText {
  private static final int LINES_READ_AT_ONCE = 150;

  private final Access access;
  private final Shown shown;
  private final HeldLines lines;
  private final int width;
  private final Instant now;

  /**
   * @param tracer finds the way to each right; asked for where ways are looked up at all
   * @param width how wide a line may be
   */
  public HoldingText(Access access, Supplier<Tracer> tracer, int width, Instant now) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.lines = new HeldLines(access, shown, tracer, now);
    this.width = width;
    this.now = now;
  }

  /** All that one user holds; a long list by schema, many schemas by what is held there. */
  public String summedUp(int user, List<Holding> rows) {
    if (rows.size() <= LINES_READ_AT_ONCE) {
      return holdings(user, rows);
    }
    Columns table = new Columns(width);
    new HoldingSums(access, shown).brief(rows).forEach(table::line);
    return head(user, rows)
        + "\n"
        + table.text()
        + "\n  --full lists each; --schema NAME those of one schema\n";
  }

  private String head(int user, List<Holding> rows) {
    StringBuilder text = new StringBuilder();
    text.append(headline(shown.principal(user) + " holds " + summary(StateCounts.of(rows))))
        .append("\n");
    String noLogin = user == Principals.PUBLIC ? null : NoLogin.why(access, user, now);
    if (noLogin != null) {
      text.append("  cannot log in now: ").append(noLogin).append("\n");
    }
    powers(user, text);
    return text.toString();
  }

  /** All that one user holds. */
  public String holdings(int user, List<Holding> rows) {
    if (rows.isEmpty()) {
      return head(user, rows);
    }
    return head(user, rows)
        + "\n"
        + lines.of(
            rows, row -> shown.node(row.node()) + lines.columns(row), lines::privileges, width);
  }

  private String headline(String answer) {
    return Headline.of(answer, shown.origin(now), width);
  }

  private static String summary(StateCounts counts) {
    if (counts.total() == 0) {
      return "nothing";
    }
    String total = counts.total() + (counts.total() == 1 ? " privilege" : " privileges");
    List<String> parts = new ArrayList<>();
    for (State state : State.values()) {
      if (counts.in(state) == counts.total()) {
        return total + ", all " + state.text();
      } else if (counts.in(state) > 0) {
        parts.add(counts.in(state) + " " + state.text());
      }
    }
    return total + ": " + String.join(", ", parts);
  }

  private void powers(int user, StringBuilder text) {
    List<String> powers = new ArrayList<>();
    for (Power power : Power.values()) {
      if (access.principals().has(user, power)) {
        powers.add(power.text());
      }
    }
    if (!powers.isEmpty()) {
      text.append("and has the power: ").append(String.join(", ", powers)).append("\n");
    }
    if (access.principals().account(user).disabled()) {
      text.append("the account is disabled: it cannot log in\n");
    }
  }

  /** How much each user holds. */
  public String everyone(Map<Integer, StateCounts> byUser) {
    Columns table = new Columns(width);
    byUser.forEach((user, held) -> table.line(lines.who(user), "holds " + summary(held)));
    return headline(byUser.size() + " users") + "\n\n" + table.text();
  }
}
