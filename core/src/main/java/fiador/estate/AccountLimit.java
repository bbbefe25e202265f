package fiador.estate;

import java.util.EnumMap;
import java.util.Locale;
import java.util.Map;
import java.util.StringJoiner;

/** What a server can keep an account to; the value is a whole number of what the name says. */
public enum AccountLimit {
  /** Sessions at one time. */
  CONNECTIONS,
  CONNECTIONS_PER_HOUR,
  QUERIES_PER_HOUR,
  UPDATES_PER_HOUR,
  /** How long one statement may run. */
  STATEMENT_MILLISECONDS,
  /** The line must be encrypted: {@link #BY_TLS} or {@link #BY_CERTIFICATE}. */
  ENCRYPTED;

  /** The line is encrypted. */
  public static final int BY_TLS = 1;

  /** Besides, the client shows a certificate; which one is not a matter of charters. */
  public static final int BY_CERTIFICATE = 2;

  /** The name in charters and surveys. */
  public String text() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The limit of that {@link #text()}, or null. */
  public static AccountLimit named(String text) {
    for (AccountLimit limit : values()) {
      if (limit.text().equals(text)) {
        return limit;
      }
    }
    return null;
  }

  /** The value as charters write it. */
  public String value(int value) {
    return this == ENCRYPTED ? "true" : Integer.toString(value);
  }

  /** Limits in one line, such as {@code connections 5, encrypted}; "none" where there are none. */
  public static String text(Map<AccountLimit, Integer> limits) {
    StringJoiner text = new StringJoiner(", ").setEmptyValue("none");
    inOrder(limits)
        .forEach(
            (limit, value) -> {
              String name = limit.text().replace('_', ' ');
              String line = value == BY_CERTIFICATE ? name + " by certificate" : name;
              text.add(limit == ENCRYPTED ? line : name + " " + value);
            });
    return text.toString();
  }

  /** Limits in the order in which they stand here. */
  public static Map<AccountLimit, Integer> inOrder(Map<AccountLimit, Integer> limits) {
    Map<AccountLimit, Integer> sorted = new EnumMap<>(AccountLimit.class);
    sorted.putAll(limits);
    return sorted;
  }
}
