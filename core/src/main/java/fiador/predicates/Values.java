package fiador.predicates;

import fiador.estate.ColumnType;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.util.Locale;

/** Values of predicates and masks, and their texts. */
public final class Values {
  private static final DateTimeFormatter TIMESTAMP =
      new DateTimeFormatterBuilder()
          .append(DateTimeFormatter.ISO_LOCAL_DATE)
          .appendLiteral(' ')
          .append(DateTimeFormatter.ISO_LOCAL_TIME)
          .toFormatter(Locale.ROOT);

  private Values() {}

  /**
   * The value a text stands for.
   *
   * @throws IllegalArgumentException when it is none of that type, saying so
   */
  public static Object of(String text, ColumnType type) {
    try {
      return switch (type) {
        case INTEGER, DECIMAL -> new BigDecimal(text.strip());
        case DATE -> LocalDate.parse(plain(text));
        case TIMESTAMP -> LocalDateTime.parse(plain(text).replace(' ', 'T'));
        case BOOLEAN -> truth(text.strip());
        default -> text;
      };
    } catch (DateTimeException | NumberFormatException not) {
      throw new IllegalArgumentException("\"" + text + "\" is no " + noun(type), not);
    }
  }

  /** Years of four digits, which every server knows. */
  private static String plain(String date) {
    String plain = date.strip();
    if (plain.startsWith("+") || plain.startsWith("-") || plain.startsWith("0000")) {
      throw new DateTimeException("a year outside 0001 to 9999");
    }
    return plain;
  }

  private static Boolean truth(String text) {
    if (text.equals("true") || text.equals("false")) {
      return text.equals("true");
    }
    throw new IllegalArgumentException("\"" + text + "\" is neither true nor false");
  }

  static String noun(ColumnType type) {
    return switch (type) {
      case TEXT, PADDED -> "text";
      case INTEGER, DECIMAL -> "number";
      case FLOAT -> "approximate number";
      case DATE -> "date such as 2026-03-31";
      case TIMESTAMP -> "timestamp such as 2026-03-31 12:00:00";
      case BOOLEAN -> "truth value";
      case OTHER -> "value that predicates know";
    };
  }

  /** A value as text, as {@link #of} reads it. */
  public static String text(Object value) {
    if (value instanceof BigDecimal number) {
      return number.toPlainString();
    }
    return value instanceof LocalDateTime time ? time.format(TIMESTAMP) : String.valueOf(value);
  }

  /** The order of two values of types that compare: texts by code points, all else as usual. */
  static int compare(Object left, Object right) {
    if (left instanceof String one && right instanceof String other) {
      return compareTexts(one, other);
    } else if (left instanceof BigDecimal one && right instanceof BigDecimal other) {
      return one.compareTo(other);
    } else if (left instanceof LocalDate one && right instanceof LocalDate other) {
      return one.compareTo(other);
    } else if (left instanceof LocalDateTime one && right instanceof LocalDateTime other) {
      return one.compareTo(other);
    } else if (left instanceof Boolean one && right instanceof Boolean other) {
      return one.compareTo(other);
    }
    throw new IllegalArgumentException("cannot compare " + left + " with " + right);
  }

  private static int compareTexts(String one, String other) {
    int[] left = one.codePoints().toArray();
    int[] right = other.codePoints().toArray();
    return java.util.Arrays.compare(left, right);
  }
}
