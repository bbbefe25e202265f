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
    return finder.found();
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
