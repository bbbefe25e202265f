package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
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
    text.append(headline(shown.principal(user) + " holds " + summary(rows))).append("\n");
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

  private static String summary(List<Holding> rows) {
    if (rows.isEmpty()) {
      return "nothing";
    }
    int[] count = new int[State.values().length];
    rows.forEach(row -> count[row.state().ordinal()]++);
    String total = rows.size() + (rows.size() == 1 ? " privilege" : " privileges");
    List<String> parts = new ArrayList<>();
    for (State state : State.values()) {
      if (count[state.ordinal()] > 0) {
        parts.add(count[state.ordinal()] + " " + state.text());
      }
    }
    if (parts.size() == 1) {
      return total + ", all " + rows.get(0).state().text();
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
  public String everyone(Map<Integer, List<Holding>> byUser) {
    Columns table = new Columns(width);
    byUser.forEach((user, rows) -> table.line(lines.who(user), "holds " + summary(rows)));
    return headline(byUser.size() + " users") + "\n\n" + table.text();
  }
}
