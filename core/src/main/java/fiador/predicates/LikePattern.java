package fiador.predicates;

/** Matches texts with patterns: {@code %} any characters, {@code _} one. */
final class LikePattern {
  private LikePattern() {}

  /** Whether the whole text matches. Cost: text times pattern at worst; no recursion. */
  static boolean matches(String text, String pattern) {
    int[] has = text.codePoints().toArray();
    int[] wants = pattern.codePoints().toArray();
    int at = 0;
    int in = 0;
    int star = -1;
    int resume = 0;
    while (at < has.length) {
      if (in < wants.length && wants[in] == '%') {
        star = in++;
        resume = at;
      } else if (in < wants.length && (wants[in] == '_' || wants[in] == has[at])) {
        in++;
        at++;
      } else if (star >= 0) {
        // the last % takes one character more
        in = star + 1;
        at = ++resume;
      } else {
        return false;
      }
    }
    while (in < wants.length && wants[in] == '%') {
      in++;
    }
    return in == wants.length;
  }
}
