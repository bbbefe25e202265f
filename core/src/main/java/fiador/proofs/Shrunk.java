package fiador.proofs;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;

/** Leaves out of what is enough together what is not needed for it. */
final class Shrunk {
  private Shrunk() {}

  /**
   * Parts that are enough together, none of which can be left out; of several such sets one with
   * the earlier ones.
   *
   * @param parts enough together
   * @param enough stays true with more parts; asked about as often as the result is long, times the
   *     logarithm of how many there are
   */
  static <T> List<T> of(List<T> parts, Predicate<List<T>> enough) {
    List<T> needed = new ArrayList<>();
    List<T> left = parts;
    while (!enough.test(needed)) {
      int few = 0;
      int many = left.size();
      while (many - few > 1) {
        int middle = (few + many) / 2;
        if (enough.test(both(needed, left.subList(0, middle)))) {
          many = middle;
        } else {
          few = middle;
        }
      }
      needed.add(0, left.get(many - 1));
      left = left.subList(0, many - 1);
    }
    return needed;
  }

  private static <T> List<T> both(List<T> one, List<T> other) {
    List<T> all = new ArrayList<>(one);
    all.addAll(other);
    return all;
  }
}
