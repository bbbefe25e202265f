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

  /** The names of a node's columns, in their order. */
  List<String> columns(int node);
}
