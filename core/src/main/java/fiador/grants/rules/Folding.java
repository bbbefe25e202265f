package fiador.grants.rules;

import java.util.Locale;

/** What a server does to the letters of an unquoted name. */
public enum Folding {
  UPPER,
  LOWER,
  NONE;

  /** A name as the server would store it if it were written without quotes. */
  public String of(String name) {
    return switch (this) {
      case UPPER -> name.toUpperCase(Locale.ROOT);
      case LOWER -> name.toLowerCase(Locale.ROOT);
      case NONE -> name;
    };
  }
}
