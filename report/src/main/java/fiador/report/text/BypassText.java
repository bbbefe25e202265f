package fiador.report.text;

import fiador.across.Inflows.Inflow;
import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.policies.Bypass;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Ways round policies, for people and for programs. */
public final class BypassText {
  /** The fields, in order. */
  public static final List<String> FIELDS =
      List.of(
          "table", "through", "rows", "columns", "derived", "users", "powerful", "server", "login");

  private static final int NAMES = 4;

  private final Access access;
  private final Shown shown;
  private final int width;
  private final Instant now;

  /** Parameters as for {@link HoldingText}. */
  public BypassText(Access access, int width, Instant now) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.width = width;
    this.now = now;
  }

  /**
   * The answer and one line a way; those whom nothing stops at the end.
   *
   * @param inflows ways in from other servers, by table
   */
  public String text(List<Bypass.Way> ways, Map<Integer, List<Inflow>> inflows) {
    List<Bypass.Way> open =
        ways.stream().filter(way -> way.users().size() > way.powerful().size()).toList();
    boolean owned = ways.stream().anyMatch(way -> !way.owners().isEmpty());
    String answer =
        open.isEmpty()
            ? ways.isEmpty()
                ? "nobody gets round a policy"
                : owned
                    ? "only superusers and owners get round policies"
                    : "only superusers get round policies"
            : open.size() == 1 ? "1 way round a policy" : open.size() + " ways round policies";
    if (access.sights().kept().isEmpty() && access.sights().filters().isEmpty()) {
      answer = "there are no row or mask policies";
    }
    int others = inflows.values().stream().mapToInt(List::size).sum();
    if (others > 0) {
      answer += "; " + others + (others == 1 ? " way" : " ways") + " in from other servers";
    }
    StringBuilder text = new StringBuilder(Headline.of(answer, shown.origin(now), width));
    text.append("\n");
    Columns lines = new Columns(width);
    for (Bypass.Way way : open) {
      List<Integer> users = new ArrayList<>(way.users());
      users.removeAll(way.powerful());
      lines.line(shown.path(way.table()), what(way), through(way), names(users));
    }
    String said = lines.text();
    text.append(said.isEmpty() ? "" : "\n" + said);
    InflowText elsewhere = new InflowText(access, width);
    inflows.forEach(
        (table, each) ->
            text.append("\n  ")
                .append(shown.path(table))
                .append(" is read from other servers, as logins that hide who asks\n")
                .append(elsewhere.lines(table, each).text()));
    StringBuilder unstoppable = new StringBuilder();
    for (Bypass.Way way : ways) {
      if (!way.owners().isEmpty()) {
        unstoppable
            .append("  nothing stops who owns ")
            .append(shown.path(way.table()))
            .append(" or is exempt there: ")
            .append(names(way.owners()))
            .append("\n");
      }
    }
    List<Integer> superusers = new ArrayList<>();
    ways.forEach(
        way -> {
          superusers.addAll(way.powerful());
          superusers.removeAll(way.owners());
        });
    if (!superusers.isEmpty()) {
      List<Integer> each = superusers.stream().distinct().toList();
      unstoppable.append("  nothing stops superusers: ").append(names(each)).append("\n");
    }
    text.append(unstoppable.isEmpty() ? "" : "\n").append(unstoppable);
    return text.toString();
  }

  private String what(Bypass.Way way) {
    List<String> clear = new ArrayList<>(way.columns());
    clear.removeAll(way.derived());
    List<String> said = new ArrayList<>();
    if (way.rows()) {
      said.add("hidden rows");
    }
    if (!clear.isEmpty()) {
      said.add(columns(clear) + " unmasked");
    }
    if (!way.derived().isEmpty()) {
      said.add("values worked out of " + columns(way.derived()));
    }
    return String.join("; ", said);
  }

  private String columns(List<String> names) {
    return names.stream().map(shown::name).collect(Collectors.joining(", "));
  }

  private String through(Bypass.Way way) {
    List<Integer> views = way.path().subList(0, way.path().size() - 1);
    if (views.isEmpty()) {
      return "the table itself";
    }
    String first = access.tree().kind(views.get(0)) == NodeKind.ROUTINE ? "routine " : "view ";
    return first + views.stream().map(shown::path).collect(Collectors.joining(" > "));
  }

  private String names(List<Integer> users) {
    String some =
        users.stream().limit(NAMES).map(shown::principal).collect(Collectors.joining(", "));
    return users.size() > NAMES ? some + " and " + (users.size() - NAMES) + " more" : some;
  }

  /** One way in from another server. */
  public Map<String, Object> row(int table, Inflow inflow) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("table", access.tree().path(table));
    row.put("through", InflowText.across(inflow));
    row.put(
        "columns",
        inflow.columns().stream().mapToObj(at -> access.tree().column(table, at)).toList());
    row.put(
        "users",
        inflow.readers().stream()
            .map(each -> inflow.from().principals().name(each.user()))
            .toList());
    row.put("server", inflow.from().about().server());
    row.put("login", new InflowText(access, width).login(inflow));
    return row;
  }

  /** One way. */
  public Map<String, Object> row(Bypass.Way way) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("table", access.tree().path(way.table()));
    row.put("through", way.path().stream().map(access.tree()::path).toList());
    row.put("rows", way.rows());
    row.put("columns", way.columns());
    row.put("derived", way.derived());
    row.put("users", way.users().stream().map(access.principals()::name).toList());
    row.put("powerful", way.powerful().stream().map(access.principals()::name).toList());
    return row;
  }
}
