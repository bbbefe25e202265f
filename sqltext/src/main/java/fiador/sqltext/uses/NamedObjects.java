package fiador.sqltext.uses;

import fiador.estate.DottedName;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.sqltext.SqlToken;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Finds what a name in a statement means. A name without a schema may mean any object of that name
 * in the database: the log does not tell where the session looked. Cost: the objects, once.
 */
final class NamedObjects {
  private final Access access;
  private final Tree tree;
  private final Map<String, IntArrayList> byName = new HashMap<>();

  NamedObjects(Access access) {
    this.access = access;
    this.tree = access.tree();
    for (int node = 0; node < tree.size(); node++) {
      if (tree.kind(node).isObject() || tree.kind(node) == NodeKind.SCHEMA) {
        String name = tree.name(node);
        boolean routine = tree.kind(node) == NodeKind.ROUTINE;
        String key = routine ? DottedName.withoutArguments(name) : name;
        byName.computeIfAbsent(key, none -> new IntArrayList()).add(node);
      }
    }
  }

  private IntArrayList named(SqlToken word) {
    IntArrayList exact = byName.get(word.text());
    if (exact != null || word.isQuoted()) {
      return exact == null ? new IntArrayList() : exact;
    }
    IntArrayList folded = byName.get(access.rules().fold(word.text()));
    return folded == null ? new IntArrayList() : folded;
  }

  private boolean isNamed(int node, SqlToken word) {
    String name = tree.name(node);
    return name.equals(word.text())
        || !word.isQuoted() && name.equals(access.rules().fold(word.text()));
  }

  /**
   * The objects a dotted name may mean.
   *
   * @param database the one the session was in, or null
   */
  IntArrayList of(List<SqlToken> parts, String database) {
    IntArrayList found = new IntArrayList();
    boolean hasDatabases = access.rules().gates().size() > 1;
    for (int node : named(parts.get(parts.size() - 1))) {
      if (!tree.kind(node).isObject() || tree.isSystem(node) && parts.size() == 1) {
        continue;
      }
      boolean fits = true;
      int at = tree.parent(node);
      for (int i = parts.size() - 2; i >= 0 && fits; i--) {
        fits = at > 0 && isNamed(at, parts.get(i));
        at = at < 0 ? at : tree.parent(at);
      }
      int container = tree.enclosing(node, hasDatabases ? NodeKind.DATABASE : NodeKind.SCHEMA);
      boolean elsewhere =
          database != null
              && !database.isEmpty()
              && container >= 0
              && !tree.name(container).equals(database);
      // on MariaDB the session's database is a schema, and a written one goes before it
      if (fits && !(elsewhere && (hasDatabases || parts.size() == 1 && byDatabase()))) {
        found.add(node);
      }
    }
    return found;
  }

  private boolean byDatabase() {
    return access.accounts() != null;
  }

  /** The schemas of that name. */
  IntArrayList schemas(SqlToken word) {
    IntArrayList found = new IntArrayList();
    for (int node : named(word)) {
      if (tree.kind(node) == NodeKind.SCHEMA) {
        found.add(node);
      }
    }
    return found;
  }

  /** The ordinal of a column by a word, or -1. */
  int column(int node, SqlToken word) {
    int exact = tree.columnNamed(node, word.text());
    return exact >= 0 || word.isQuoted()
        ? exact
        : tree.columnNamed(node, access.rules().fold(word.text()));
  }
}
