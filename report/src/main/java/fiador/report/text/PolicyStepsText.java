package fiador.report.text;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.On;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.Step;
import fiador.policies.SafeColumn;
import fiador.policies.TableSight;
import fiador.report.shown.Shown;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** What steps make of the policies on tables and of what is known of users. */
final class PolicyStepsText {
  private final Shown shown;
  private final int width;

  PolicyStepsText(Shown shown, int width) {
    this.shown = shown;
    this.width = width;
  }

  /** A line a table or user; empty when no policy changes. */
  String text(List<Step> steps) {
    Columns lines = new Columns(width);
    List<Step> ends = withViewsAtTheirEnds(steps);
    Set<On> shownOtherwise = new HashSet<>();
    for (Step step : ends) {
      if (step instanceof ShowSafely show && show.after() != null) {
        shownOtherwise.add(show.after().table());
      }
    }
    for (Step step : ends) {
      if (step instanceof ShowSafely show) {
        SafeView view = show.either();
        boolean open = !shownOtherwise.contains(view.table());
        lines.line(table(view.underName() ? view.view() : view.table()), how(show, open));
      } else if (step instanceof FilterRows filter) {
        lines.line(
            table(filter.table()),
            filter.after().isEmpty()
                ? "rows are no longer filtered"
                : "filtered by the server: " + policies(filter.after(), filter.columns()));
      } else if (step instanceof SetAttribute set && !set.attribute().equals("name")) {
        lines.line(
            shown.name(set.user()),
            "attribute "
                + set.attribute()
                + ": "
                + values(set.after())
                + (set.before().isEmpty() ? "" : ", before " + values(set.before())));
      }
    }
    return lines.text();
  }

  /**
   * @param open whether the table itself is read once the view is gone
   */
  private String how(ShowSafely show, boolean open) {
    SafeView view = show.either();
    String policies = ": " + policies(view.policies(), view.columns());
    if (view.underName()) {
      String aside = "the table itself is " + last(view.table());
      return show.after() == null
          ? "the table has its name again"
          : (show.before() == null
                  ? "a view under its name (" + aside + ")"
                  : "view under its name")
              + policies;
    }
    String made = (show.before() == null ? "new safe view " : "safe view ") + last(view.view());
    String gone = made + " goes" + (open ? ", the table is open again" : "");
    return show.after() == null ? gone : made + policies;
  }

  private String last(On on) {
    return shown.name(on.parts().get(on.parts().size() - 1));
  }

  /** The steps, where a view that is closed meanwhile has one from what it was to what it is. */
  private static List<Step> withViewsAtTheirEnds(List<Step> all) {
    List<Step> steps = new ArrayList<>();
    Map<On, SafeView> before = new LinkedHashMap<>();
    for (Step step : all) {
      if (!(step instanceof ShowSafely show)) {
        steps.add(step);
      } else if (show.after() != null && show.after().showsNothing()) {
        before.put(show.after().view(), show.before());
      } else {
        On view = show.either().view();
        SafeView was = before.containsKey(view) ? before.get(view) : show.before();
        if (was == null || !was.equals(show.after())) {
          steps.add(new ShowSafely(was, show.after()));
        }
      }
    }
    return steps;
  }

  private static String values(List<String> values) {
    return values.isEmpty() ? "none any more" : String.join(", ", values);
  }

  private String table(On on) {
    return on.parts().stream().map(shown::name).collect(Collectors.joining("."));
  }

  private String policies(String text, List<SafeColumn> columns) {
    TableSight sight = fiador.policies.SightText.read(text, columns);
    Set<String> rows = new LinkedHashSet<>();
    sight
        .rows()
        .forEach(
            policy -> rows.add(policy.name() + (policy.bindsWriting() ? ", writers too" : "")));
    Set<String> masks = new LinkedHashSet<>();
    sight
        .masks()
        .forEach(
            mask ->
                masks.add(
                    mask.policy()
                        + " ("
                        + SightText.unless(mask.mask().text(), mask.clearWhere(), shown)
                        + ")"));
    String first = rows.isEmpty() ? "" : "rows by " + String.join(", ", rows);
    String then = masks.isEmpty() ? "" : "masks by " + String.join(", ", masks);
    return first + (first.isEmpty() || then.isEmpty() ? "" : "; ") + then;
  }
}
