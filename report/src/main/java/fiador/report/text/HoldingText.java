package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.policies.Seeing;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Lists of holdings for people: rights of one kind on one object in one line, with the way there.
 */
public final class HoldingText {
  private static final int WAYS_WORTH_LOOKING_UP = 2000;
  private static final int LINES_READ_AT_ONCE = 150;

  private final Access access;
  private final Shown shown;
  private final Seeing seeing;
  private final HoldingWays ways;
  private final int width;
  private final Instant now;

  /**
   * @param tracer finds the way to each right
   * @param width how wide a line may be
   */
  public HoldingText(Access access, Tracer tracer, int width, Instant now) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.ways = new HoldingWays(access, tracer, shown);
    this.seeing = new Seeing(access);
    this.width = width;
    this.now = now;
  }

  /** What can stand in one line: alike in everything but the privilege. */
  private record Group(
      int user, int node, State state, boolean grantable, Object columns, String way) {}

  private Map<Group, List<Holding>> grouped(List<Holding> rows) {
    Map<Group, List<Holding>> groups = new LinkedHashMap<>();
    boolean ways = rows.size() <= WAYS_WORTH_LOOKING_UP;
    for (Holding row : rows) {
      Group group =
          new Group(
              row.user(),
              row.node(),
              row.state(),
              row.grantable(),
              row.columns(),
              ways ? this.ways.of(row) : "");
      groups.computeIfAbsent(group, fresh -> new ArrayList<>()).add(row);
    }
    return groups;
  }

  /** All that one user holds; a long list by schema, with how much there is. */
  public String summedUp(int user, List<Holding> rows) {
    if (rows.size() <= LINES_READ_AT_ONCE) {
      return holdings(user, rows);
    }
    StringBuilder text = new StringBuilder(head(user, rows));
    Columns table = new Columns(width);
    new HoldingSums(access, shown).lines(rows).forEach(table::line);
    return text.append("\n")
        .append(table.text())
        .append("\n  --full lists each; --schema NAME those of one schema\n")
        .toString();
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
    StringBuilder text = new StringBuilder(head(user, rows));
    if (rows.isEmpty()) {
      return text.toString();
    }
    text.append("\n");
    Columns table = new Columns(width);
    boolean allLive = rows.stream().allMatch(row -> row.state() == State.LIVE);
    String[] before = {""};
    grouped(rows)
        .forEach(
            (group, list) -> {
              String on = shown.node(group.node()) + columns(list.get(0));
              line(table, on, before, group, privileges(list), allLive);
            });
    return text.append(table.text()).toString();
  }

  /** A line; what it is about is not said again when the line before was about the same. */
  private static void line(
      Columns table, String about, String[] before, Group group, String held, boolean allLive) {
    String first = about.equals(before[0]) ? "" : about;
    before[0] = about;
    if (allLive) {
      table.line(first, held, group.way());
    } else {
      table.line(first, States.of(group.state()), held, group.way());
    }
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

  private String privileges(List<Holding> rows) {
    long bits = 0;
    for (Holding row : rows) {
      bits |= row.privilege().bit();
    }
    NodeKind kind = access.tree().kind(rows.get(0).node());
    boolean all = Long.bitCount(bits) > 1 && bits == access.rules().privilegesOn(kind);
    return (all ? "all privileges" : PrivilegeSet.text(bits))
        + (rows.get(0).grantable() ? " (may grant)" : "")
        + ((bits & Privilege.SELECT.bit()) == 0 ? "" : sight(rows.get(0)));
  }

  /** Which rows and columns come back, where policies decide. */
  private String sight(Holding row) {
    Seeing.Answer answer = seeing.of(row.user(), row.node());
    if (answer == null || answer.exempt() != null) {
      return "";
    } else if (!answer.isKnown()) {
      return "; rows not known";
    }
    boolean all = answer.seen().allRows();
    String rows = all ? "" : "; rows: " + shown.predicate(answer.seen().condition());
    List<String> masked =
        answer.seen().masks().keySet().stream()
            .filter(name -> row.columns() == null || row.columns().get(ordinal(answer, name)))
            .map(shown::name)
            .toList();
    return rows + (masked.isEmpty() ? "" : "; masked: " + String.join(", ", masked));
  }

  private int ordinal(Seeing.Answer answer, String column) {
    return access.tree().columnNamed(answer.table(), column);
  }

  private String columns(Holding row) {
    return row.columns() == null ? "" : " (" + shown.columns(row.node(), row.columns()) + ")";
  }

  /**
   * Everybody who holds something on one node.
   *
   * @param column the ordinal of the column the rows are about, or -1 for the whole
   */
  public String holders(int node, int column, List<Holding> rows) {
    long users = rows.stream().mapToInt(Holding::user).distinct().count();
    long live =
        rows.stream()
            .filter(row -> row.state() == State.LIVE)
            .mapToInt(Holding::user)
            .distinct()
            .count();
    String who = users == 0 ? "nobody holds" : users == 1 ? "1 user holds" : users + " users hold";
    String some = users == 0 ? "" : users == live ? ", all live" : ", " + live + " of them live";
    StringBuilder text = new StringBuilder();
    String what =
        column < 0
            ? shown.node(node)
            : "column " + shown.path(node) + "." + shown.column(node, column);
    text.append(headline(who + (users == 0 ? " anything on " : " something on ") + what + some))
        .append("\n");
    if (rows.isEmpty()) {
      return text.toString();
    }
    text.append("\n");
    Columns table = new Columns(width);
    boolean allLive = rows.stream().allMatch(row -> row.state() == State.LIVE);
    String[] before = {""};
    grouped(rows)
        .forEach(
            (group, list) -> {
              String held = privileges(list) + columns(list.get(0));
              line(table, who(group.user()), before, group, held, allLive);
            });
    text.append(table.text());
    String label = "\nseal  ";
    for (String line : new SealLines(access, shown, now).of(node)) {
      text.append(label).append(line).append("\n");
      label = " ".repeat(6);
    }
    return text.toString();
  }

  /** What is held on a container and all that is in it, summed up by user. */
  public String inside(int node, List<Holding> rows) {
    Map<Integer, List<Holding>> byUser = new TreeMap<>();
    rows.forEach(row -> byUser.computeIfAbsent(row.user(), fresh -> new ArrayList<>()).add(row));
    int users = byUser.size();
    String who = users == 0 ? "nobody holds" : users == 1 ? "1 user holds" : users + " users hold";
    String what = (users == 0 ? " anything on " : " something on ") + shown.node(node);
    Columns table = new Columns(width);
    HoldingSums sums = new HoldingSums(access, shown);
    byUser.forEach(
        (user, held) -> {
          String name = who(user);
          for (String[] line : sums.lines(held)) {
            table.line(name, line[0], line[1], line[2], line[3]);
            name = "";
          }
        });
    return headline(who + what + " or what is in it")
        + "\n"
        + (users == 0 ? "" : "\n")
        + table.text();
  }

  private String who(int user) {
    boolean out = NoLogin.why(access, user, now) != null;
    return shown.principal(user) + (out ? " (cannot log in)" : "");
  }

  /** How much each user holds. */
  public String everyone(Map<Integer, List<Holding>> byUser) {
    Columns table = new Columns(width);
    byUser.forEach((user, rows) -> table.line(who(user), "holds " + summary(rows)));
    return headline(byUser.size() + " users") + "\n\n" + table.text();
  }
}
