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
  TEMPORARY,
  DROP,
  ALTER,
  INDEX,
  CREATE_VIEW,
  SHOW_VIEW,
  CREATE_ROUTINE,
  ALTER_ROUTINE,
  CREATE_TEMPORARY_TABLES,
  LOCK_TABLES,
  EVENT,
  DELETE_HISTORY,
  SHOW_CREATE_ROUTINE,
  RELOAD,
  SHUTDOWN,
  PROCESS,
  FILE,
  SHOW_DATABASES,
  SUPER,
  REPLICATION_SLAVE,
  BINLOG_MONITOR,
  CREATE_USER,
  CREATE_TABLESPACE,
  SET_USER,
  FEDERATED_ADMIN,
  CONNECTION_ADMIN,
  READ_ONLY_ADMIN("read_only admin"),
  REPLICATION_SLAVE_ADMIN,
  REPLICATION_MASTER_ADMIN,
  BINLOG_ADMIN,
  BINLOG_REPLAY,
  SLAVE_MONITOR;

  private static final Privilege[] ALL = values();
  private static final Map<String, Privilege> BY_TEXT = new HashMap<>();

  static {
    for (Privilege privilege : ALL) {
      BY_TEXT.put(privilege.text, privilege);
    }
  }

  private final String text;

  Privilege() {
    this.text = name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }

  Privilege(String text) {
    this.text = text;
  }

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
