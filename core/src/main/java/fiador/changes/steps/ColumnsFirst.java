package fiador.changes.steps;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * An order in which what is on columns is taken before the same is taken from the whole: the whole
 * takes the columns along, and some servers then refuse to take what is no longer there. Cost: the
 * steps.
 */
public final class ColumnsFirst {
  private ColumnsFirst() {}

  /** The same steps, each as late as it was or earlier. */
  public static List<Step> of(List<Step> steps) {
    Map<List<Object>, List<Step>> onColumns = new LinkedHashMap<>();
    for (Step step : steps) {
      if (step instanceof Revoke revoke && !revoke.columns().isEmpty()) {
        onColumns.computeIfAbsent(about(revoke), fresh -> new ArrayList<>()).add(step);
      }
    }
    Set<Step> ordered = new LinkedHashSet<>();
    for (Step step : steps) {
      if (step instanceof Revoke revoke && revoke.columns().isEmpty()) {
        ordered.addAll(onColumns.getOrDefault(about(revoke), List.of()));
      }
      ordered.add(step);
    }
    return List.copyOf(ordered);
  }

  private static List<Object> about(Revoke revoke) {
    return List.of(revoke.grantee(), revoke.on());
  }
}
