package fiador.sqltext.uses;

import java.util.List;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
import net.sf.jsqlparser.statement.Statement;
import net.sf.jsqlparser.statement.select.PlainSelect;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.select.SetOperationList;
import net.sf.jsqlparser.statement.select.WithItem;
import net.sf.jsqlparser.util.TablesNamesFinder;
import org.jspecify.annotations.Nullable;

/** Whether a text is one query that reads, and says where each table is that it reads. */
public final class ReadingQuery {
  private static final int TIME_OUT_MILLIS = 4_000;

  private ReadingQuery() {}

  /**
   * Why a query is not run, or null when it is.
   *
   * @param query one statement, without a semicolon at its end
   */
  public static @Nullable String refusal(String query) {
    List<Statement> statements;
    try {
      statements =
          CCJSqlParserUtil.parseStatements(query, parser -> parser.withTimeOut(TIME_OUT_MILLIS));
    } catch (JSQLParserException | RuntimeException beyond) {
      return "it is no SQL that can be read: " + firstLine(beyond);
    }
    if (statements.size() != 1) {
      return "it holds " + statements.size() + " statements; one query was expected";
    }
    if (!(statements.get(0) instanceof Select select)) {
      return "it is no query: only SELECT and VALUES are run";
    }
    String writes = writes(select);
    return writes != null ? writes : unqualified(select);
  }

  private static String firstLine(Exception failed) {
    String said = failed.getMessage() == null ? "" : failed.getMessage();
    return said.lines().findFirst().orElse(failed.getClass().getSimpleName());
  }

  private static @Nullable String writes(Select select) {
    if (select.getWithItemsList() != null) {
      for (WithItem<?> item : select.getWithItemsList()) {
        if (!(item.getParenthesedStatement() instanceof Select inner)) {
          return "a part of it changes something";
        }
        String writes = writes(inner);
        if (writes != null) {
          return writes;
        }
      }
    }
    if (select.getForMode() != null) {
      return "it locks what it reads";
    }
    if (select instanceof PlainSelect plain && plain.getIntoTables() != null) {
      return "it writes what it reads into a table";
    }
    if (select instanceof SetOperationList list) {
      return list.getSelects().stream()
          .map(ReadingQuery::writes)
          .filter(found -> found != null)
          .findFirst()
          .orElse(null);
    }
    return null;
  }

  /** Without a schema anybody's table of that name could be meant. */
  private static @Nullable String unqualified(Select select) {
    return new TablesNamesFinder<Void>()
        .getTables((Statement) select).stream()
            .filter(name -> name.indexOf('.') < 0)
            .sorted()
            .findFirst()
            .map(
                name ->
                    "it reads "
                        + name
                        + " without saying in which schema; anybody's table could be meant")
            .orElse(null);
  }
}
