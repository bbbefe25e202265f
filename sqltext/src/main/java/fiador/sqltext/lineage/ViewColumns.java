package fiador.sqltext.lineage;

import fiador.sqltext.lineage.Scope.Output;
import fiador.sqltext.lineage.Scope.Source;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.expression.Alias;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.operators.relational.ExpressionList;
import net.sf.jsqlparser.parser.CCJSqlParserUtil;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.Statement;
import net.sf.jsqlparser.statement.select.AllColumns;
import net.sf.jsqlparser.statement.select.AllTableColumns;
import net.sf.jsqlparser.statement.select.FromItem;
import net.sf.jsqlparser.statement.select.Join;
import net.sf.jsqlparser.statement.select.ParenthesedFromItem;
import net.sf.jsqlparser.statement.select.ParenthesedSelect;
import net.sf.jsqlparser.statement.select.PlainSelect;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.select.SelectItem;
import net.sf.jsqlparser.statement.select.SetOperationList;
import net.sf.jsqlparser.statement.select.TableFunction;
import net.sf.jsqlparser.statement.select.Values;
import net.sf.jsqlparser.statement.select.WithItem;

/**
 * Follows the columns of a view's query down to the columns of what it reads: through subqueries,
 * named queries and set operations. Conditions, orders and groupings decide which rows there are
 * and show no value.
 */
public final class ViewColumns {
  /** How often a query that names itself is looked at; each time may show more. */
  private static final int ROUNDS = 20;

  private static final int LONGEST = 200_000;
  private static final long TIME_OUT_MILLIS = 1_500;

  private final QuotedNames names;
  private final Relations relations;

  private ViewColumns(QuotedNames names, Relations relations) {
    this.names = names;
    this.relations = relations;
  }

  /**
   * What each column of a view shows.
   *
   * @param query the view's query
   * @param columns how many columns the view has
   * @throws NotUnderstood where the text cannot be followed to its end
   */
  public static List<Set<Shown>> of(QuotedNames query, int columns, Relations relations)
      throws NotUnderstood {
    Statement parsed;
    List<Output> outputs;
    try {
      parsed = parsed(query.text());
      if (!(parsed instanceof Select select)) {
        throw new NotUnderstood("this is no query");
      }
      outputs = new ViewColumns(query, relations).outputs(select, new Scope(null));
    } catch (JSQLParserException | RuntimeException | StackOverflowError unknown) {
      throw new NotUnderstood(unknown);
    }
    if (outputs.size() != columns) {
      throw new NotUnderstood("the query has " + outputs.size() + " columns, not " + columns);
    }
    return outputs.stream().map(Output::shown).toList();
  }

  /** Whoever makes a view writes its text, and a parser may go over one for ever. */
  public static Statement parsed(String text) throws JSQLParserException, NotUnderstood {
    if (text.length() > LONGEST) {
      throw new NotUnderstood("longer than " + LONGEST + " characters");
    }
    return CCJSqlParserUtil.parse(text, parser -> parser.withTimeOut(TIME_OUT_MILLIS));
  }

  String name(String parsed) {
    return names.name(parsed);
  }

  /** What comes out of a query that stands in a scope. */
  List<Output> outputs(Select select, Scope around) throws NotUnderstood {
    Scope scope = new Scope(around);
    if (select.getWithItemsList() != null) {
      for (WithItem<?> item : select.getWithItemsList()) {
        named(item, scope);
      }
    }
    if (select instanceof PlainSelect plain) {
      return ofPlain(plain, scope);
    } else if (select instanceof ParenthesedSelect inner) {
      return outputs(inner.getSelect(), scope);
    } else if (select instanceof SetOperationList operations) {
      List<Output> all = outputs(operations.getSelect(0), scope);
      for (Select further : operations.getSelects().subList(1, operations.getSelects().size())) {
        all = together(all, outputs(further, scope));
      }
      return all;
    } else if (select instanceof Values values) {
      return ofValues(values, scope);
    }
    throw new NotUnderstood("a query of another kind");
  }

  private void named(WithItem<?> item, Scope scope) throws NotUnderstood {
    String name = name(item.getAlias().getName());
    Select query = item.getSelect();
    List<Output> outputs = null;
    if (item.isRecursive()) {
      Select inner = query;
      while (inner instanceof ParenthesedSelect held) {
        inner = held.getSelect();
      }
      if (!(inner instanceof SetOperationList operations)) {
        throw new NotUnderstood("a query that names itself in another way");
      }
      outputs = renamed(outputs(operations.getSelect(0), scope), item);
    }
    for (int round = 0; round < ROUNDS; round++) {
      if (outputs != null) {
        scope.name(name, outputs);
      }
      List<Output> next = renamed(outputs(query, scope), item);
      if (outputs == null || next.equals(outputs)) {
        scope.name(name, next);
        return;
      }
      outputs = next;
    }
    throw new NotUnderstood("a query that names itself does not come to an end");
  }

  private List<Output> renamed(List<Output> outputs, WithItem<?> item) {
    if (item.getWithItemList() == null || item.getWithItemList().isEmpty()) {
      return outputs;
    }
    List<String> others = new ArrayList<>();
    for (SelectItem<?> column : item.getWithItemList()) {
      others.add(column.getExpression() instanceof Column each ? name(each.getColumnName()) : null);
    }
    return renamed(outputs, others);
  }

  private static List<Output> renamed(List<Output> outputs, List<String> others) {
    List<Output> renamed = new ArrayList<>();
    for (int i = 0; i < outputs.size(); i++) {
      String name = i < others.size() ? others.get(i) : outputs.get(i).name();
      renamed.add(new Output(name, outputs.get(i).shown()));
    }
    return renamed;
  }

  private static List<Output> together(List<Output> one, List<Output> other) throws NotUnderstood {
    if (one.size() != other.size()) {
      throw new NotUnderstood("queries of different width");
    }
    List<Output> both = new ArrayList<>();
    for (int i = 0; i < one.size(); i++) {
      Set<Shown> shown = new LinkedHashSet<>(one.get(i).shown());
      shown.addAll(other.get(i).shown());
      both.add(new Output(one.get(i).name(), shown));
    }
    return both;
  }

  private List<Output> ofValues(Values values, Scope scope) throws NotUnderstood {
    List<Output> all = null;
    for (Expression each : values.getExpressions()) {
      List<Output> row = new ArrayList<>();
      for (Expression field : each instanceof ExpressionList<?> list ? list : List.of(each)) {
        row.add(new Output(null, ExpressionColumns.of(this, field, scope)));
      }
      all = all == null ? row : together(all, row);
    }
    return all == null ? List.of() : all;
  }

  private List<Output> ofPlain(PlainSelect select, Scope scope) throws NotUnderstood {
    if (select.getFromItem() != null) {
      from(select.getFromItem(), select.getJoins(), scope);
    }
    List<Output> outputs = new ArrayList<>();
    for (SelectItem<?> item : select.getSelectItems()) {
      Expression expression = item.getExpression();
      if (expression instanceof AllTableColumns all) {
        String schema = name(all.getTable().getSchemaName());
        Source source = scope.source(schema, name(all.getTable().getName()));
        if (source == null || source.any() != null) {
          throw new NotUnderstood("nothing known is called " + all.getTable());
        }
        outputs.addAll(source.outputs());
      } else if (expression instanceof AllColumns) {
        for (Source source : scope.sources()) {
          if (source.any() != null) {
            throw new NotUnderstood("a function whose columns nobody tells");
          }
          outputs.addAll(source.outputs());
        }
      } else {
        outputs.add(new Output(nameOf(item), ExpressionColumns.of(this, expression, scope)));
      }
    }
    return outputs;
  }

  private String nameOf(SelectItem<?> item) {
    if (item.getAlias() != null) {
      return name(item.getAlias().getName());
    }
    return item.getExpression() instanceof Column column ? name(column.getColumnName()) : null;
  }

  private void from(FromItem item, List<Join> joins, Scope scope) throws NotUnderstood {
    source(item, scope);
    for (Join join : joins == null ? List.<Join>of() : joins) {
      source(join.getFromItem(), scope);
    }
  }

  private void source(FromItem item, Scope scope) throws NotUnderstood {
    Alias alias = item.getAlias();
    String called = alias == null ? null : name(alias.getName());
    if (item instanceof ParenthesedFromItem group) {
      boolean alone = group.getJoins() == null || group.getJoins().isEmpty();
      if (alone && alias != null && group.getFromItem() instanceof Select query) {
        scope.add(new Source(null, called, columns(alias, outputs(query, scope)), null));
        return;
      } else if (alias != null) {
        throw new NotUnderstood("a join with a name of its own");
      }
      from(group.getFromItem(), group.getJoins(), scope);
    } else if (item instanceof Table table) {
      String name = name(table.getName());
      String schema = name(table.getSchemaName());
      String known = called == null ? name : called;
      scope.add(
          new Source(
              called == null ? schema : null,
              known,
              columns(alias, table(name(table.getDatabaseName()), schema, name, scope)),
              null));
    } else if (item instanceof TableFunction function) {
      Set<Shown> any = new LinkedHashSet<>();
      for (Shown each : ExpressionColumns.of(this, function.getFunction(), scope)) {
        any.add(each.changed());
      }
      scope.add(new Source(null, called, List.of(), any));
    } else if (item instanceof Select query) {
      scope.add(new Source(null, called, columns(alias, outputs(query, scope)), null));
    } else {
      throw new NotUnderstood("a source of another kind");
    }
  }

  private List<Output> table(String database, String schema, String name, Scope scope)
      throws NotUnderstood {
    List<Output> query = schema == null ? scope.query(name) : null;
    if (query != null) {
      return query;
    }
    int node =
        database == null ? relations.node(schema, name) : relations.node(database, schema, name);
    if (node < 0) {
      throw new NotUnderstood("there is no table " + name);
    }
    List<Output> outputs = new ArrayList<>();
    for (String column : relations.columns(node)) {
      outputs.add(new Output(column, Set.of(new Shown(node, outputs.size(), true))));
    }
    return outputs;
  }

  private List<Output> columns(Alias alias, List<Output> outputs) {
    return alias == null || alias.getAliasColumns() == null
        ? outputs
        : renamed(
            outputs, alias.getAliasColumns().stream().map(column -> name(column.name)).toList());
  }
}
