package fiador.report.text;

import fiador.changes.steps.Step;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;
import java.util.TreeMap;

/** What steps were carried out, counted by what they are. */
public final class StepSummary {
  private StepSummary() {}

  /** Such as "3 grants given, 1 user created". */
  public static String of(List<Step> steps) {
    Map<String, Integer> counts = new TreeMap<>();
    steps.forEach(step -> counts.merge(kind(step), 1, Integer::sum));
    StringJoiner parts = new StringJoiner(", ");
    counts.forEach(
        (what, count) ->
            parts.add(count + " " + (count == 1 ? what.replaceFirst("s( |$)", "$1") : what)));
    return parts.toString();
  }

  private static String kind(Step step) {
    if (step instanceof Step.LetIn in) {
      return kind(in.taking());
    } else if (step instanceof Step.CreateRole) {
      return "roles created";
    } else if (step instanceof Step.CreateUser) {
      return "users created";
    } else if (step instanceof Step.DropRole || step instanceof Step.DropUser) {
      return "users and roles dropped";
    } else if (step instanceof Step.GiveRole || step instanceof Step.DefaultRole) {
      return "memberships given";
    } else if (step instanceof Step.TakeRole) {
      return "memberships taken";
    } else if (step instanceof Step.Revoke
        || step instanceof Step.TakeOption
        || step instanceof Step.RevokeLater) {
      return "grants taken";
    } else if (step instanceof Step.TakeOver) {
      return "grants and memberships taken over";
    } else if (step instanceof Step.ChangeOwner) {
      return "owners changed";
    } else if (step instanceof Step.ShowSafely show) {
      boolean closed = show.after() != null && show.after().showsNothing();
      return closed ? "safe views closed meanwhile" : "safe views settled";
    } else if (step instanceof Step.FilterRows) {
      return "row filters settled";
    } else if (step instanceof Step.SetAttribute) {
      return "attributes set";
    } else if (step instanceof Step.Guard || step instanceof Step.DefineLookup) {
      return "parts of the guarded schema made";
    }
    return step instanceof Step.LetLogIn || step instanceof Step.LimitInTime
        ? "changes of accounts"
        : "grants given";
  }
}
