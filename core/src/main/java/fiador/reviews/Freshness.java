package fiador.reviews;

import fiador.reviews.Drafting.Draft;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Whether the facts of a review are still so.
 *
 * @param changed lines that give something else today
 * @param gone lines about what is not there any more
 * @param added what is there today and no line asks about
 */
public record Freshness(List<Line> changed, List<Line> gone, List<Draft> added) {
  /** Compares a review with what would be asked today. Cost: both. */
  public static Freshness of(Review review, List<Draft> today) {
    Map<Entitlement, Draft> now = new LinkedHashMap<>();
    today.forEach(draft -> now.put(draft.about(), draft));
    List<Line> changed = new ArrayList<>();
    List<Line> gone = new ArrayList<>();
    for (Line line : review.lines()) {
      Draft draft = now.remove(line.about());
      if (draft == null) {
        gone.add(line);
      } else if (!draft.facts().equals(line.facts())) {
        changed.add(line);
      }
    }
    return new Freshness(changed, gone, List.copyOf(now.values()));
  }

  /** Whether everything is as it was. */
  public boolean isFresh() {
    return changed.isEmpty() && gone.isEmpty() && added.isEmpty();
  }
}
