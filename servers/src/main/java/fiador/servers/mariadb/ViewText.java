package fiador.servers.mariadb;

import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.lineage.QuotedNames;
import fiador.sqltext.lineage.ViewColumns;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.expression.Function;
import net.sf.jsqlparser.expression.MySQLGroupConcat;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.util.TablesNamesFinder;

/**
 * What a view's text reads. The server keeps the text with every name quoted and every table with
 * its schema, so names need not be resolved.
 *
 * @param tables the tables and views by name, each with the columns the text mentions; without
 *     columns where it mentions none
 * @param functions the stored functions it calls
 */
record ViewText(Map<Name, Set<String>> tables, List<Name> functions) {

  /** A name with its schema. */
  record Name(String schema, String name) {}

  /** Reads a text. */
  static ViewText of(QuotedNames text) throws NotUnderstood {
    Finder finder = new Finder(text);
    try {
      finder.getTables(ViewColumns.parsed(text.text()));
    } catch (JSQLParserException | RuntimeException | StackOverflowError unknown) {
      throw new NotUnderstood(unknown);
    }
    return finder.found().with(text.pairs());
  }

  /**
   * With what the parser passed over: a schema and a name in it, wherever they stand in the text. A
   * name that is none of a table or function means nothing to whoever looks it up.
   */
  private ViewText with(List<QuotedNames.Pair> pairs) {
    Map<Name, Set<String>> all = new LinkedHashMap<>(tables);
    Set<Name> called = new LinkedHashSet<>(functions);
    Set<String> columns = new LinkedHashSet<>();
    pairs.forEach(pair -> columns.add(pair.second()));
    for (QuotedNames.Pair pair : pairs) {
      Name name = new Name(pair.first(), pair.second());
      if (pair.called()) {
        called.add(name);
      } else {
        // which of the columns are its own, whoever looks it up knows
        all.putIfAbsent(name, columns);
      }
    }
    return new ViewText(all, List.copyOf(called));
  }

  private static final class Finder extends TablesNamesFinder<Void> {
    private final Map<Name, Set<String>> tables = new LinkedHashMap<>();
    private final Map<String, List<Name>> byAlias = new HashMap<>();
    private final List<Column> columns = new ArrayList<>();
    private final Set<Name> functions = new LinkedHashSet<>();
    private final QuotedNames names;

    Finder(QuotedNames names) {
      this.names = names;
    }

    private String bare(String parsed) {
      return names.name(parsed);
    }

    @Override
    public <S> Void visit(Table table, S context) {
      if (table.getSchemaName() != null) {
        Name name = new Name(bare(table.getSchemaName()), bare(table.getName()));
        tables.computeIfAbsent(name, fresh -> new LinkedHashSet<>());
        String alias = table.getAlias() == null ? name.name() : bare(table.getAlias().getName());
        byAlias.computeIfAbsent(alias, fresh -> new ArrayList<>()).add(name);
      }
      return super.visit(table, context);
    }

    @Override
    public <S> Void visit(Column column, S context) {
      columns.add(column);
      return null;
    }

    /** The one list of expressions that the parser's own visitor passes over. */
    @Override
    public <S> Void visit(MySQLGroupConcat joined, S context) {
      joined.getExpressionList().accept(this, context);
      if (joined.getOrderByElements() != null) {
        joined.getOrderByElements().forEach(each -> each.getExpression().accept(this, context));
      }
      return null;
    }

    @Override
    public <S> Void visit(Function function, S context) {
      List<String> parts = function.getMultipartName();
      if (parts != null && parts.size() == 2) {
        functions.add(new Name(bare(parts.get(0)), bare(parts.get(1))));
      }
      return super.visit(function, context);
    }

    ViewText found() {
      for (Column column : columns) {
        Table of = column.getTable();
        if (of == null || of.getName() == null) {
          continue;
        }
        List<Name> names =
            of.getSchemaName() == null
                ? byAlias.getOrDefault(bare(of.getName()), List.of())
                : List.of(new Name(bare(of.getSchemaName()), bare(of.getName())));
        for (Name name : names) {
          Set<String> known = tables.get(name);
          if (known != null) {
            known.add(bare(column.getColumnName()));
          }
        }
      }
      return new ViewText(tables, List.copyOf(functions));
    }
  }
}
