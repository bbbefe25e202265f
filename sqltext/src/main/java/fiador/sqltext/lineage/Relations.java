package fiador.sqltext.lineage;

import java.util.List;

/** The tables and views that a text may name. */
public interface Relations {
  /**
   * The node of one.
   *
   * @param schema the schema's name, or null where the text does not say
   * @return -1 where there is none
   */
  int node(String schema, String name);

  /**
   * The node of one in a database that the text names.
   *
   * @return -1 where there is none
   */
  default int node(String database, String schema, String name) {
    return node(schema, name);
  }

  /** Whether a text can name things in other databases, so that names have three parts. */
  default boolean acrossDatabases() {
    return false;
  }

  /** The names of a node's columns, in their order. */
  List<String> columns(int node);
}
