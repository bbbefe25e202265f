package fiador.files.yaml;

import fiador.changes.wanted.Wanted.Place;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Everything that is wrong with a charter, in the order of its places. */
public final class Mistakes {
  private final List<Mistake> all = new ArrayList<>();

  /**
   * Something wrong.
   *
   * @param place where
   * @param message what was found, what was expected, and the nearest right thing
   */
  public record Mistake(Place place, String message) {
    @Override
    public String toString() {
      return place + ": " + message;
    }
  }

  public void add(Place place, String message) {
    all.add(new Mistake(place, message));
  }

  /** All of them, by file, line and column. */
  public List<Mistake> list() {
    return all.stream()
        .sorted(
            Comparator.comparing((Mistake m) -> m.place().file())
                .thenComparing(m -> m.place().line())
                .thenComparing(m -> m.place().column()))
        .distinct()
        .toList();
  }

  /** True when nothing is wrong. */
  public boolean isEmpty() {
    return all.isEmpty();
  }
}
