package fiador.policies;

import java.util.Arrays;

/**
 * Texts in one line, with tabs between them; what stands in them of tabs and line ends is escaped,
 * so that they come back as they were.
 */
public final class Fields {
  private Fields() {}

  /** The line. */
  public static String join(String... fields) {
    StringBuilder line = new StringBuilder();
    for (int i = 0; i < fields.length; i++) {
      String plain = fields[i].replace("\\", "\\\\").replace("\t", "\\t");
      line.append(i == 0 ? "" : "\t").append(plain.replace("\n", "\\n").replace("\r", "\\r"));
    }
    return line.toString();
  }

  /** What was joined. */
  public static String[] of(String line) {
    return Arrays.stream(line.split("\t", -1)).map(Fields::plain).toArray(String[]::new);
  }

  private static String plain(String escaped) {
    StringBuilder plain = new StringBuilder();
    for (int i = 0; i < escaped.length(); i++) {
      char c = escaped.charAt(i);
      if (c == '\\' && i + 1 < escaped.length()) {
        char what = escaped.charAt(++i);
        plain.append(what == 't' ? '\t' : what == 'n' ? '\n' : what == 'r' ? '\r' : what);
      } else {
        plain.append(c);
      }
    }
    return plain.toString();
  }
}
