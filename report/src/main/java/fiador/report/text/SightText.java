package fiador.report.text;

import fiador.changes.outcome.SightEffects;
import fiador.estate.Privilege;
import fiador.grants.Sights;
import fiador.policies.ActingMask;
import fiador.policies.RowPolicy;
import fiador.policies.Seeing;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.report.shown.Shown;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What decides on a user's rows and columns, for people. */
public final class SightText {
  /** What rows are added and changed by. */
  public static final Set<Privilege> WRITING = EnumSet.of(Privilege.INSERT, Privilege.UPDATE);

  private static final String THEN = ", then ";

  private SightText() {}

  /** Lines of a heading and what it is; none when nothing decides. */
  public static List<String[]> lines(Seeing.Answer answer, Shown shown) {
    List<String[]> lines = new ArrayList<>();
    if (answer == null) {
      return lines;
    }
    if (answer.exempt() != null) {
      lines.add(new String[] {"rows", "all: " + answer.exempt() + ", so no row policy counts"});
      return lines;
    }
    if (answer.altered()) {
      lines.add(
          new String[] {
            "rows", "not known: somebody changed by hand what was made from the policies"
          });
      return lines;
    }
    for (Sights.Rule rule : answer.beyond()) {
      lines.add(new String[] {"rows", rule.name() + ", not understood: " + rule.using()});
    }
    if (answer.beyond().isEmpty()) {
      rows(answer, shown, lines);
    }
    masks(answer.seen(), shown, lines);
    return lines;
  }

  private static void rows(Seeing.Answer answer, Shown shown, List<String[]> lines) {
    TableSight.Seen seen = answer.seen();
    if (answer.sight().rows().isEmpty()) {
      return;
    }
    String names =
        seen.rows().stream().map(RowPolicy::name).distinct().collect(Collectors.joining(", "));
    String by = names.isEmpty() ? "" : names + ": ";
    if (seen.noRows()) {
      lines.add(new String[] {"rows", by + "none"});
    } else if (seen.allRows()) {
      String exempt =
          seen.exempt().stream().map(RowPolicy::name).distinct().collect(Collectors.joining(", "));
      String why = exempt.isEmpty() ? by : "exempt from " + exempt + ": ";
      lines.add(new String[] {"rows", why + "all"});
    } else {
      lines.add(new String[] {"rows", by + shown.predicate(seen.condition())});
    }
  }

  /** Which rows a user may add, or change rows to; null where no policy says. */
  public static @Nullable String written(Seeing.Answer answer, Shown shown) {
    if (answer == null || answer.exempt() != null || answer.altered()) {
      return null;
    }
    Expression written = answer.seen().written();
    return written.equals(Expression.TRUE) ? null : shown.predicate(written);
  }

  private static void masks(TableSight.Seen seen, Shown shown, List<String[]> lines) {
    Map<String, List<String>> alike = new LinkedHashMap<>();
    seen.masks()
        .forEach(
            (column, tried) ->
                alike
                    .computeIfAbsent(masked(tried, shown), none -> new ArrayList<>())
                    .add(shown.name(column)));
    alike.forEach(
        (mask, columns) ->
            lines.add(new String[] {"masks", String.join(", ", columns) + ": " + mask}));
  }

  private static String masked(List<ActingMask> tried, Shown shown) {
    return tried.stream()
        .map(
            one ->
                unless(one.mask().mask().text(), one.clear(), shown)
                    + "  ("
                    + one.mask().policy()
                    + ")")
        .collect(Collectors.joining(THEN));
  }

  /** What stands in place of values, in a line. */
  static String masks(List<SightEffects.Mask> tried, Shown shown) {
    return tried.stream()
        .map(one -> unless(one.shows(), one.clear(), shown))
        .collect(Collectors.joining(THEN));
  }

  /** What stands in place of a value, and in which rows it does not. */
  static String unless(String shows, Expression clear, Shown shown) {
    return clear.equals(Expression.FALSE) ? shows : shows + " unless " + shown.predicate(clear);
  }
}
