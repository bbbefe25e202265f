package fiador.changes.steps;

import java.util.List;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * Two steps that belong together: one closes a safe view, the other opens it again when all between
 * them is done. What the server shows of one of them depends on how far the other got.
 *
 * @param closes the first
 * @param opens the second
 */
public record Meanwhile(ShowSafely closes, ShowSafely opens) {

  /** The two of which a step is one; null where it is none. */
  public static @Nullable Meanwhile of(Step step, List<Step> steps) {
    if (!(step instanceof ShowSafely one) || !isClosing(one) && !isOpening(one)) {
      return null;
    }
    for (Step each : steps) {
      if (each instanceof ShowSafely other && view(other).equals(view(one))) {
        if (isClosing(one) && isOpening(other)) {
          return new Meanwhile(one, other);
        } else if (isOpening(one) && isClosing(other)) {
          return new Meanwhile(other, one);
        }
      }
    }
    return null;
  }

  public static boolean isPart(Step step, List<Step> steps) {
    return of(step, steps) != null;
  }

  private static boolean isClosing(ShowSafely step) {
    return step.after() != null && step.after().showsNothing();
  }

  private static boolean isOpening(ShowSafely step) {
    return step.before() != null && step.before().showsNothing();
  }

  private static On view(ShowSafely step) {
    return step.either().view();
  }

  /**
   * Whether one of the two is still to be carried out.
   *
   * @param others whether anything else is
   * @param done whether the server shows a step
   */
  public boolean isMissing(Step step, boolean others, Predicate<Step> done) {
    if (step == opens) {
      return others || !done.test(opens);
    }
    // a view that shows the same before and after tells nothing of how far it came
    boolean same =
        closes.before() != null
            && opens.after() != null
            && closes.before().policies().equals(opens.after().policies());
    return !done.test(closes) && (same ? others : !done.test(opens));
  }
}
