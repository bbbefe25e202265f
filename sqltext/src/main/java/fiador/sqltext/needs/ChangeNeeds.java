package fiador.sqltext.needs;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.needs.Place.Source;
import java.util.ArrayList;
import java.util.List;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.operators.relational.ExpressionList;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.ReturningClause;
import net.sf.jsqlparser.statement.delete.Delete;
import net.sf.jsqlparser.statement.insert.Insert;
import net.sf.jsqlparser.statement.insert.InsertConflictAction;
import net.sf.jsqlparser.statement.insert.InsertConflictTarget;
import net.sf.jsqlparser.statement.merge.Merge;
import net.sf.jsqlparser.statement.merge.MergeDelete;
import net.sf.jsqlparser.statement.merge.MergeInsert;
import net.sf.jsqlparser.statement.merge.MergeOperation;
import net.sf.jsqlparser.statement.merge.MergeUpdate;
import net.sf.jsqlparser.statement.select.AllColumns;
import net.sf.jsqlparser.statement.select.AllTableColumns;
import net.sf.jsqlparser.statement.select.Join;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.select.SelectItem;
import net.sf.jsqlparser.statement.select.Values;
import net.sf.jsqlparser.statement.truncate.Truncate;
import net.sf.jsqlparser.statement.update.Update;
import net.sf.jsqlparser.statement.update.UpdateSet;

/** What statements need that change rows. */
final class ChangeNeeds {
  private final HouseRules rules;
  private final Tree tree;
  private final ReadNeeds reading;
  private final Names names;
  private final Collected collected;

  ChangeNeeds(HouseRules rules, Tree tree, ReadNeeds reading) {
    this.rules = rules;
    this.tree = tree;
    this.reading = reading;
    this.names = reading.names();
    this.collected = reading.collected();
  }

  /**
   * What is changed, as a source of the statement: reading it needs something only if it is read.
   */
  private Source changed(Table table, Privilege privilege) throws NotUnderstood {
    String called = table.getAlias() == null ? null : names.name(table.getAlias().getName());
    Source source = reading.sources().base(table, called, privilege);
    if (tree.kind(source.node()) != NodeKind.TABLE) {
      throw new NotUnderstood("a change through a view: what lies under it is not looked at");
    }
    return source;
  }

  private void readToo(Source table) {
    if (rules.has(HouseFact.CHANGING_TAKES_SELECT)) {
      collected.whole(table.node(), Privilege.SELECT);
    }
  }

  void insert(Insert insert) throws NotUnderstood {
    if (insert.getOutputClause() != null
        || insert.isOverwrite()
        || insert.getPartitions() != null) {
      throw new NotUnderstood("an insert of a kind that is not known");
    } else if (insert.getDuplicateUpdateSets() != null) {
      // found by trying: it also depends on keys, and on which of the rights are on the whole
      throw new NotUnderstood("what ON DUPLICATE KEY UPDATE takes is not known");
    }
    Place place = new Place(null);
    reading.with(insert.getWithItemsList(), place);
    Source table = changed(insert.getTable(), Privilege.INSERT);
    insertColumns(insert, table.node());
    Place rows = new Place(place);
    rows.add(table);
    if (insert.getSelect() != null) {
      reading.query(insert.getSelect(), place);
    }
    sets(insert.getSetUpdateSets(), Privilege.INSERT, table.node(), rows);
    conflict(insert, table, rows);
    returning(insert.getReturningClause(), rows);
  }

  private void insertColumns(Insert insert, int node) throws NotUnderstood {
    if (insert.isOnlyDefaultValues()) {
      return;
    } else if (insert.getColumns() != null && !insert.getColumns().isEmpty()) {
      columns(insert.getColumns(), Privilege.INSERT, node);
    } else if (insert.getSetUpdateSets() == null) {
      int width = insert.getSelect() instanceof Values values ? width(values) : tree.columns(node);
      for (int i = 0; i < Math.min(width, tree.columns(node)); i++) {
        collected.column(Privilege.INSERT, node, i);
      }
    }
  }

  private static int width(Values values) {
    Expression first = values.getExpressions().get(0);
    return first instanceof ExpressionList<?> row ? row.size() : values.getExpressions().size();
  }

  private void conflict(Insert insert, Source table, Place rows) throws NotUnderstood {
    InsertConflictTarget target = insert.getConflictTarget();
    InsertConflictAction action = insert.getConflictAction();
    if (target != null) {
      if (target.getIndexExpression() != null || target.getConstraintName() != null) {
        throw new NotUnderstood("a conflict of a kind that is not known");
      }
      for (String column : target.getIndexColumnNames()) {
        reading.use(table, names.name(column));
      }
      reading.expression(target.getWhereExpression(), rows);
    }
    if (action != null && action.getUpdateSets() != null) {
      // the server asks for what of it is read as if it were read from the table
      rows.add(new Source(null, "excluded", table.node(), table.columns(), false));
      sets(action.getUpdateSets(), Privilege.UPDATE, table.node(), rows);
      reading.expression(action.getWhereExpression(), rows);
    }
  }

  void update(Update update) throws NotUnderstood {
    boolean several = update.getStartJoins() != null && !update.getStartJoins().isEmpty();
    if (several || update.getOutputClause() != null || update.getPreferringClause() != null) {
      throw new NotUnderstood("an update of several tables");
    }
    Place place = new Place(null);
    reading.with(update.getWithItemsList(), place);
    Source table = changed(update.getTable(), Privilege.UPDATE);
    readToo(table);
    place.add(table);
    reading.sources().from(update.getFromItem(), update.getJoins(), place);
    sets(update.getUpdateSets(), Privilege.UPDATE, table.node(), place);
    reading.expression(update.getWhere(), place);
    reading.ordered(update.getOrderByElements(), place);
    returning(update.getReturningClause(), place);
  }

  void delete(Delete delete) throws NotUnderstood {
    boolean several = delete.getTables() != null && !delete.getTables().isEmpty();
    boolean joins = delete.getJoins() != null && !delete.getJoins().isEmpty();
    if (several || joins || delete.getOutputClause() != null) {
      throw new NotUnderstood("a delete from several tables");
    }
    Place place = new Place(null);
    reading.with(delete.getWithItemsList(), place);
    Source table = changed(delete.getTable(), Privilege.DELETE);
    readToo(table);
    place.add(table);
    for (Table other : delete.getUsingList() == null ? List.<Table>of() : delete.getUsingList()) {
      reading.sources().from(other, List.<Join>of(), place);
    }
    reading.expression(delete.getWhere(), place);
    reading.ordered(delete.getOrderByElements(), place);
    returning(delete.getReturningClause(), place);
  }

  void merge(Merge merge) throws NotUnderstood {
    if (merge.getOutputClause() != null || merge.getOperations() == null) {
      throw new NotUnderstood("a merge of a kind that is not known");
    }
    Place place = new Place(null);
    reading.with(merge.getWithItemsList(), place);
    Source table = changed(merge.getTable(), null);
    place.add(table);
    reading.sources().from(merge.getFromItem(), List.of(), place);
    reading.expression(merge.getOnCondition(), place);
    if (rules.has(HouseFact.MERGE_TAKES_UPDATE)) {
      collected.whole(table.node(), Privilege.UPDATE);
    }
    for (MergeOperation operation : merge.getOperations()) {
      if (operation instanceof MergeUpdate update) {
        sets(update.getUpdateSets(), Privilege.UPDATE, table.node(), place);
        reading.expression(update.getAndPredicate(), place);
        reading.expression(update.getWhereCondition(), place);
        reading.expression(update.getDeleteWhereCondition(), place);
      } else if (operation instanceof MergeInsert insert) {
        List<Column> into =
            insert.getColumns() == null ? List.of() : new ArrayList<>(insert.getColumns());
        if (into.isEmpty()) {
          collected.all(Privilege.INSERT, table.node());
        }
        columns(into, Privilege.INSERT, table.node());
        reading.expression(insert.getValues(), place);
        reading.expression(insert.getAndPredicate(), place);
        reading.expression(insert.getWhereCondition(), place);
      } else if (operation instanceof MergeDelete gone) {
        collected.any(Privilege.DELETE, table.node());
        reading.expression(gone.getAndPredicate(), place);
      } else {
        throw new NotUnderstood("a merge of a kind that is not known");
      }
    }
  }

  void truncate(Truncate truncate) throws NotUnderstood {
    List<Table> tables =
        truncate.getTables() != null ? truncate.getTables() : List.of(truncate.getTable());
    for (Table table : tables) {
      int node = names.relation(table);
      long possible = rules.privilegesOn(tree.kind(node));
      for (Privilege each : List.of(Privilege.TRUNCATE, Privilege.DROP, Privilege.DELETE)) {
        if ((possible & each.bit()) != 0) {
          collected.whole(node, each);
          break;
        }
      }
    }
  }

  private void sets(List<UpdateSet> sets, Privilege privilege, int node, Place place)
      throws NotUnderstood {
    for (UpdateSet set : sets == null ? List.<UpdateSet>of() : sets) {
      columns(set.getColumns(), privilege, node);
      for (Expression value : set.getValues()) {
        if (value instanceof Select query) {
          reading.query(query, place);
        } else {
          reading.expression(value, place);
        }
      }
    }
  }

  private void columns(List<Column> columns, Privilege privilege, int node) throws NotUnderstood {
    for (Column column : columns) {
      int ordinal = names.column(node, names.name(column.getColumnName()));
      if (ordinal < 0) {
        throw new NotUnderstood(
            "there is no column " + tree.name(node) + "." + names.name(column.getColumnName()));
      }
      collected.column(privilege, node, ordinal);
    }
  }

  private void returning(ReturningClause returning, Place place) throws NotUnderstood {
    if (returning == null) {
      return;
    } else if (returning.getDataItems() != null && !returning.getDataItems().isEmpty()) {
      throw new NotUnderstood("what is returned goes somewhere");
    }
    for (SelectItem<?> item : returning) {
      if (item.getExpression() instanceof AllColumns all && !(all instanceof AllTableColumns)) {
        for (Source source : place.sources()) {
          reading.everything(source);
        }
      } else {
        reading.expression(item.getExpression(), place);
      }
    }
  }
}
