package fiador.policies;

import fiador.estate.ColumnType;
import fiador.predicates.Values;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.HexFormat;

/**
 * What a user sees instead of a value. Null stays null under every mask, so that a mask never tells
 * more than whether there is a value. Texts are counted in characters, that is code points.
 */
public sealed interface Mask {
  /** What stands for a text of which nothing is shown. */
  String STARS = "*****";

  /** Does what is to be done with this kind. */
  <T> T match(MaskCases<T> cases);

  /** As a charter writes it. */
  String text();

  /** Whether it can mask columns of that type. */
  boolean fits(ColumnType type);

  /**
   * The value as it is shown.
   *
   * @param value of a type it fits; null stays null
   * @param key the secret key of digests, null where there is none
   */
  Object of(Object value, byte[] key);

  /** Nothing. */
  record Blank() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.blank(this);
    }

    @Override
    public String text() {
      return "blank";
    }

    @Override
    public boolean fits(ColumnType type) {
      return true;
    }

    @Override
    public Object of(Object value, byte[] key) {
      return null;
    }
  }

  /** Always the same. */
  record Fixed(String value) implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.fixed(this);
    }

    @Override
    public String text() {
      return "fixed('" + value.replace("'", "''") + "')";
    }

    @Override
    public boolean fits(ColumnType type) {
      if (type == ColumnType.FLOAT || type == ColumnType.OTHER) {
        return false;
      }
      try {
        Object fixed = Values.of(value, type);
        return type != ColumnType.INTEGER || ((BigDecimal) fixed).stripTrailingZeros().scale() <= 0;
      } catch (IllegalArgumentException not) {
        return false;
      }
    }

    @Override
    public Object of(Object from, byte[] key) {
      if (from instanceof BigDecimal) {
        return Values.of(value, ColumnType.DECIMAL);
      } else if (from instanceof LocalDate) {
        return Values.of(value, ColumnType.DATE);
      } else if (from instanceof LocalDateTime) {
        return Values.of(value, ColumnType.TIMESTAMP);
      } else if (from instanceof Boolean) {
        return Values.of(value, ColumnType.BOOLEAN);
      }
      return from == null ? null : value;
    }
  }

  /** A star for each character but the first ones; for all where there are no more than that. */
  record KeepFirst(int count) implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.keepFirst(this);
    }

    @Override
    public String text() {
      return "keep_first(" + count + ")";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isText();
    }

    @Override
    public Object of(Object value, byte[] key) {
      return value == null ? null : kept((String) value, count, 0);
    }
  }

  /** A star for each character but the last ones; for all where there are no more than that. */
  record KeepLast(int count) implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.keepLast(this);
    }

    @Override
    public String text() {
      return "keep_last(" + count + ")";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isText();
    }

    @Override
    public Object of(Object value, byte[] key) {
      return value == null ? null : kept((String) value, 0, count);
    }
  }

  private static String kept(String text, int first, int last) {
    int[] points = text.codePoints().toArray();
    boolean all = points.length <= first + last;
    for (int i = 0; i < points.length; i++) {
      if (all || i >= first && i < points.length - last) {
        points[i] = '*';
      }
    }
    return new String(points, 0, points.length);
  }

  /** Five stars, whatever the length. */
  record Stars() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.stars(this);
    }

    @Override
    public String text() {
      return "stars";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isText();
    }

    @Override
    public Object of(Object value, byte[] key) {
      return value == null ? null : STARS;
    }
  }

  /**
   * A keyed digest, the same for the same text, so that joins still work: SHA-256 of the key and of
   * SHA-256 of the key and the text in UTF-8, in hexadecimal.
   */
  record Digest() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.digest(this);
    }

    @Override
    public String text() {
      return "digest";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isText();
    }

    @Override
    public Object of(Object value, byte[] key) {
      if (value == null) {
        return null;
      }
      byte[] inner = sha256(key, ((String) value).getBytes(StandardCharsets.UTF_8));
      return HexFormat.of().formatHex(sha256(key, inner));
    }

    private static byte[] sha256(byte[] key, byte[] rest) {
      try {
        MessageDigest digest = MessageDigest.getInstance("SHA-256");
        digest.update(key);
        return digest.digest(rest);
      } catch (NoSuchAlgorithmException impossible) {
        throw new IllegalStateException(impossible);
      }
    }
  }

  /** Five stars and the domain of a mail address; of other texts only the stars. */
  record DomainOnly() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.domainOnly(this);
    }

    @Override
    public String text() {
      return "domain_only";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isText();
    }

    @Override
    public Object of(Object value, byte[] key) {
      if (value == null) {
        return null;
      }
      String text = (String) value;
      int at = text.indexOf('@');
      return at < 0 ? STARS : STARS + text.substring(at);
    }
  }

  /** Whether a number is above, below or at zero: 1, -1 or 0. */
  record SignOnly() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.signOnly(this);
    }

    @Override
    public String text() {
      return "sign_only";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isNumber();
    }

    @Override
    public Object of(Object value, byte[] key) {
      return value == null ? null : BigDecimal.valueOf(((BigDecimal) value).signum());
    }
  }

  /** Zero. */
  record Zero() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.zero(this);
    }

    @Override
    public String text() {
      return "zero";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isNumber();
    }

    @Override
    public Object of(Object value, byte[] key) {
      return value == null ? null : BigDecimal.ZERO;
    }
  }

  /** The next multiple of a number towards zero. */
  record RoundTo(int multiple) implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.roundTo(this);
    }

    @Override
    public String text() {
      return "round_to(" + multiple + ")";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type.isNumber();
    }

    @Override
    public Object of(Object value, byte[] key) {
      if (value == null) {
        return null;
      }
      BigDecimal whole = ((BigDecimal) value).setScale(0, RoundingMode.DOWN);
      return whole.subtract(whole.remainder(BigDecimal.valueOf(multiple)));
    }
  }

  /** The first day of the year, at midnight. */
  record YearOnly() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.yearOnly(this);
    }

    @Override
    public String text() {
      return "year_only";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type == ColumnType.DATE || type == ColumnType.TIMESTAMP;
    }

    @Override
    public Object of(Object value, byte[] key) {
      return firstDay(value, true);
    }
  }

  /** The first day of the month, at midnight. */
  record MonthOnly() implements Mask {
    @Override
    public <T> T match(MaskCases<T> cases) {
      return cases.monthOnly(this);
    }

    @Override
    public String text() {
      return "month_only";
    }

    @Override
    public boolean fits(ColumnType type) {
      return type == ColumnType.DATE || type == ColumnType.TIMESTAMP;
    }

    @Override
    public Object of(Object value, byte[] key) {
      return firstDay(value, false);
    }
  }

  /** Infinite dates, which some servers know, stay as they are. */
  private static Object firstDay(Object value, boolean ofYear) {
    if (value instanceof LocalDate day) {
      boolean infinite = day.equals(LocalDate.MAX) || day.equals(LocalDate.MIN);
      return infinite ? day : (ofYear ? day.withDayOfYear(1) : day.withDayOfMonth(1));
    } else if (value instanceof LocalDateTime time) {
      boolean infinite = time.equals(LocalDateTime.MAX) || time.equals(LocalDateTime.MIN);
      return infinite ? time : ((LocalDate) firstDay(time.toLocalDate(), ofYear)).atStartOfDay();
    }
    return null;
  }

  /**
   * Reads a mask.
   *
   * @throws IllegalArgumentException when it is none, saying so
   */
  static Mask of(String text) {
    return MaskReader.read(text);
  }
}
