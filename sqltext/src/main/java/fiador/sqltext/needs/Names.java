package fiador.sqltext.needs;

import fiador.estate.DottedName;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.Folding;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.lineage.QuotedNames;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import net.sf.jsqlparser.schema.Table;

/**
 * What the names of a statement mean. A name without a schema means the only thing of that name.
 * Cost: the nodes, for each name asked about.
 */
final class Names {
  private final Access access;
  private final Tree tree;
  private final QuotedNames quoted;
  private final Set<String> used = new HashSet<>();

  Names(Access access, QuotedNames quoted) {
    this.access = access;
    this.tree = access.tree();
    this.quoted = quoted;
  }

  /** A name as the server keeps it; null for none. */
  String name(String parsed) {
    String name = quoted.name(parsed);
    if (name != null) {
      used.add(plain(name));
    }
    return name;
  }

  private static String plain(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  /** Whether the statement's walk has come past a name. */
  boolean isUsed(String name) {
    return used.contains(plain(name));
  }

  /** Whether two names of columns or sources are the same on that server. */
  boolean same(String one, String other) {
    boolean anyCase = access.rules().names().folding() == Folding.NONE;
    return anyCase ? one.equalsIgnoreCase(other) : one.equals(other);
  }

  /** The ordinal of a column, -1 for none. */
  int column(int node, String name) {
    for (int i = 0; i < tree.columns(node); i++) {
      if (same(tree.column(node, i), name)) {
        return i;
      }
    }
    return None.COLUMN;
  }

  /**
   * The table or view of that name.
   *
   * @throws NotUnderstood where there is none, or several
   */
  int relation(Table table) throws NotUnderstood {
    String name = name(table.getName());
    String schema = name(table.getSchemaName());
    String database = name(table.getDatabaseName());
    IntArrayList found = new IntArrayList();
    for (int node : tree.named(name)) {
      if (isRelation(tree.kind(node)) && isIn(node, schema) && isInDatabase(node, database)) {
        found.add(node);
      }
    }
    return only(found, schema == null ? name : schema + "." + name);
  }

  /** Whether a table, view or routine is called that, and is not the server's own. */
  boolean isThing(String name) {
    for (int node : tree.named(name)) {
      if (tree.kind(node).isObject() && !tree.isSystem(node)) {
        return true;
      }
    }
    return false;
  }

  private int only(IntArrayList found, String what) throws NotUnderstood {
    if (found.isEmpty()) {
      throw new NotUnderstood("there is no " + what + " in the survey");
    } else if (found.size() > 1) {
      throw new NotUnderstood(what + " is in several places; write where");
    }
    return found.getInt(0);
  }

  private static boolean isRelation(NodeKind kind) {
    return kind == NodeKind.TABLE || kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW;
  }

  private boolean isIn(int node, String schema) {
    int home = tree.enclosing(node, NodeKind.SCHEMA);
    return schema == null ? !tree.isSystem(node) : home >= 0 && tree.name(home).equals(schema);
  }

  private boolean isInDatabase(int node, String database) {
    int home = tree.enclosing(node, NodeKind.DATABASE);
    return database == null || home >= 0 && tree.name(home).equals(database);
  }

  /**
   * The schema that something is made in.
   *
   * @throws NotUnderstood where it is not named, or not there
   */
  int schema(Table made) throws NotUnderstood {
    String schema = name(made.getSchemaName());
    if (schema == null) {
      throw new NotUnderstood("the schema that " + name(made.getName()) + " is in is not written");
    }
    IntArrayList found = new IntArrayList();
    for (int node : tree.named(schema)) {
      if (tree.kind(node) == NodeKind.SCHEMA) {
        found.add(node);
      }
    }
    return only(found, "schema " + schema);
  }

  /**
   * The routine of that name; -1 for what is the server's own.
   *
   * @param written with its schema, if there is one
   * @throws NotUnderstood where it may be one of several
   */
  int routine(String written) throws NotUnderstood {
    String[] parts = written.split("\\.", -1);
    String name = name(parts[parts.length - 1]);
    String schema = parts.length > 1 ? name(parts[parts.length - 2]) : null;
    IntArrayList found = new IntArrayList();
    for (int node = 0; node < tree.size(); node++) {
      boolean routine = tree.kind(node) == NodeKind.ROUTINE;
      if (routine
          && DottedName.withoutArguments(tree.name(node)).equals(name)
          && isIn(node, schema)) {
        found.add(node);
      }
    }
    if (found.isEmpty() && schema == null) {
      return None.NODE;
    }
    return only(found, "routine " + written);
  }
}
