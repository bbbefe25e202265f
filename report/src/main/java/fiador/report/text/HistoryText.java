package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.history.FactDifference.Fact;
import fiador.history.FactDifference.Kind;
import fiador.history.HoldingDifference.Turn;
import fiador.report.rows.HoldingRows;
import fiador.report.shown.Shown;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.StringJoiner;

/** What changed on a server from one survey to another, for people and for programs. */
public final class HistoryText {
  /** The fields of facts, in order. */
  public static final List<String> FACT_FIELDS =
      List.of("last_before", "first_after", "by", "kind", "change", "fact");

  /** The fields of what people gained and lost, in order. */
  public static final List<String> TURN_FIELDS =
      List.of(
          "last_before",
          "first_after",
          "by",
          "user",
          "privilege",
          "kind",
          "object",
          "columns",
          "was",
          "is",
          "grantable");

  /**
   * When something changed.
   *
   * @param last the last time it was seen as it was
   * @param first the first time it was seen as it came to be
   * @param by who changed it, in words; empty where nobody did it with fiador
   */
  public record Moment(Instant last, Instant first, String by) {
    /** When, as exactly as it is known, and by whom. */
    public String text() {
      if (!by.isEmpty()) {
        return Shown.time(first) + "   " + by;
      }
      return "between "
          + Shown.time(last).replace(" UTC", "")
          + " and "
          + Shown.time(first)
          + "   not by fiador";
    }
  }

  private static final int LINES = 12;

  private final Access earlier;
  private final Access later;
  private final Shown was;
  private final Shown is;
  private final int width;
  private final Moment moment;

  /**
   * @param earlier the survey before
   * @param later the survey after
   */
  public HistoryText(Access earlier, Access later, Moment moment, int width) {
    this.earlier = earlier;
    this.later = later;
    this.was = Shown.brief(earlier);
    this.is = Shown.brief(later);
    this.moment = moment;
    this.width = width;
  }

  /** The facts that came and went, those of one kind together. */
  public String facts(List<Fact> facts) {
    Columns lines = new Columns(width);
    int said = 0;
    for (Fact fact : facts) {
      if (said++ < LINES) {
        String text = FindingText.words(fact.said(), fact.came() ? is : was);
        lines.line(fact.came() ? "  +" : "  -", text);
      }
    }
    return "  " + moment.text() + "\n" + lines.text() + more(said, counts(facts));
  }

  /** All facts that came and went, each as a line, at most so many. */
  public List<String> lines(List<Fact> facts, int most) {
    List<String> lines = new ArrayList<>();
    for (Fact fact : facts.subList(0, Math.min(most, facts.size()))) {
      String text = FindingText.words(fact.said(), fact.came() ? is : was);
      lines.add((fact.came() ? "+ " : "− ") + text);
    }
    if (facts.size() > most) {
      lines.add("and " + (facts.size() - most) + " more" + counts(facts));
    }
    return lines;
  }

  /** How many facts of each kind. */
  private static String counts(List<Fact> facts) {
    Map<Kind, Integer> counts = new EnumMap<>(Kind.class);
    facts.forEach(fact -> counts.merge(fact.kind(), 1, Integer::sum));
    StringJoiner text = new StringJoiner(", ", " (of all: ", ")");
    counts.forEach((kind, count) -> text.add(count + " " + plural(kind)));
    return text.toString();
  }

  private static String plural(Kind kind) {
    return switch (kind) {
      case PRINCIPAL -> "users and roles";
      case ACCOUNT -> "matters of accounts";
      case MEMBERSHIP -> "memberships";
      case GRANT -> "grants";
      case OBJECT -> "objects";
      case OWNER -> "owners";
      case POLICY -> "matters of policies";
    };
  }

  private static String more(int lines, String counts) {
    return lines <= LINES
        ? ""
        : "     and " + (lines - LINES) + " more; --format json has all of them" + counts + "\n";
  }

  /** One fact. */
  public Map<String, Object> row(Fact fact) {
    Map<String, Object> row = head();
    row.put("kind", fact.kind().name().toLowerCase(Locale.ROOT));
    row.put("change", fact.came() ? "came" : "went");
    Shown names = new Shown(fact.came() ? later : earlier, false);
    row.put("fact", FindingText.words(fact.said(), names));
    return row;
  }

  private Map<String, Object> head() {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("last_before", moment.last().toString());
    row.put("first_after", moment.first().toString());
    row.put("by", moment.by().isEmpty() ? null : moment.by());
    return row;
  }

  /** One holding that is not what it was. */
  public Map<String, Object> row(Turn turn) {
    Map<String, Object> row = head();
    Holding told = turn.is() == null ? turn.was() : turn.is();
    row.putAll(new HoldingRows(turn.is() == null ? earlier : later, moment.first()).row(told));
    row.keySet().removeAll(List.of("state", "cannot_log_in"));
    row.put("was", turn.was() == null ? null : turn.was().state().text());
    row.put("is", turn.is() == null ? null : turn.is().state().text());
    return row;
  }

  /** What stands in one line: turned alike on one node, or of one user, by one way. */
  private record Line(String turned, String about, String way) {}

  /**
   * What people came to hold and lost.
   *
   * @param byUser whether each line is about a user; else about an object
   */
  public String turns(List<Turn> turns, boolean byUser) {
    Map<Line, Long> privileges = new LinkedHashMap<>();
    for (Turn turn : turns) {
      Holding told = turn.is() == null ? turn.was() : turn.is();
      Shown names = turn.is() == null ? was : is;
      String about = byUser ? names.principal(told.user()) : object(told, names);
      Line line = new Line(turned(turn), about, way(turn));
      privileges.merge(line, told.privilege().bit(), (one, other) -> one | other);
    }
    Map<Line, Set<String>> grouped = new LinkedHashMap<>();
    privileges.forEach(
        (line, bits) ->
            grouped
                .computeIfAbsent(
                    new Line(line.turned(), PrivilegeSet.text(bits), line.way()),
                    fresh -> new LinkedHashSet<>())
                .add(line.about()));
    Columns lines = new Columns(width);
    int said = 0;
    for (Map.Entry<Line, Set<String>> each : grouped.entrySet()) {
      if (said++ < LINES) {
        Line line = each.getKey();
        String about = some(each.getValue());
        String what = byUser ? about + ": " + line.about() : line.about() + " on " + about;
        lines.line("  " + line.turned(), what, line.way());
      }
    }
    return "  " + moment.text() + "\n" + lines.text() + more(said, "");
  }

  private static String some(Set<String> names) {
    List<String> list = new ArrayList<>(names);
    return list.size() <= 4
        ? String.join(", ", list)
        : String.join(", ", list.subList(0, 3)) + " and " + (list.size() - 3) + " more";
  }

  private static String object(Holding told, Shown names) {
    return names.node(told.node())
        + (told.columns() == null ? "" : " (" + names.columns(told.node(), told.columns()) + ")");
  }

  private static String turned(Turn turn) {
    if (turn.isGain()) {
      return "gained";
    } else if (turn.isLoss()) {
      return turn.is() == null ? "lost" : "lost, now " + turn.is().state().text();
    } else if (turn.was() == null || turn.is() == null) {
      boolean came = turn.was() == null;
      return (came ? "came, " : "went, ") + (came ? turn.is() : turn.was()).state().text();
    } else if (turn.was().state() != turn.is().state()) {
      return turn.was().state().text() + ", now " + turn.is().state().text();
    } else if (turn.was().grantable() != turn.is().grantable()) {
      return turn.is().grantable() ? "may now grant on" : "may no longer grant on";
    }
    return columns(turn);
  }

  private static String columns(Turn turn) {
    int was = turn.was().columns() == null ? Integer.MAX_VALUE : turn.was().columns().cardinality();
    int is = turn.is().columns() == null ? Integer.MAX_VALUE : turn.is().columns().cardinality();
    return is < was ? "narrowed to" : is > was ? "widened to" : "changed to";
  }

  private String way(Turn turn) {
    boolean gone = turn.is() == null || turn.isLoss();
    Holding told = gone ? turn.was() : turn.is();
    return through(gone ? earlier : later, told);
  }

  /** The shortest way by which something is held, as it was at the time of the survey. */
  private static String through(Access access, Holding held) {
    int column = held.columns() == null ? -1 : held.columns().nextSetBit(0);
    Clock then = Clock.fixed(access.about().taken(), ZoneOffset.UTC);
    Trace trace =
        new Tracer(access, then).trace(held.user(), held.privilege(), held.node(), column, 1);
    return trace.paths().isEmpty() ? "" : through(access, trace);
  }

  /** A name of that survey as people write it. */
  public static String shown(Access access, String name) {
    return Shown.brief(access).name(name);
  }

  /** The shortest way of an answer. */
  public static String through(Access access, Trace trace) {
    Shown shown = Shown.brief(access);
    String way = new Ways(access, shown).oneLine(trace.paths().get(0), trace.node());
    boolean everybody = trace.paths().get(0).last() == Principals.PUBLIC;
    return everybody ? "everybody has it" : way;
  }
}
