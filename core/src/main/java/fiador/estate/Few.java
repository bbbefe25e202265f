package fiador.estate;

import java.util.Collection;
import java.util.stream.Collectors;

/** The first of several names, for a sentence. */
public final class Few {
  private Few() {}

  /** Such as "a, b and 3 more". */
  public static String of(Collection<String> names, int most) {
    String first = names.stream().limit(most).collect(Collectors.joining(", "));
    return names.size() > most ? first + " and " + (names.size() - most) + " more" : first;
  }
}
