package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.State;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
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
import java.util.function.Function;
import java.util.function.Supplier;

/** What is held, in words: rights of one kind on one object in one line, with the way there. */
final class HeldLines {
  private static final int WAYS_WORTH_LOOKING_UP = 2000;

  private final Access access;
  private final Shown shown;
  private final Seeing seeing;
  private final Supplier<Tracer> tracer;
  private final Instant now;

  /**
   * @param tracer finds the way to each right; asked for where ways are looked up at all
   */
  HeldLines(Access access, Shown shown, Supplier<Tracer> tracer, Instant now) {
    this.access = access;
    this.shown = shown;
    this.seeing = new Seeing(access);
    this.tracer = tracer;
    this.now = now;
  }

  /** What can stand in one line: alike in everything but the privilege. */
  private record Group(
      int user, int node, State state, boolean grantable, Object columns, String way) {}

  private Map<Group, List<Holding>> grouped(List<Holding> rows) {
    Map<Group, List<Holding>> groups = new LinkedHashMap<>();
    HoldingWays ways =
        rows.size() > WAYS_WORTH_LOOKING_UP ? null : new HoldingWays(access, tracer.get(), shown);
    for (Holding row : rows) {
      Group group =
          new Group(
              row.user(),
              row.node(),
              row.state(),
              row.grantable(),
              row.columns(),
              ways == null ? "" : ways.of(row));
      groups.computeIfAbsent(group, fresh -> new ArrayList<>()).add(row);
    }
    return groups;
  }

  /**
   * The lines of a list.
   *
   * @param about what a line is about, which is not said again when the line before was about the
   *     same
   * @param held what is held, of rows that stand in one line
   */
  String of(
      List<Holding> rows,
      Function<Holding, String> about,
      Function<List<Holding>, String> held,
      int width) {
    Columns table = new Columns(width);
    boolean allLive = allLive(rows);
    String[] before = {""};
    grouped(rows)
        .forEach(
            (group, list) -> {
              String thing = about.apply(list.get(0));
              String first = thing.equals(before[0]) ? "" : thing;
              before[0] = thing;
              if (allLive) {
                table.line(first, held.apply(list), group.way());
              } else {
                table.line(first, States.of(group.state()), held.apply(list), group.way());
              }
            });
    return table.text();
  }

  static boolean allLive(List<Holding> rows) {
    return rows.stream().allMatch(row -> row.state() == State.LIVE);
  }

  /** The privileges of rows about the same, and which rows and columns come back. */
  String privileges(List<Holding> rows) {
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

  /** The columns that a right is limited to, in brackets. */
  String columns(Holding row) {
    return row.columns() == null ? "" : " (" + shown.columns(row.node(), row.columns()) + ")";
  }

  /** A user, and whether it can log in at all. */
  String who(int user) {
    boolean out = NoLogin.why(access, user, now) != null;
    return shown.principal(user) + (out ? " (cannot log in)" : "");
  }
}
