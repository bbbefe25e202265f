package fiador.sqltext.needs;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Where names are looked up in one part of a statement: its sources, and around it those of what
 * holds it.
 */
final class Place {
  /**
   * A source of rows.
   *
   * @param schema of a table without an alias; else null
   * @param alias what it is called; null for nothing
   * @param node the table or view, -1 for a query
   * @param columns the names of its columns, null in the place of one without
   * @param open whether it may have columns that nobody tells
   */
  record Source(String schema, String alias, int node, List<String> columns, boolean open) {}

  private final Place around;
  private final List<Source> sources = new ArrayList<>();
  private final Map<String, List<String>> queries = new HashMap<>();
  private final List<String> outputs = new ArrayList<>();
  private final IdentityHashMap<Source, Set<String>> shared = new IdentityHashMap<>();

  Place(Place around) {
    this.around = around;
  }

  Place around() {
    return around;
  }

  List<Source> sources() {
    return sources;
  }

  /** What comes out, by name, once that is known. */
  List<String> outputs() {
    return outputs;
  }

  void add(Source source) {
    sources.add(source);
  }

  /** That a join shows another's column in the place of this one. */
  void share(Source source, String column) {
    shared.computeIfAbsent(source, fresh -> new HashSet<>()).add(column);
  }

  boolean isShared(Source source, String column) {
    return shared.getOrDefault(source, Set.of()).contains(column);
  }

  /** Names a query (WITH). */
  void name(String query, List<String> columns) {
    queries.put(query, columns);
  }

  /** The columns of the query of that name; null where there is none. */
  List<String> query(String name) {
    List<String> own = queries.get(name);
    return own != null || around == null ? own : around.query(name);
  }
}
