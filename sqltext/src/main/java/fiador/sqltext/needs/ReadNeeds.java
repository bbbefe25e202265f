package fiador.sqltext.needs;

import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.rules.HouseFact;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.needs.Place.Source;
import java.util.ArrayList;
import java.util.List;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.LongValue;
import net.sf.jsqlparser.expression.operators.relational.ExpressionList;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.select.AllColumns;
import net.sf.jsqlparser.statement.select.AllTableColumns;
import net.sf.jsqlparser.statement.select.ForMode;
import net.sf.jsqlparser.statement.select.OrderByElement;
import net.sf.jsqlparser.statement.select.ParenthesedSelect;
import net.sf.jsqlparser.statement.select.PlainSelect;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.select.SelectItem;
import net.sf.jsqlparser.statement.select.SetOperationList;
import net.sf.jsqlparser.statement.select.Values;
import net.sf.jsqlparser.statement.select.WithItem;

/** What queries and expressions read. */
final class ReadNeeds {
  private final Names names;
  private final Collected collected;
  private final SourceNeeds sources;

  ReadNeeds(Tree tree, Names names, Collected collected) {
    this.names = names;
    this.collected = collected;
    this.sources = new SourceNeeds(tree, this);
  }

  Names names() {
    return names;
  }

  Collected collected() {
    return collected;
  }

  SourceNeeds sources() {
    return sources;
  }

  /** Looks at a query of which it only matters whether anything comes out. */
  void existence(Select select, Place around) throws NotUnderstood {
    Select inner = select;
    while (inner instanceof ParenthesedSelect held && held.getWithItemsList() == null) {
      inner = held.getSelect();
    }
    boolean free = collected.has(HouseFact.EXISTENCE_READS_NOTHING);
    if (free
        && inner instanceof PlainSelect plain
        && plain.getSelectItems().size() == 1
        && plain.getSelectItems().get(0).getExpression() instanceof AllColumns) {
      plain.setSelectItems(List.of(new SelectItem<>(new LongValue(1))));
    }
    query(select, around);
  }

  /** Looks at a query; gives the names of what comes out. */
  List<String> query(Select select, Place around) throws NotUnderstood {
    Place place = new Place(around);
    with(select.getWithItemsList(), place);
    if (select.getPivot() != null || select.getUnPivot() != null || select.getLimitBy() != null) {
      throw new NotUnderstood("a query of a kind that is not known");
    }
    List<String> outputs;
    if (select instanceof PlainSelect plain) {
      outputs = plain(plain, place);
    } else if (select instanceof ParenthesedSelect inner) {
      outputs = query(inner.getSelect(), place);
    } else if (select instanceof SetOperationList operations) {
      outputs = query(operations.getSelect(0), place);
      for (Select further : operations.getSelects().subList(1, operations.getSelects().size())) {
        query(further, place);
      }
    } else if (select instanceof Values values) {
      outputs = values(values, place);
    } else {
      throw new NotUnderstood("a query of a kind that is not known");
    }
    place.outputs().addAll(outputs);
    order(select.getOrderByElements(), place);
    if (select.getLimit() != null) {
      expression(select.getLimit().getRowCount(), place);
      expression(select.getLimit().getOffset(), place);
    }
    if (select.getOffset() != null) {
      expression(select.getOffset().getOffset(), place);
    }
    if (select.getFetch() != null) {
      expression(select.getFetch().getExpression(), place);
    }
    return outputs;
  }

  /** Looks at named queries, and names them. */
  void with(List<WithItem<?>> items, Place place) throws NotUnderstood {
    for (WithItem<?> item : items == null ? List.<WithItem<?>>of() : items) {
      if (!(item.getParenthesedStatement() instanceof Select query)) {
        throw new NotUnderstood("a change within a query");
      }
      String name = names.name(item.getAlias().getName());
      List<String> renamed = renamed(item);
      if (item.isRecursive()) {
        place.name(name, renamed == null ? columnsOfFirst(query, place) : renamed);
      }
      List<String> outputs = query(query, place);
      place.name(name, renamed == null ? outputs : renamed);
    }
  }

  private List<String> renamed(WithItem<?> item) throws NotUnderstood {
    if (item.getWithItemList() == null || item.getWithItemList().isEmpty()) {
      return null;
    }
    List<String> others = new ArrayList<>();
    for (SelectItem<?> column : item.getWithItemList()) {
      if (!(column.getExpression() instanceof Column each)) {
        throw new NotUnderstood("a column that is no name");
      }
      others.add(names.name(each.getColumnName()));
    }
    return others;
  }

  private List<String> columnsOfFirst(Select query, Place place) throws NotUnderstood {
    Select inner = query;
    while (inner instanceof ParenthesedSelect held) {
      inner = held.getSelect();
    }
    if (!(inner instanceof SetOperationList operations)) {
      throw new NotUnderstood("a query that names itself in another way");
    }
    return query(operations.getSelect(0), place);
  }

  private List<String> values(Values values, Place place) throws NotUnderstood {
    int width = 0;
    for (Expression each : values.getExpressions()) {
      expression(each, place);
      width = Math.max(width, each instanceof ExpressionList<?> list ? list.size() : 1);
    }
    List<String> outputs = new ArrayList<>();
    for (int i = 1; i <= width; i++) {
      outputs.add("column" + i);
    }
    return outputs;
  }

  private List<String> plain(PlainSelect select, Place place) throws NotUnderstood {
    boolean beyond =
        select.getLateralViews() != null
            || select.getIntoTables() != null
            || select.getIntoTempTable() != null
            || select.getOracleHierarchical() != null
            || select.getPreferringClause() != null;
    if (beyond) {
      throw new NotUnderstood("a query of a kind that is not known");
    }
    sources.from(select.getFromItem(), select.getJoins(), place);
    if (select.getForMode() != null) {
      locks(select, place);
    }
    List<String> outputs = new ArrayList<>();
    for (SelectItem<?> item : select.getSelectItems()) {
      output(item, place, outputs);
    }
    place.outputs().addAll(outputs);
    if (select.getDistinct() != null && select.getDistinct().getOnSelectItems() != null) {
      for (SelectItem<?> item : select.getDistinct().getOnSelectItems()) {
        expression(item.getExpression(), place);
      }
    }
    expression(select.getWhere(), place);
    if (select.getGroupBy() != null) {
      expression(select.getGroupBy().getGroupByExpressionList(), place);
      for (Expression set :
          select.getGroupBy().getGroupingSets() == null
              ? List.<Expression>of()
              : select.getGroupBy().getGroupingSets()) {
        expression(set, place);
      }
    }
    expression(select.getHaving(), place);
    expression(select.getQualify(), place);
    if (select.getWindowDefinitions() != null) {
      for (var window : select.getWindowDefinitions()) {
        expression(window.getPartitionExpressionList(), place);
        order(window.getOrderByElements(), new Place(place));
      }
    }
    place.outputs().clear();
    return outputs;
  }

  /** Whoever locks rows must be allowed to change them. */
  private void locks(PlainSelect select, Place place) throws NotUnderstood {
    boolean known = select.getForMode() == ForMode.UPDATE || select.getForMode() == ForMode.SHARE;
    if (!known || select.getForUpdateTable() != null) {
      throw new NotUnderstood("a lock of a kind that is not known");
    }
    boolean takes = collected.has(HouseFact.LOCKS_TAKE_UPDATE);
    for (Source source : takes ? place.sources() : List.<Source>of()) {
      if (source.node() < 0) {
        throw new NotUnderstood("what is locked under a subquery is not known");
      } else {
        collected.any(Privilege.UPDATE, source.node());
      }
    }
  }

  private void output(SelectItem<?> item, Place place, List<String> outputs) throws NotUnderstood {
    Expression expression = item.getExpression();
    if (expression instanceof AllTableColumns all) {
      Source source = source(all.getTable(), place);
      if (collected.has(HouseFact.SHARES_COLUMNS_OF_VIEWS_FREELY)) {
        unshared(source, place);
      } else {
        everything(source);
      }
      outputs.addAll(source.columns());
    } else if (expression instanceof AllColumns all) {
      if (all.getExceptColumns() != null || all.getReplaceExpressions() != null) {
        throw new NotUnderstood("columns that are left out of all");
      }
      for (Source source : place.sources()) {
        unshared(source, place);
        outputs.addAll(source.columns());
      }
    } else {
      boolean shown =
          place.around() == null && expression instanceof Column column && shown(column, place);
      if (!shown) {
        expression(expression, place);
      }
      outputs.add(nameOf(item));
    }
  }

  /** All columns of a source but those that a join shows in the place of others, unread. */
  private void unshared(Source source, Place place) throws NotUnderstood {
    if (source.open()) {
      everything(source);
    }
    boolean any = false;
    for (String column : source.columns()) {
      if (column != null && !place.isShared(source, column)) {
        use(source, column);
        any = true;
      }
    }
    if (!any && source.node() >= 0) {
      collected.somethingRead(source.node());
    }
  }

  /** Whether a column that comes out as it is needs no more than that. */
  private boolean shown(Column column, Place place) {
    String name = names.name(column.getColumnName());
    List<Source> having =
        place.sources().stream()
            .filter(source -> source.node() >= 0 && has(source, name))
            .filter(
                source ->
                    column.getTable() == null
                        || names.same(names.name(column.getTable().getName()), source.alias()))
            .toList();
    return having.size() == 1
        && collected.shown(having.get(0).node(), names.column(having.get(0).node(), name));
  }

  private String nameOf(SelectItem<?> item) {
    if (item.getAlias() != null) {
      return names.name(item.getAlias().getName());
    }
    return item.getExpression() instanceof Column column
        ? names.name(column.getColumnName())
        : null;
  }

  /** A column that comes out may be named there by what it is called. */
  private void order(List<OrderByElement> elements, Place place) throws NotUnderstood {
    for (OrderByElement element : elements == null ? List.<OrderByElement>of() : elements) {
      Expression by = element.getExpression();
      boolean output =
          by instanceof Column column
              && column.getTable() == null
              && isOutput(names.name(column.getColumnName()), place);
      if (!output) {
        expression(by, place);
      }
    }
  }

  boolean isOutput(String name, Place place) {
    return place.outputs().stream().anyMatch(each -> each != null && names.same(each, name));
  }

  /** All columns of a source. */
  void everything(Source source) throws NotUnderstood {
    if (source.open()) {
      throw new NotUnderstood("a function whose columns nobody tells");
    } else if (source.node() >= 0) {
      collected.all(Privilege.SELECT, source.node());
    }
  }

  /** The source of a name, the nearest. */
  Source source(Table table, Place place) throws NotUnderstood {
    String schema = names.name(table.getSchemaName());
    String alias = names.name(table.getName());
    for (Place at = place; at != null; at = at.around()) {
      for (Source source : at.sources()) {
        boolean same = schema == null || schema.equals(source.schema());
        if (same && source.alias() != null && names.same(alias, source.alias())) {
          return source;
        }
      }
    }
    throw new NotUnderstood("nothing is called " + alias);
  }

  boolean has(Source source, String column) {
    return source.columns().stream().anyMatch(each -> each != null && names.same(each, column));
  }

  /** That a column of a source is read, where it has one. */
  void use(Source source, String column) {
    if (source.node() < 0) {
      return;
    }
    for (int i = 0; i < source.columns().size(); i++) {
      if (source.columns().get(i) != null && names.same(source.columns().get(i), column)) {
        collected.column(Privilege.SELECT, source.node(), i);
      }
    }
  }

  /** Looks at an expression; nothing for null. */
  void expression(Expression expression, Place place) throws NotUnderstood {
    if (expression != null) {
      ExpressionNeeds.look(this, expression, place);
    }
  }

  void ordered(List<OrderByElement> elements, Place place) throws NotUnderstood {
    for (OrderByElement element : elements == null ? List.<OrderByElement>of() : elements) {
      expression(element.getExpression(), place);
    }
  }
}
