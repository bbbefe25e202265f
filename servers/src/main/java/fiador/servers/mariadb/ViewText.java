package fiador.servers.mariadb;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.expression.Function;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
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

  /** The text is beyond the parser. */
  static final class NotUnderstood extends Exception {
    private static final long serialVersionUID = 1L;

    NotUnderstood(JSQLParserException why) {
      super(why);
    }
  }

  /** Reads a text. */
  static ViewText of(String text) throws NotUnderstood {
    List<String> names = new ArrayList<>();
    String plain = numbered(text, names);
    Finder finder = new Finder(names);
    try {
      finder.getTables(CCJSqlParserUtil.parse(plain));
    } catch (JSQLParserException unknown) {
      throw new NotUnderstood(unknown);
    } catch (RuntimeException | StackOverflowError unknown) {
      throw new NotUnderstood(new JSQLParserException(unknown));
    }
    return finder.found();
  }

  /**
   * The text with a number in the place of each quoted name, because the parser does not know
   * quotes within quotes.
   */
  private static String numbered(String text, List<String> names) {
    StringBuilder plain = new StringBuilder();
    int at = 0;
    while (at < text.length()) {
      char c = text.charAt(at);
      if (c == '\'') {
        int end = endOfLiteral(text, at);
        plain.append(text, at, end);
        at = end;
      } else if (c == '`') {
        int end = endOfName(text, at);
        plain.append("`n").append(names.size()).append('`');
        names.add(text.substring(at + 1, end - 1).replace("``", "`"));
        at = end;
      } else {
        plain.append(c);
        at++;
      }
    }
    return plain.toString();
  }

  private static int endOfLiteral(String text, int start) {
    int at = start + 1;
    while (at < text.length() && text.charAt(at) != '\'') {
      at += text.charAt(at) == '\\' ? 2 : 1;
    }
    return Math.min(at + 1, text.length());
  }

  private static int endOfName(String text, int start) {
    int at = start + 1;
    while (at < text.length()) {
      boolean quote = text.charAt(at) == '`';
      boolean doubled = quote && at + 1 < text.length() && text.charAt(at + 1) == '`';
      if (quote && !doubled) {
        break;
      }
      at += doubled ? 2 : 1;
    }
    return Math.min(at + 1, text.length());
  }

  private static final class Finder extends TablesNamesFinder<Void> {
    private final Map<Name, Set<String>> tables = new LinkedHashMap<>();
    private final Map<String, List<Name>> byAlias = new HashMap<>();
    private final List<Column> columns = new ArrayList<>();
    private final Set<Name> functions = new LinkedHashSet<>();
    private final List<String> names;

    Finder(List<String> names) {
      this.names = names;
    }

    private String bare(String numbered) {
      return numbered != null && numbered.startsWith("`n")
          ? names.get(Integer.parseInt(numbered.substring(2, numbered.length() - 1)))
          : numbered;
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
