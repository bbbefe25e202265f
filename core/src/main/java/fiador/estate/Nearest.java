package fiador.estate;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;

/** Finds the names a mistyped one may have meant. */
public final class Nearest {
  private static final int MAX_LENGTH = 100;

  private Nearest() {}

  /**
   * The nearest names, best first: at most {@code limit}, none that differs in more than a third of
   * its letters. Cost: names times the square of their length.
   */
  public static List<String> to(String wanted, Stream<String> names, int limit) {
    String typed = wanted.toLowerCase(Locale.ROOT);
    record Scored(String name, int distance) {}
    return names
        .filter(name -> Math.abs(name.length() - wanted.length()) <= 1 + wanted.length() / 3)
        .map(name -> new Scored(name, distance(typed, name.toLowerCase(Locale.ROOT))))
        .filter(scored -> scored.distance <= 1 + wanted.length() / 3)
        .sorted(Comparator.comparingInt(Scored::distance).thenComparing(Scored::name))
        .limit(limit)
        .map(Scored::name)
        .toList();
  }

  /** A question to put behind a message: {@code "; did you mean x?"}, or nothing. */
  public static String hint(String wanted, Stream<String> names) {
    List<String> found = to(wanted, names, 3);
    return found.isEmpty() ? "" : "; did you mean " + String.join(" or ", found) + "?";
  }

  /** Edit distance (Levenshtein 1966, two rows), swaps of neighbours counting as two. */
  private static int distance(String a, String b) {
    if (a.length() > MAX_LENGTH || b.length() > MAX_LENGTH) {
      return a.equals(b) ? 0 : MAX_LENGTH;
    }
    int[] before = new int[b.length() + 1];
    int[] row = new int[b.length() + 1];
    for (int j = 0; j <= b.length(); j++) {
      before[j] = j;
    }
    for (int i = 1; i <= a.length(); i++) {
      row[0] = i;
      for (int j = 1; j <= b.length(); j++) {
        int changed = before[j - 1] + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
        row[j] = Math.min(changed, 1 + Math.min(before[j], row[j - 1]));
      }
      int[] spare = before;
      before = row;
      row = spare;
    }
    return before[b.length()];
  }
}
