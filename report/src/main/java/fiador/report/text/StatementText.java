package fiador.report.text;

import fiador.changes.Running.Answer;
import fiador.changes.Running.Line;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.effects.Need;
import fiador.effects.Obstacle;
import fiador.effects.State;
import fiador.effects.Trace;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.rules.Ownership;
import fiador.policies.Seeing;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What a statement needs, each answered, and the answer of the whole. */
public final class StatementText {
  /** The fields of a row, in order. */
  public static final List<String> FIELDS =
      List.of("privilege", "kind", "object", "columns", "answer", "through", "why_not");

  private final Access access;
  private final Shown shown;
  private final Ways ways;
  private final TraceWords words;
  private final int width;
  private final Clock clock;

  /**
   * For answers about that server.
   *
   * @param shown how names are written
   * @param width how wide a line may be
   */
  public StatementText(Access access, Shown shown, int width, Clock clock) {
    this.access = access;
    this.shown = shown;
    this.ways = new Ways(access, shown);
    this.words = new TraceWords(access, shown);
    this.width = width;
    this.clock = clock;
  }

  /** Lines that say the same of different columns. */
  private record Alike(String what, int node, boolean has, String through, String why) {}

  private Map<Alike, BitSet> rows(Answer answer) {
    Map<Alike, BitSet> rows = new LinkedHashMap<>();
    for (Line line : answer.lines()) {
      BitSet columns = rows.computeIfAbsent(alike(line), fresh -> new BitSet());
      if (line.need() instanceof Need.Right right && right.columns() != null) {
        columns.or(right.columns());
      }
    }
    return rows;
  }

  private Alike alike(Line line) {
    Need need = line.need();
    if (!(need instanceof Need.Right right)) {
      return new Alike("ownership", need.node(), line.has(), "", line.has() ? "" : owner(need));
    }
    Trace trace = line.trace();
    boolean one = line.has() || right.anyOf() == trace.privilege().bit();
    String what =
        one
            ? trace.privilege().text()
            : right.anyPart() ? "any right" : String.join(" or ", names(right.anyOf()));
    String through =
        line.has() && !trace.paths().isEmpty()
            ? ways.oneLine(trace.paths().get(0), need.node())
            : "";
    boolean part = right.anyPart() && one && !line.has();
    return new Alike(
        part ? what + " on any column" : what,
        need.node(),
        line.has(),
        through,
        line.has() ? "" : why(trace));
  }

  /** Who would have to do it. */
  private String owner(Need need) {
    boolean bySchema = access.rules().ownership() == Ownership.SCHEMA;
    int schema = access.tree().enclosing(need.node(), NodeKind.SCHEMA);
    int owner = access.tree().owner(bySchema && schema >= 0 ? schema : need.node());
    return owner < 0 ? "nobody known owns it" : shown.principal(owner) + " owns it";
  }

  private static List<String> names(long privileges) {
    return PrivilegeSet.list(privileges).stream().map(Privilege::text).toList();
  }

  private String why(Trace trace) {
    if (trace.obstacles().isEmpty()) {
      return "not in the same session as the others";
    }
    Obstacle first = trace.obstacles().get(0);
    return first instanceof Obstacle.NothingGivesIt ? "nothing gives it" : words.why(first, trace);
  }

  private String object(Alike row, BitSet columns) {
    String list = columns.isEmpty() ? "" : " (" + shown.columns(row.node(), columns) + ")";
    String of = row.what().endsWith("column") ? " of " : " on ";
    return row.what() + list + of + shown.node(row.node());
  }

  /** For people. */
  public String text(Answer answer) {
    Map<Alike, BitSet> rows = rows(answer);
    String who = shown.principal(answer.user());
    long missing = rows.keySet().stream().filter(row -> !row.has()).count();
    String said;
    if (answer.works()) {
      boolean out = NoLogin.why(access, answer.user(), clock.instant()) != null;
      String state = out ? "but cannot log in" : answer.state().text().replace('-', ' ');
      Tone tone = out ? Tone.PARTLY : States.tone(answer.state());
      said = tone.of("yes, " + state + ":") + Tone.STRONG.of(" " + who + " may run this");
    } else {
      said =
          Tone.BAD.of("no:")
              + Tone.STRONG.of(" " + who + " may not run this")
              + ", "
              + missing
              + " of "
              + rows.size()
              + (missing == 1 ? " is missing" : " are missing");
    }
    StringBuilder text =
        new StringBuilder(Headline.of(said, shown.origin(clock.instant()), width)).append("\n\n");
    Columns lines = new Columns(width);
    rows.forEach(
        (row, columns) ->
            lines.line(
                row.has() ? Tone.GOOD.of("yes") : Tone.BAD.of("NO"),
                object(row, columns),
                row.has() ? row.through() : row.why()));
    text.append(lines.text());
    String facts = facts(answer);
    return facts.isEmpty() ? text.toString() : text.append('\n').append(facts).toString();
  }

  private String facts(Answer answer) {
    Columns facts = new Columns(width);
    if (answer.state() == State.ON_REQUEST) {
      String role = shown.principal(answer.role());
      facts.line("switch", "SET ROLE " + role + " first: it is not on after login");
    }
    Seeing seeing = new Seeing(access);
    Set<Integer> seen = new LinkedHashSet<>();
    for (Line line : answer.lines()) {
      boolean reads =
          line.trace() != null && line.trace().privilege() == Privilege.SELECT && line.has();
      if (reads && seen.add(line.need().node())) {
        for (String[] sight :
            SightText.lines(seeing.of(answer.user(), line.need().node()), shown)) {
          facts.line(sight[0], shown.path(line.need().node()) + ": " + sight[1]);
        }
      }
      int safe = line.has() ? -1 : seeing.safeViewOf(line.need().node());
      if (safe >= 0 && seen.add(safe)) {
        facts.line("safe", shown.path(safe) + " shows the table as its policies say");
      }
    }
    List<String> helps = helps(answer);
    for (int i = 0; i < helps.size(); i++) {
      facts.line(i > 0 ? "and" : helps.size() > 1 ? "together" : "helps", helps.get(i));
    }
    return facts.text();
  }

  /** What would help, in words; all of it is needed. */
  private List<String> helps(Answer answer) {
    List<String> helps = new ArrayList<>();
    Map<Grant, List<String>> columns = new LinkedHashMap<>();
    for (Step step : answer.helps()) {
      if (step instanceof GiveRole give) {
        helps.add("membership in " + shown.principal(access.principals().named(give.role())));
      } else if (step instanceof Grant grant) {
        Grant whole = new Grant(grant.privileges(), grant.on(), List.of(), grant.grantee(), false);
        columns.computeIfAbsent(whole, fresh -> new ArrayList<>()).addAll(grant.columns());
      }
    }
    columns.forEach(
        (grant, on) ->
            helps.add(
                String.join(", ", names(grant.privileges()))
                    + (on.isEmpty()
                        ? ""
                        : " (" + String.join(", ", on.stream().map(shown::name).toList()) + ")")
                    + " on "
                    + shown.node(Places.find(access.tree(), grant.on()))
                    + " to "
                    + shown.principal(access.principals().named(grant.grantee()))));
    return helps;
  }

  /** For programs. */
  public Map<String, Object> document(Answer answer) {
    Map<String, Object> document = new LinkedHashMap<>();
    document.put("user", shown.principal(answer.user()));
    document.put("answer", answer.works() ? "yes" : "no");
    document.put("state", answer.works() ? answer.state().text() : null);
    document.put("cannot_log_in", NoLogin.why(access, answer.user(), clock.instant()));
    document.put("switch_to", answer.role() < 0 ? null : shown.principal(answer.role()));
    document.put("needs", rowsFor(answer));
    document.put("remedies", helps(answer));
    return document;
  }

  /** A row for each thing that is needed. */
  public List<Map<String, Object>> rowsFor(Answer answer) {
    List<Map<String, Object>> all = new ArrayList<>();
    rows(answer)
        .forEach(
            (alike, columns) -> {
              Map<String, Object> row = new LinkedHashMap<>();
              row.put("privilege", alike.what());
              row.put("kind", access.tree().kind(alike.node()).contractName());
              row.put("object", access.tree().path(alike.node()));
              row.put(
                  "columns",
                  columns.isEmpty()
                      ? null
                      : columns.stream()
                          .mapToObj(ordinal -> access.tree().column(alike.node(), ordinal))
                          .toList());
              row.put("answer", alike.has() ? "yes" : "no");
              row.put("through", alike.through().isEmpty() ? null : alike.through());
              row.put("why_not", alike.why().isEmpty() ? null : alike.why());
              all.add(row);
            });
    return all;
  }
}
