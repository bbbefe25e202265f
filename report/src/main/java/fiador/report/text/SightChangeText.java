package fiador.report.text;

import fiador.changes.outcome.SightEffects.Change;
import fiador.changes.outcome.SightEffects.Look;
import fiador.changes.outcome.SightEffects.Mask;
import fiador.predicates.Expression;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;

/** What a change does to the rows and values people see, those who see alike together. */
final class SightChangeText {
  private static final int LINES = 25;
  private static final int MOST = 3;

  private final Shown shown;
  private final Function<IntArrayList, String> who;
  private final int width;

  private record Line(String who, String what) {}

  private record Difference(int table, Look was, Look is) {}

  /**
   * For text of that width.
   *
   * @param who how users are named together
   */
  SightChangeText(Shown shown, Function<IntArrayList, String> who, int width) {
    this.shown = shown;
    this.who = who;
    this.width = width;
  }

  /** A line for each table and way in which it is seen otherwise. */
  String text(List<Change> changes) {
    Map<Difference, IntArrayList> together = new LinkedHashMap<>();
    for (Change change : changes) {
      Difference difference = new Difference(change.table(), change.was(), change.is());
      together.computeIfAbsent(difference, none -> new IntArrayList()).add(change.user());
    }
    Map<Line, List<String>> tables = new LinkedHashMap<>();
    together.forEach(
        (difference, users) -> {
          Line line = new Line(who.apply(users), said(difference.was(), difference.is()));
          tables
              .computeIfAbsent(line, none -> new ArrayList<>())
              .add(shown.path(difference.table()));
        });
    Columns lines = new Columns(width);
    int left = LINES;
    for (Map.Entry<Line, List<String>> each : tables.entrySet()) {
      if (left-- > 0) {
        String all = String.join(", ", each.getValue());
        String where = each.getValue().size() > MOST ? each.getValue().size() + " tables" : all;
        lines.line(each.getKey().who(), where + ": " + each.getKey().what());
      }
    }
    int more = tables.size() - LINES;
    return lines.text()
        + (more > 0 ? "  and " + more + " more lines; --format json has all of them\n" : "");
  }

  private String said(Look was, Look is) {
    if (is == null) {
      return "nothing any more, before " + look(was);
    } else if (was == null) {
      return look(is) + ", before nothing";
    }
    List<String> parts = new ArrayList<>();
    if (!was.rows().equals(is.rows()) || was.known() != is.known()) {
      parts.add(rows(is) + ", before " + rows(was));
    }
    Map<String, Set<String>> columns = new TreeMap<>();
    Set<String> all = new TreeSet<>(was.masks().keySet());
    all.addAll(is.masks().keySet());
    for (String column : all) {
      String before = masks(was, column);
      String after = masks(is, column);
      if (!before.equals(after)) {
        columns
            .computeIfAbsent(after + ", before " + before, none -> new TreeSet<>())
            .add(shown.name(column));
      }
    }
    columns.forEach((how, names) -> parts.add(String.join(", ", names) + " " + how));
    return String.join("; ", parts);
  }

  private String masks(Look look, String column) {
    List<Mask> tried = look.masks().get(column);
    return tried == null ? "clear" : SightText.masks(tried, shown);
  }

  private String look(Look look) {
    Map<String, Set<String>> columns = new TreeMap<>();
    look.masks()
        .forEach(
            (column, tried) ->
                columns
                    .computeIfAbsent(masks(look, column), none -> new TreeSet<>())
                    .add(shown.name(column)));
    StringBuilder text = new StringBuilder(rows(look));
    columns.forEach(
        (mask, names) ->
            text.append(", ").append(String.join(", ", names)).append(" ").append(mask));
    return text.toString();
  }

  private String rows(Look look) {
    if (!look.known()) {
      return "rows by rules nobody understands";
    }
    boolean all = look.rows().equals(Expression.TRUE);
    return all
        ? "all rows"
        : look.isNothing() ? "no rows" : "rows where " + shown.predicate(look.rows());
  }
}
