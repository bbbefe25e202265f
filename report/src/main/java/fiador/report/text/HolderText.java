package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.effects.Tracer;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Supplier;

/** Who holds something on an object, for people. */
public final class HolderText {
  private static final int USERS_READ_AT_ONCE = 60;

  private final Access access;
  private final Shown shown;
  private final HeldLines lines;
  private final int width;
  private final Clock clock;

  /**
   * @param tracer finds the way to each right; asked for where ways are looked up at all
   * @param width how wide a line may be
   */
  public HolderText(Access access, Supplier<Tracer> tracer, int width, Clock clock) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.lines = new HeldLines(access, shown, tracer, clock.instant());
    this.width = width;
    this.clock = clock;
  }

  /** Those who hold something on a node; many by what they hold, with what gives it to them. */
  public String summedUp(int node, int column, List<Holding> rows) {
    if (users(rows) <= USERS_READ_AT_ONCE) {
      return each(node, column, rows);
    }
    HolderSums sums = new HolderSums(access, shown, lines, clock);
    return head(node, column, rows)
        + "\n"
        + sums.groups(rows, width)
        + "\nthrough\n"
        + sums.through(node, column, rows, width)
        + seal(node)
        + "\n  --full lists each\n";
  }

  /**
   * Everybody who holds something on one node.
   *
   * @param column the ordinal of the column the rows are about, or below zero for the whole
   */
  public String each(int node, int column, List<Holding> rows) {
    if (rows.isEmpty()) {
      return head(node, column, rows);
    }
    return head(node, column, rows)
        + "\n"
        + lines.of(
            rows,
            row -> lines.who(row.user()),
            alike -> lines.privileges(alike) + lines.columns(alike.get(0)),
            width)
        + seal(node);
  }

  private static long users(List<Holding> rows) {
    return rows.stream().mapToInt(Holding::user).distinct().count();
  }

  private String head(int node, int column, List<Holding> rows) {
    long users = users(rows);
    long live = users(rows.stream().filter(row -> row.state() == State.LIVE).toList());
    String some = users == 0 ? "" : users == live ? ", all live" : ", " + live + " of them live";
    String what =
        column < 0
            ? shown.node(node)
            : "column " + shown.path(node) + "." + shown.column(node, column);
    return headline(who(users) + what + some) + "\n";
  }

  private static String who(long users) {
    String who = users == 0 ? "nobody holds" : users == 1 ? "1 user holds" : users + " users hold";
    return who + (users == 0 ? " anything on " : " something on ");
  }

  private String headline(String answer) {
    return Headline.of(answer, shown.origin(clock.instant()), width);
  }

  private String seal(int node) {
    StringBuilder text = new StringBuilder();
    String label = "\nseal  ";
    for (String line : new SealLines(access, shown, clock.instant()).of(node)) {
      text.append(label).append(line).append("\n");
      label = " ".repeat(6);
    }
    return text.toString();
  }

  /** What is held on a container and all that is in it, by user; of many by what they hold. */
  public String insideSummedUp(int node, List<Holding> rows) {
    if (users(rows) <= USERS_READ_AT_ONCE) {
      return inside(node, rows);
    }
    Map<Integer, List<Holding>> byUser = byUser(rows);
    Columns table = new Columns(width);
    new HoldingSums(access, shown).crowds(byUser).forEach(table::line);
    return headline(who(byUser.size()) + shown.node(node) + " or what is in it")
        + "\n\n"
        + table.text()
        + "\n  --full lists each user\n";
  }

  private static Map<Integer, List<Holding>> byUser(List<Holding> rows) {
    Map<Integer, List<Holding>> byUser = new TreeMap<>();
    rows.forEach(row -> byUser.computeIfAbsent(row.user(), fresh -> new ArrayList<>()).add(row));
    return byUser;
  }

  /** What is held on a container and all that is in it, summed up by user. */
  public String inside(int node, List<Holding> rows) {
    Map<Integer, List<Holding>> byUser = byUser(rows);
    Columns table = new Columns(width);
    HoldingSums sums = new HoldingSums(access, shown);
    byUser.forEach(
        (user, held) -> {
          String name = lines.who(user);
          for (String[] line : sums.lines(held)) {
            table.line(name, line[0], line[1], line[2], line[3]);
            name = "";
          }
        });
    return headline(who(byUser.size()) + shown.node(node) + " or what is in it")
        + "\n"
        + (byUser.isEmpty() ? "" : "\n")
        + table.text();
  }
}
