package fiador.estate;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/** The kinds of node in the tree, from the outside in. */
public enum NodeKind {
  SERVER("server"),
  DATABASE("database"),
  SCHEMA("schema"),
  TABLE("table"),
  MATERIALIZED_VIEW("table"),
  VIEW("view"),
  SEQUENCE("sequence"),
  ROUTINE("routine");

  private static final NodeKind[] ALL = values();
  private static final Map<String, NodeKind> BY_TEXT = new HashMap<>();

  static {
    for (NodeKind kind : ALL) {
      BY_TEXT.put(kind.text(), kind);
    }
  }

  private final String contractName;

  NodeKind(String contractName) {
    this.contractName = contractName;
  }

  /** The name the machine contract uses; a materialized view counts as a table there. */
  public String contractName() {
    return contractName;
  }

  /** The name people use, in lower case with blanks. */
  public String text() {
    return name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }

  /** The kind of that {@link #text()}, or null. */
  public static NodeKind named(String text) {
    return BY_TEXT.get(text);
  }

  /** The kind with that ordinal. */
  public static NodeKind at(int ordinal) {
    return ALL[ordinal];
  }

  /** This kind's bit in a set of kinds. */
  public int bit() {
    return 1 << ordinal();
  }

  /** The bits of all kinds that live in a schema. */
  public static int allObjects() {
    int bits = 0;
    for (NodeKind kind : ALL) {
      bits |= kind.isObject() ? kind.bit() : 0;
    }
    return bits;
  }

  /** The bits of all kinds that can lie inside this one; none for what lives in a schema. */
  public int inside() {
    int bits = 0;
    for (NodeKind kind : ALL) {
      bits |= !isObject() && kind.ordinal() > ordinal() ? kind.bit() : 0;
    }
    return bits;
  }

  /** True for what lives in a schema, false for the containers. */
  public boolean isObject() {
    return ordinal() >= TABLE.ordinal();
  }
}
