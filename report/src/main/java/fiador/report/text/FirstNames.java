package fiador.report.text;

import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;

/** The first of many by name, and how many more there are. */
final class FirstNames {
  private FirstNames() {}

  /**
   * In one line.
   *
   * @param most how many are named
   */
  static <T> String of(List<T> all, Function<T, String> name, int most) {
    int more = all.size() - most;
    String named = all.stream().limit(most).map(name).collect(Collectors.joining(", "));
    return named + (more > 0 ? " and " + more + " more" : "");
  }
}
