package fiador.houses;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A text with columns in it: {@code {TABLE_NAME}}, {@code {OWNER|lower}}, {@code r_{ID}}. After a
 * bar stands what is done with the value: {@code upper}, {@code lower}, {@code trim}, {@code before
 * X} and {@code after X} for what stands before or after the first X (all of it, or nothing, where
 * there is none). No code, no loops. Two braces are one that stands for itself.
 *
 * @param parts what it consists of
 */
public record Expression(List<Part> parts) {

  /**
   * A piece.
   *
   * @param text what stands there, or the name of a column
   * @param isColumn which of the two
   * @param changes what is done with the column's value, one after the other
   */
  public record Part(String text, boolean isColumn, List<Change> changes) {}

  /** What is done with a value. */
  public record Change(Way way, String argument) {
    String of(String value) {
      int at = value.indexOf(argument);
      return switch (way) {
        case UPPER -> value.toUpperCase(Locale.ROOT);
        case LOWER -> value.toLowerCase(Locale.ROOT);
        case TRIM -> value.strip();
        case BEFORE -> at < 0 ? value : value.substring(0, at);
        case AFTER -> at < 0 ? "" : value.substring(at + argument.length());
      };
    }
  }

  /** The ways to change a value. */
  public enum Way {
    UPPER,
    LOWER,
    TRIM,
    BEFORE,
    AFTER;

    boolean takesArgument() {
      return this == BEFORE || this == AFTER;
    }
  }

  /** The columns it needs. */
  public List<String> columns() {
    return parts.stream().filter(Part::isColumn).map(Part::text).toList();
  }

  /**
   * What a text means.
   *
   * @throws IllegalArgumentException saying what is wrong with it
   */
  public static Expression of(String text) {
    List<Part> parts = new ArrayList<>();
    StringBuilder plain = new StringBuilder();
    int at = 0;
    while (at < text.length()) {
      char c = text.charAt(at);
      boolean twice = at + 1 < text.length() && text.charAt(at + 1) == c;
      if ((c == '{' || c == '}') && twice) {
        plain.append(c);
        at += 2;
      } else if (c == '{') {
        int end = text.indexOf('}', at);
        if (end < 0) {
          throw new IllegalArgumentException("a brace opens and is not closed");
        }
        addPlain(parts, plain);
        parts.add(column(text.substring(at + 1, end)));
        at = end + 1;
      } else if (c == '}') {
        throw new IllegalArgumentException("a brace closes that was not opened; write it twice");
      } else {
        plain.append(c);
        at++;
      }
    }
    addPlain(parts, plain);
    return new Expression(List.copyOf(parts));
  }

  private static void addPlain(List<Part> parts, StringBuilder plain) {
    if (plain.length() > 0) {
      parts.add(new Part(plain.toString(), false, List.of()));
      plain.setLength(0);
    }
  }

  private static Part column(String inside) {
    String[] pieces = inside.split("\\|", -1);
    String name = pieces[0].strip();
    if (name.isEmpty()) {
      throw new IllegalArgumentException("the name of a column is missing between the braces");
    }
    List<Change> changes = new ArrayList<>();
    for (int i = 1; i < pieces.length; i++) {
      changes.add(change(pieces[i].stripLeading()));
    }
    return new Part(name, true, List.copyOf(changes));
  }

  private static Change change(String written) {
    for (Way way : Way.values()) {
      String word = way.name().toLowerCase(Locale.ROOT);
      if (!way.takesArgument() && written.strip().equals(word)) {
        return new Change(way, "");
      }
      if (way.takesArgument()
          && written.startsWith(word + " ")
          && written.length() > word.length() + 1) {
        return new Change(way, written.substring(word.length() + 1));
      }
    }
    throw new IllegalArgumentException(
        "\""
            + written.strip()
            + "\" is nothing that can be done with a value; there are upper,"
            + " lower, trim, before X and after X");
  }
}
