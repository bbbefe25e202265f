package fiador.sqltext.uses;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.evidence.Evidence;
import fiador.grants.Access;
import fiador.sqltext.Inside;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.Statement;
import net.sf.jsqlparser.statement.delete.Delete;
import net.sf.jsqlparser.statement.insert.Insert;
import net.sf.jsqlparser.statement.merge.Merge;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.truncate.Truncate;
import net.sf.jsqlparser.statement.update.Update;

/** What one statement uses: privileges on things, as far as its words tell. */
final class OneStatement {
  private static final long TIME_OUT = 2000;

  private final Access access;
  private final Tree tree;
  private final NamedObjects relations;
  private final Meaning.Asked asked;
  private final List<SqlToken> words;
  private final SqlReader reader;
  private final Set<Meaning.Needed> uses = new LinkedHashSet<>();

  /**
   * One statement.
   *
   * @param words its names and signs
   */
  OneStatement(
      Access access,
      NamedObjects relations,
      Meaning.Asked asked,
      List<SqlToken> words,
      SqlReader reader) {
    this.access = access;
    this.tree = access.tree();
    this.relations = relations;
    this.asked = asked;
    this.words = words;
    this.reader = reader;
  }

  Meaning meaning() {
    String verb = words.isEmpty() ? "" : words.get(0).text().toLowerCase(Locale.ROOT);
    if (verb.isEmpty() || Verbs.HARMLESS.contains(verb) && !hasAny(Verbs.INSIDE)) {
      return new Meaning(List.of(), true);
    }
    boolean understood =
        switch (verb) {
          case "copy" -> copy();
          case "select", "values", "table", "describe", "desc" -> query();
          case "insert", "update", "delete", "truncate", "merge", "with" -> parsed(asked.text());
          default -> {
            // what may do anything with what it names is taken to have done it
            everything();
            yield Verbs.DEFINING.contains(verb) || Verbs.HARMLESS.contains(verb);
          }
        };
    if (!understood) {
      everything();
    }
    return new Meaning(List.copyOf(uses), understood);
  }

  private void use(Privilege privilege, int node, int column) {
    if ((access.rules().privilegesOn(tree.kind(node)) & privilege.bit()) != 0) {
      uses.add(new Meaning.Needed(privilege, node, column));
    }
  }

  /**
   * What a query reads, its words tell; no parser need look at it, which saves most of the time.
   */
  boolean query() {
    readsOnly();
    if (hasAny(Verbs.CHANGING)) {
      everything();
    }
    return true;
  }

  boolean hasAny(Set<String> signs) {
    return words.stream()
        .anyMatch(word -> !word.isQuoted() && signs.contains(word.text().toLowerCase(Locale.ROOT)));
  }

  /**
   * Takes all privileges on all that is named for used, and, where something may be created, on the
   * schemas it may be created in, the database and the server.
   */
  void everything() {
    readsOnly();
    each((node, place) -> all(node));
    boolean named = false;
    for (SqlToken word : words) {
      for (int schema : word.isName() ? relations.schemas(word) : new IntArrayList()) {
        all(schema);
        named = true;
      }
    }
    for (int node = 0; node < tree.size(); node++) {
      boolean container = tree.kind(node).compareTo(NodeKind.SCHEMA) < 0;
      boolean anySchema = tree.kind(node) == NodeKind.SCHEMA && !named && !tree.isSystem(node);
      if (container || anySchema) {
        all(node);
      }
    }
  }

  private void all(int node) {
    for (long rest = access.rules().privilegesOn(tree.kind(node)); rest != 0; rest &= rest - 1) {
      use(Privilege.lowest(rest), node, Evidence.ALL);
    }
  }

  boolean parsed(String sql) {
    Statement statement;
    try {
      statement =
          CCJSqlParserUtil.parse(
              sql, parser -> parser.withAllowComplexParsing(false).withTimeOut(TIME_OUT));
    } catch (JSQLParserException | RuntimeException beyondIt) {
      return false;
    }
    if (statement instanceof Select) {
      return query();
    }
    readsOnly();
    if (words.get(0).text().equalsIgnoreCase("with") || hasAny(Verbs.SEVERAL)) {
      everything();
    }
    if (statement instanceof Insert insert) {
      changes(Privilege.INSERT, insert.getTable(), insert.getColumns());
      boolean updates =
          insert.getConflictAction() != null || insert.getDuplicateUpdateSets() != null;
      if (updates) {
        changes(Privilege.UPDATE, insert.getTable(), null);
      }
      return true;
    } else if (statement instanceof Update update) {
      List<Column> columns = new ArrayList<>();
      update.getUpdateSets().forEach(set -> columns.addAll(set.getColumns()));
      changes(Privilege.UPDATE, update.getTable(), columns);
      return true;
    } else if (statement instanceof Delete delete) {
      changes(Privilege.DELETE, delete.getTable(), null);
      if (delete.getTables() != null) {
        delete.getTables().forEach(table -> changes(Privilege.DELETE, table, null));
      }
      return true;
    } else if (statement instanceof Truncate truncate) {
      List<Table> tables =
          truncate.getTables() != null ? truncate.getTables() : List.of(truncate.getTable());
      for (Table table : tables) {
        changes(Privilege.TRUNCATE, table, null);
        changes(Privilege.DROP, table, null);
      }
      return true;
    } else if (statement instanceof Merge merge) {
      for (Privilege privilege : List.of(Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE)) {
        changes(privilege, merge.getTable(), null);
      }
      return true;
    }
    return false;
  }

  private void changes(Privilege privilege, Table table, List<Column> columns) {
    if (table == null) {
      return;
    }
    List<SqlToken> name = new ArrayList<>();
    for (SqlToken word : reader.tokens(table.getFullyQualifiedName())) {
      if (word.isName()) {
        name.add(word);
      }
    }
    for (int node : name.isEmpty() ? new IntArrayList() : relations.of(name, asked.database())) {
      boolean byColumn =
          columns != null
              && !columns.isEmpty()
              && (access.rules().columnPrivileges() & privilege.bit()) != 0;
      if (!byColumn) {
        use(privilege, node, Evidence.ALL);
        continue;
      }
      for (Column column : columns) {
        List<SqlToken> parts = reader.tokens(column.getColumnName());
        int ordinal = parts.isEmpty() ? -1 : relations.column(node, parts.get(0));
        use(privilege, node, ordinal < 0 ? Evidence.ALL : ordinal);
      }
    }
  }

  private interface Found {
    void at(int node, int place);
  }

  /** Every object that a name, with its dots, may mean. */
  private void each(Found found) {
    for (int i = 0; i < words.size(); i++) {
      boolean inside = i > 0 && words.get(i - 1).is(".");
      if (!words.get(i).isName() || inside) {
        continue;
      }
      List<SqlToken> parts = new ArrayList<>(List.of(words.get(i)));
      int end = i;
      while (end + 2 < words.size() && words.get(end + 1).is(".") && words.get(end + 2).isName()) {
        end += 2;
        parts.add(words.get(end));
      }
      // a column may stand behind its table
      for (int length = parts.size(); length >= Math.max(1, parts.size() - 1); length--) {
        for (int node : relations.of(parts.subList(0, length), asked.database())) {
          found.at(node, i + 2 * (length - 1));
        }
      }
    }
  }

  /** All that the words may read. */
  boolean readsOnly() {
    IntArrayList relationsRead = new IntArrayList();
    each(
        (node, place) -> {
          NodeKind kind = tree.kind(node);
          if (kind == NodeKind.ROUTINE) {
            boolean called = place + 1 < words.size() && words.get(place + 1).is("(");
            if (called) {
              use(Privilege.EXECUTE, node, Evidence.ALL);
            }
          } else if (kind == NodeKind.SEQUENCE) {
            use(Privilege.USAGE, node, Evidence.ALL);
            use(Privilege.SELECT, node, Evidence.ALL);
            use(Privilege.UPDATE, node, Evidence.ALL);
          } else {
            relationsRead.add(node);
          }
        });
    sequencesInQuotes();
    boolean all = readsAllColumns();
    for (int node : relationsRead) {
      columns(node, all);
    }
    return true;
  }

  /** Whether what stands in quotes may be the name of something. */
  boolean namesInQuotes() {
    return words.stream().anyMatch(word -> word.text().toLowerCase(Locale.ROOT).endsWith("val"));
  }

  /** {@code nextval('s')} names a sequence in quotes. */
  private void sequencesInQuotes() {
    if (!namesInQuotes()) {
      return;
    }
    for (SqlToken token : Inside.of(reader, asked.text(), each -> each.quote() == '$')) {
      if (!token.isText()) {
        continue;
      }
      List<SqlToken> name =
          reader.tokens(token.text()).stream().filter(SqlToken::isName).limit(3).toList();
      for (int node : name.isEmpty() ? new IntArrayList() : relations.of(name, asked.database())) {
        if (tree.kind(node) == NodeKind.SEQUENCE) {
          use(Privilege.USAGE, node, Evidence.ALL);
          use(Privilege.SELECT, node, Evidence.ALL);
          use(Privilege.UPDATE, node, Evidence.ALL);
        }
      }
    }
  }

  /** Whether a star that is no product, or a join over all common columns, stands there. */
  private boolean readsAllColumns() {
    for (int i = 0; i < words.size(); i++) {
      SqlToken before = i == 0 ? null : words.get(i - 1);
      boolean star =
          words.get(i).is("*")
              && before != null
              && (before.is(",")
                  || before.is(".")
                  || Set.of("select", "distinct", "all", "returning")
                      .contains(before.text().toLowerCase(Locale.ROOT)));
      if (star || words.get(i).text().equalsIgnoreCase("natural")) {
        return true;
      }
    }
    return words.get(0).text().equalsIgnoreCase("table");
  }

  private void columns(int node, boolean all) {
    boolean any = false;
    int itself = 0;
    for (int i = 0; i < words.size(); i++) {
      SqlToken word = words.get(i);
      int ordinal = word.isName() ? relations.column(node, word) : -1;
      if (ordinal >= 0) {
        use(Privilege.SELECT, node, ordinal);
        any = true;
      }
      boolean dotted = i + 1 < words.size() && words.get(i + 1).is(".");
      boolean name = word.isName() && word.text().equalsIgnoreCase(tree.name(node));
      itself += name && !dotted ? 1 : 0;
    }
    // a table named twice may be taken for a value: all of its columns in one
    if (all || itself > 1) {
      use(Privilege.SELECT, node, Evidence.ALL);
    } else if (!any) {
      use(Privilege.SELECT, node, Evidence.ANY);
    }
  }

  /** {@code copy t (a, b) from ...}, or {@code to}, or of a query. */
  boolean copy() {
    readsOnly();
    int depth = 0;
    for (int i = 1; i < words.size(); i++) {
      SqlToken word = words.get(i);
      depth += word.is("(") ? 1 : word.is(")") ? -1 : 0;
      if (depth == 0 && word.text().equalsIgnoreCase("from")) {
        each(
            (node, place) -> {
              if (tree.kind(node) == NodeKind.TABLE) {
                use(Privilege.INSERT, node, Evidence.ALL);
              }
            });
      }
    }
    each(
        (node, place) -> {
          boolean whole = place + 1 < words.size() && !words.get(place + 1).is("(");
          if (whole && tree.kind(node) == NodeKind.TABLE) {
            use(Privilege.SELECT, node, Evidence.ALL);
          }
        });
    return true;
  }
}
