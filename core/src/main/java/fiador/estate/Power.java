package fiador.estate;

import java.util.Locale;

/** What a principal may do by an attribute of the server and not by a grant on a node. */
public enum Power {
  SUPERUSER,
  MANAGE_ROLES,
  CREATE_DATABASES,
  BYPASS_ROW_POLICIES,
  REPLICATION,
  READ_EVERYTHING,
  WRITE_EVERYTHING,
  MAINTAIN_EVERYTHING;

  /** This power's bit. */
  public int bit() {
    return 1 << ordinal();
  }

  /** The name in lower case with blanks. */
  public String text() {
    return name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }

  /** The power of that {@link #text()}, or null. */
  public static Power named(String text) {
    for (Power power : values()) {
      if (power.text().equals(text)) {
        return power;
      }
    }
    return null;
  }
}
