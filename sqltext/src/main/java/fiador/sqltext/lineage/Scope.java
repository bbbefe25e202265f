package fiador.sqltext.lineage;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What names mean in one part of a query: its sources, and around it those of what holds it. */
final class Scope {
  /**
   * A column that comes out of a source or a query.
   *
   * @param name null for one without a name
   */
  record Output(String name, Set<Shown> shown) {
    Set<Shown> changed() {
      Set<Shown> changed = new LinkedHashSet<>();
      shown.forEach(each -> changed.add(each.changed()));
      return changed;
    }
  }

  /**
   * A thing in a FROM clause.
   *
   * @param schema of a table without an alias; else null
   * @param any what any column shows, where its columns are not known; else null
   */
  record Source(String schema, String alias, List<Output> outputs, Set<Shown> any) {}

  private final Scope around;
  private final List<Source> sources = new ArrayList<>();
  private final Map<String, List<Output>> queries = new HashMap<>();

  Scope(Scope around) {
    this.around = around;
  }

  void add(Source source) {
    sources.add(source);
  }

  List<Source> sources() {
    return sources;
  }

  /** Names a query (WITH). */
  void name(String query, List<Output> outputs) {
    queries.put(query, outputs);
  }

  /** The query of that name; null where there is none. */
  List<Output> query(String name) {
    List<Output> own = queries.get(name);
    return own != null || around == null ? own : around.query(name);
  }

  /** The source of that name, the nearest; null where there is none. */
  Source source(String schema, String alias) {
    for (Source source : sources) {
      boolean same = schema == null || schema.equals(source.schema());
      if (same && alias.equals(source.alias())) {
        return source;
      }
    }
    return around == null ? null : around.source(schema, alias);
  }

  /**
   * What a column shows; where a join makes one of several, what any of them shows.
   *
   * @param source its qualifier, or null
   * @return null where there is no such column
   */
  Set<Shown> column(Source source, String name) {
    if (source != null) {
      Set<Shown> found = in(source, name);
      return found == null ? source.any() : found;
    }
    Set<Shown> all = new LinkedHashSet<>();
    boolean any = false;
    for (Source each : sources) {
      Set<Shown> found = in(each, name);
      any |= found != null;
      all.addAll(found == null ? Set.of() : found);
    }
    for (Source each : sources) {
      // a function's columns have names that nobody tells
      if (!any && each.any() != null) {
        all.addAll(each.any());
        return all;
      }
    }
    return any ? all : around == null ? null : around.column(null, name);
  }

  private static Set<Shown> in(Source source, String name) {
    Set<Shown> all = null;
    for (Output output : source.outputs()) {
      if (name.equals(output.name())) {
        all = all == null ? new LinkedHashSet<>() : all;
        all.addAll(output.shown());
      }
    }
    return all;
  }
}
