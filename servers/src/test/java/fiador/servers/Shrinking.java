package fiador.servers;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/**
 * Makes a failing estate small: leaves statements out, by halves, quarters and so on, as long as
 * what is left fails too. Source: Zeller and Hildebrandt, Simplifying and Isolating
 * Failure-Inducing Input, 2002, the part that tries complements.
 */
public final class Shrinking {
  private final int most;
  private int tried;

  /** Whether an estate of only these statements still fails. */
  @FunctionalInterface
  public interface Failing {
    boolean with(IntPredicate kept) throws Exception;
  }

  /** Tries at most so often. */
  public Shrinking(int most) {
    this.most = most;
  }

  /** The numbers of statements that are left, of so many of which all together fail. */
  public List<Integer> of(int statements, Failing failing) throws Exception {
    List<Integer> left = new ArrayList<>(IntStream.range(0, statements).boxed().toList());
    for (int part = Math.max(1, left.size() / 2); part >= 1 && tried < most; ) {
      boolean less = false;
      for (int from = 0; from < left.size() && tried < most; ) {
        List<Integer> fewer = new ArrayList<>(left.subList(0, from));
        fewer.addAll(left.subList(Math.min(left.size(), from + part), left.size()));
        tried++;
        if (!fewer.isEmpty() && failing.with(fewer::contains)) {
          left = fewer;
          less = true;
        } else {
          from += part;
        }
      }
      if (part == 1 && !less) {
        break;
      }
      part = part == 1 ? 1 : Math.max(1, part / 2);
    }
    return left;
  }
}
