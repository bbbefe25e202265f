package fiador.selection;

import java.util.regex.Pattern;

/**
 * A name with {@code *} for any characters and {@code ?} for one, as people type it; large and
 * small letters are the same.
 */
public final class NamePattern {
  private final Pattern pattern;

  /** What was typed. */
  public NamePattern(String typed) {
    StringBuilder regex = new StringBuilder();
    StringBuilder plain = new StringBuilder();
    for (int at = 0; at < typed.length(); at++) {
      char c = typed.charAt(at);
      if (c == '*' || c == '?') {
        regex.append(Pattern.quote(plain.toString())).append(c == '*' ? ".*" : ".");
        plain.setLength(0);
      } else {
        plain.append(c);
      }
    }
    regex.append(Pattern.quote(plain.toString()));
    this.pattern =
        Pattern.compile(
            regex.toString(), Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE | Pattern.DOTALL);
  }

  /** Whether a text is a pattern and no plain name. */
  public static boolean is(String typed) {
    return typed.indexOf('*') >= 0 || typed.indexOf('?') >= 0;
  }

  /** Whether a name is one of those. */
  public boolean matches(String name) {
    return pattern.matcher(name).matches();
  }
}
