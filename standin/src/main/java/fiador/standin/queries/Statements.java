package fiador.standin.queries;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.estate.Thing;
import fiador.standin.estate.Warehouse;
import fiador.standin.house.House;
import fiador.standin.house.House.Fact;
import fiador.standin.queries.Asking.Reader;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.StringJoiner;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.Statement;
import net.sf.jsqlparser.statement.delete.Delete;
import net.sf.jsqlparser.statement.insert.Insert;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.update.Update;
import net.sf.jsqlparser.statement.update.UpdateSet;
import net.sf.jsqlparser.util.TablesNamesFinder;
import org.jspecify.annotations.Nullable;

/**
 * Statements that read or change rows, written anew for the engine so that they touch what their
 * asker may touch and nothing else; or refused.
 */
public final class Statements {
  private final House house;
  private final Warehouse warehouse;
  private final Parsed known = new Parsed();

  /** In that house. */
  public Statements(House house, Warehouse warehouse) {
    this.house = house;
    this.warehouse = warehouse;
  }

  /**
   * A statement as the engine gets it.
   *
   * @param sql for the engine
   * @param query whether it gives rows
   * @param uses what it does with what
   * @param hidden columns that are there and may not be read, by their names in small letters
   * @param catalog whether it asks the catalog
   * @param fetches what has to be had from other servers before
   */
  public record Ready(
      String sql,
      boolean query,
      List<Use> uses,
      Map<String, String> hidden,
      boolean catalog,
      List<Fetch> fetches) {}

  /** Is told what a statement uses, also where it is refused. */
  @FunctionalInterface
  public interface Noted {
    /** That was used, or would have been. */
    void uses(List<Use> uses);
  }

  /**
   * A statement made ready.
   *
   * @param noted is told what it uses before anything is thrown
   * @throws RefusedException when the asker may not
   * @throws MistakeException when it is no statement, or one that is not known here
   */
  public Ready ready(String text, Session session, Noted noted)
      throws RefusedException, MistakeException {
    Asking asking = new Asking(house, warehouse, session, known);
    Statement statement = QueryWriter.parsed(text);
    try {
      String sql = written(statement, asking);
      checkAgain(sql, asking);
      boolean query = statement instanceof Select;
      return new Ready(
          asking.unmarked(sql),
          query,
          asking.uses(),
          asking.hidden(),
          asking.catalog(),
          asking.fetches());
    } catch (Stopped stopped) {
      throw stopped.unpack();
    } finally {
      noted.uses(asking.uses());
    }
  }

  /** A query by which the engine can look at something that a veil is to say of a table. */
  public String checked(Thing table, String expression) throws MistakeException {
    Principal nobody = warehouse.everybody();
    Session asker = new Session(nobody, nobody, Set.of(), Set.of(), null);
    Asking asking = new Asking(house, warehouse, asker, known);
    return "SELECT "
        + new Veils(asking, warehouse, known).written(expression)
        + " FROM "
        + kept(table);
  }

  private static String written(Statement statement, Asking asking)
      throws RefusedException, MistakeException {
    if (statement instanceof Select select) {
      return rows(select, asking);
    }
    if (statement instanceof Insert insert) {
      return insert(insert, asking);
    }
    if (statement instanceof Update update) {
      return update(update, asking);
    }
    if (statement instanceof Delete delete) {
      return delete(delete, asking);
    }
    throw new MistakeException(
        "this is neither SELECT, INSERT, UPDATE, DELETE nor a statement about access");
  }

  private static String rows(Select select, Asking asking)
      throws RefusedException, MistakeException {
    asking.apart().begin();
    return asking.apart().before(QueryWriter.rewritten(asking, select, Reader.of(asking.asker())));
  }

  /**
   * Every table in what was written must be one that was put there: another reader of the library
   * looks, so that what one of the two overlooks is still found.
   */
  private static void checkAgain(String sql, Asking asking) throws MistakeException {
    Set<String> found;
    try {
      found = new TablesNamesFinder<Void>().getTables(CCJSqlParserUtil.parse(sql));
    } catch (JSQLParserException odd) {
      throw new MistakeException("this statement is not understood");
    }
    for (String table : found) {
      if (!asking.written().contains(table)) {
        throw new MistakeException("this statement is not understood: what is " + table + "?");
      }
    }
  }

  private static Thing target(Table table, String privilege, Asking asking)
      throws MistakeException {
    Thing thing = asking.thing(table);
    if (thing.text() != null) {
      throw new MistakeException("rows are changed in tables, and " + thing + " shows them");
    }
    if (thing.far() != null) {
      throw new MistakeException("the rows of " + thing + " are changed where they are");
    }
    asking.uses().add(new Use(privilege, thing));
    asking.remember(kept(thing));
    return thing;
  }

  private static String kept(Thing thing) {
    return "\"ROWS\"." + PlainText.quoted(String.valueOf(thing.kept()));
  }

  private static void need(
      Asking asking, String privilege, Thing thing, @Nullable List<String> columns)
      throws RefusedException {
    String missing = asking.judge().missing(asking.asker(), privilege, thing, columns);
    if (missing != null) {
      throw new RefusedException(missing);
    }
  }

  private static boolean any(@Nullable List<?> list) {
    return list != null && !list.isEmpty();
  }

  private static String column(Thing thing, Column column) throws MistakeException {
    String name = PlainText.name(column.getColumnName(), written -> written);
    String found = thing.column(name);
    if (found == null) {
      throw new MistakeException("there is no column " + name + " in " + thing);
    }
    return found;
  }

  private static String insert(Insert insert, Asking asking)
      throws RefusedException, MistakeException {
    boolean odd =
        insert.getSelect() == null
            || insert.getReturningClause() != null
            || insert.getConflictAction() != null
            || any(insert.getDuplicateUpdateSets())
            || any(insert.getWithItemsList())
            || insert.isOverwrite();
    if (odd || any(insert.getSetUpdateSets())) {
      throw new MistakeException("say INSERT INTO table (columns) VALUES or SELECT");
    }
    Thing table = target(insert.getTable(), "insert", asking);
    List<String> columns = new ArrayList<>();
    if (insert.getColumns() == null) {
      columns.addAll(table.columns().keySet());
    } else {
      for (Column column : insert.getColumns()) {
        columns.add(column(table, column));
      }
    }
    need(asking, "insert", table, columns);
    StringJoiner names = new StringJoiner(", ", " (", ") ");
    columns.forEach(column -> names.add(PlainText.quoted(column)));
    return "INSERT INTO " + kept(table) + names + rows(insert.getSelect(), asking);
  }

  private static String update(Update update, Asking asking)
      throws RefusedException, MistakeException {
    boolean odd =
        update.getFromItem() != null
            || any(update.getJoins())
            || any(update.getStartJoins())
            || any(update.getWithItemsList())
            || update.getReturningClause() != null
            || update.getLimit() != null
            || any(update.getOrderByElements());
    if (odd) {
      throw new MistakeException("say UPDATE table SET column = value WHERE condition");
    }
    Thing table = target(update.getTable(), "update", asking);
    List<String> changed = new ArrayList<>();
    StringJoiner sets = new StringJoiner(", ");
    Change change = new Change(asking, table, update.getTable());
    for (UpdateSet set : update.getUpdateSets()) {
      if (set.getColumns().size() != 1 || set.getValues().size() != 1) {
        throw new MistakeException("each column is set by itself here");
      }
      String column = column(table, set.getColumn(0));
      changed.add(column);
      sets.add(PlainText.quoted(column) + " = " + change.expression(set.getValue(0)));
    }
    String where = change.where(update.getWhere());
    need(asking, "update", table, changed);
    change.needRead();
    return "UPDATE " + kept(table) + change.alias() + " SET " + sets + where;
  }

  private static String delete(Delete delete, Asking asking)
      throws RefusedException, MistakeException {
    boolean odd =
        any(delete.getJoins())
            || any(delete.getUsingList())
            || any(delete.getTables())
            || any(delete.getWithItemsList())
            || delete.getReturningClause() != null
            || delete.getLimit() != null
            || any(delete.getOrderByElements());
    if (odd) {
      throw new MistakeException("say DELETE FROM table WHERE condition");
    }
    Thing table = target(delete.getTable(), "delete", asking);
    Change change = new Change(asking, table, delete.getTable());
    String where = change.where(delete.getWhere());
    need(asking, "delete", table, null);
    change.needRead();
    return "DELETE FROM " + kept(table) + change.alias() + where;
  }

  /** The expressions of one change, and which columns of its table they read. */
  private static final class Change {
    private final Asking asking;
    private final Thing table;
    private final Table named;
    private final Set<String> read = new java.util.LinkedHashSet<>();

    Change(Asking asking, Thing table, Table named) {
      this.asking = asking;
      this.table = table;
      this.named = named;
    }

    String alias() {
      return named.getAlias() == null ? " AS " + named.getName() : named.getAlias().toString();
    }

    String expression(Expression expression) {
      QueryWriter queries = QueryWriter.ofExpression(asking, Reader.of(asking.asker()));
      ExpressionWriter writer = (ExpressionWriter) queries.getExpressionVisitor();
      expression.accept(writer, null);
      for (String name : writer.columns()) {
        String column = table.column(name);
        if (column != null) {
          read.add(column);
        }
      }
      return queries.getBuilder().toString();
    }

    /** Rows that are not there for who asks are not changed either. */
    String where(@Nullable Expression where) throws MistakeException {
      String veil = asking.condition(table);
      String own = where == null ? "" : "(" + expression(where) + ")";
      String both = own + (own.isEmpty() || veil.isEmpty() ? "" : " AND ") + veil;
      return both.isEmpty() ? "" : " WHERE " + both;
    }

    /** Whoever decides by columns reads them. */
    void needRead() throws RefusedException {
      if (asking.house().has(Fact.CHANGING_TAKES_SELECT)) {
        read.addAll(table.columns().keySet());
      }
      if (!read.isEmpty()) {
        need(asking, "select", table, List.copyOf(read));
      }
      for (String column : asking.isVeiled(table) ? read : Set.<String>of()) {
        if (table.veil().columns().containsKey(column)) {
          throw new RefusedException(
              asking.asker().acting() + " sees no true value of " + column + " in " + table);
        }
      }
    }
  }
}
