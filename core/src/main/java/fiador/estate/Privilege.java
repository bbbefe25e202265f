package fiador.estate;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/** A privilege by its ISO name, or by the server's own where ISO SQL has none. */
public enum Privilege {
  SELECT,
  INSERT,
  UPDATE,
  DELETE,
  TRUNCATE,
  REFERENCES,
  TRIGGER,
  MAINTAIN,
  USAGE,
  EXECUTE,
  CREATE,
  CONNECT,
  TEMPORARY;

  private static final Privilege[] ALL = values();
  private static final Map<String, Privilege> BY_TEXT = new HashMap<>();

  static {
    for (Privilege privilege : ALL) {
      BY_TEXT.put(privilege.text, privilege);
    }
  }

  private final String text = name().toLowerCase(Locale.ROOT).replace('_', ' ');

  /** This privilege's bit in a set of privileges. */
  public long bit() {
    return 1L << ordinal();
  }

  /** The name in lower case, as the machine contract writes it. */
  public String text() {
    return text;
  }

  /** The privilege of that name in any case, or null. */
  public static Privilege named(String text) {
    return BY_TEXT.get(text.toLowerCase(Locale.ROOT));
  }

  /** The privilege whose {@link #bit} is the lowest one set in {@code bits}. */
  public static Privilege lowest(long bits) {
    return ALL[Long.numberOfTrailingZeros(bits)];
  }
}
