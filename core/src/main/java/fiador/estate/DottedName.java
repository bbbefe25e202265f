package fiador.estate;

import java.util.ArrayList;
import java.util.List;

/**
 * Dotted names as the machine contract writes them: parts as they are, double-quoted when they hold
 * anything but letters, digits, {@code _} and {@code $}; a quote inside is doubled.
 */
public final class DottedName {
  private DottedName() {}

  /** One part of a name, quoted where it has to be. */
  public static String quoted(String part) {
    return isPlain(part) ? part : '"' + part.replace("\"", "\"\"") + '"';
  }

  /** Said in a loop, because long lists ask it for each part of each name. */
  private static boolean isPlain(String part) {
    boolean plain = !part.isEmpty();
    for (int at = 0; plain && at < part.length(); at += Character.charCount(part.codePointAt(at))) {
      int c = part.codePointAt(at);
      plain =
          Character.isLetter(c)
              || Character.getType(c) == Character.DECIMAL_DIGIT_NUMBER
              || c == '_'
              || c == '$';
    }
    return plain;
  }

  /**
   * One part of a routine's name, whose argument types stay outside the quotes: {@code add(integer,
   * text)}.
   */
  public static String quotedRoutine(String part) {
    int open = part.endsWith(")") ? openingOf(part) : -1;
    return open < 0 ? quoted(part) : quoted(part.substring(0, open)) + part.substring(open);
  }

  /** A routine's name without its argument types. */
  public static String withoutArguments(String routine) {
    int open = routine.endsWith(")") ? openingOf(routine) : -1;
    return open < 0 ? routine : routine.substring(0, open);
  }

  /**
   * The parenthesis that the closing one at the end belongs to: types may hold some of their own.
   */
  private static int openingOf(String part) {
    int depth = 0;
    boolean inQuotes = false;
    for (int i = part.length() - 1; i >= 0; i--) {
      char c = part.charAt(i);
      if (c == '"') {
        inQuotes = !inQuotes;
      } else if (!inQuotes && c == ')') {
        depth++;
      } else if (!inQuotes && c == '(' && --depth == 0) {
        return i;
      }
    }
    return -1;
  }

  /**
   * A part of a dotted name.
   *
   * @param text the name without its quotes
   * @param quoted whether it was written in quotes, so that it must be taken exactly
   */
  public record Part(String text, boolean quoted) {}

  /**
   * Splits a dotted name. Dots inside double quotes or parentheses do not split.
   *
   * @throws IllegalArgumentException when a quote is not closed or a part is empty
   */
  public static List<Part> split(String name) {
    List<Part> parts = new ArrayList<>();
    StringBuilder part = new StringBuilder();
    boolean quoted = false;
    int depth = 0;
    int i = 0;
    while (i < name.length()) {
      char c = name.charAt(i);
      if (c == '"' && depth == 0) {
        quoted = true;
        i = readQuoted(name, i + 1, part);
        continue;
      }
      depth += c == '(' ? 1 : c == ')' ? -1 : 0;
      if (c == '.' && depth == 0) {
        parts.add(finished(name, part, quoted));
        part.setLength(0);
        quoted = false;
      } else {
        part.append(c);
      }
      i++;
    }
    parts.add(finished(name, part, quoted));
    return parts;
  }

  private static int readQuoted(String name, int from, StringBuilder part) {
    int i = from;
    while (i < name.length()) {
      if (name.charAt(i) != '"') {
        part.append(name.charAt(i++));
      } else if (i + 1 < name.length() && name.charAt(i + 1) == '"') {
        part.append('"');
        i += 2;
      } else {
        return i + 1;
      }
    }
    throw new IllegalArgumentException("the quote that opens in " + name + " is not closed");
  }

  private static Part finished(String name, StringBuilder part, boolean quoted) {
    if (part.length() == 0) {
      throw new IllegalArgumentException("a part of the name " + name + " is empty");
    }
    return new Part(part.toString(), quoted);
  }
}
