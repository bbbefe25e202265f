package fiador.sqltext.needs;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.rules.HouseFact;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.needs.Place.Source;
import java.util.ArrayList;
import java.util.List;
import net.sf.jsqlparser.expression.Alias;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.select.FromItem;
import net.sf.jsqlparser.statement.select.Join;
import net.sf.jsqlparser.statement.select.ParenthesedFromItem;
import net.sf.jsqlparser.statement.select.Select;
import net.sf.jsqlparser.statement.select.TableFunction;

/** What stands behind FROM: tables, queries, functions, and how they are joined. */
final class SourceNeeds {
  private final Tree tree;
  private final ReadNeeds reading;

  SourceNeeds(Tree tree, ReadNeeds reading) {
    this.tree = tree;
    this.reading = reading;
  }

  /** Looks at what a query or change reads from. */
  void from(FromItem item, List<Join> joins, Place place) throws NotUnderstood {
    if (item != null) {
      source(item, place);
    }
    for (Join join : joins == null ? List.<Join>of() : joins) {
      List<Source> before = List.copyOf(place.sources());
      source(join.getFromItem(), place);
      List<Source> after = place.sources().subList(before.size(), place.sources().size());
      if (join.isNatural()) {
        for (Source one : before) {
          for (String column : one.columns()) {
            shared(column, before, after, place);
          }
        }
      }
      for (Column column :
          join.getUsingColumns() == null ? List.<Column>of() : join.getUsingColumns()) {
        shared(reading.names().name(column.getColumnName()), before, after, place);
      }
      for (Expression on : join.getOnExpressions()) {
        reading.expression(on, place);
      }
    }
  }

  private void shared(String column, List<Source> before, List<Source> after, Place place) {
    boolean both = column != null && after.stream().anyMatch(source -> reading.has(source, column));
    boolean free = reading.collected().has(HouseFact.SHARES_COLUMNS_FREELY);
    boolean freeOfViews = reading.collected().has(HouseFact.SHARES_COLUMNS_OF_VIEWS_FREELY);
    List<Source> all = new ArrayList<>(before);
    all.addAll(after);
    for (Source source : both ? all : List.<Source>of()) {
      boolean view = source.node() >= 0 && tree.kind(source.node()) == NodeKind.VIEW;
      if (!free && !(view && freeOfViews)) {
        reading.use(source, column);
      } else if (!free || after.contains(source)) {
        place.share(source, column);
      }
    }
  }

  private void source(FromItem item, Place place) throws NotUnderstood {
    Alias alias = item.getAlias();
    String called = alias == null ? null : reading.names().name(alias.getName());
    if (item.getPivot() != null || item.getUnPivot() != null) {
      throw new NotUnderstood("a source of a kind that is not known");
    } else if (item instanceof ParenthesedFromItem group) {
      if (alias != null) {
        throw new NotUnderstood("a join with a name of its own");
      }
      from(group.getFromItem(), group.getJoins(), place);
    } else if (item instanceof Table table) {
      table(table, called, place);
    } else if (item instanceof TableFunction function) {
      reading.expression(function.getFunction(), place);
      place.add(new Source(null, called, None.NODE, columns(alias, List.of()), true));
    } else if (item instanceof Select query) {
      place.add(
          new Source(null, called, None.NODE, columns(alias, reading.query(query, place)), false));
    } else {
      throw new NotUnderstood("a source of a kind that is not known");
    }
  }

  private void table(Table table, String called, Place place) throws NotUnderstood {
    String name = reading.names().name(table.getName());
    List<String> query = table.getSchemaName() == null ? place.query(name) : null;
    if (query != null) {
      String known = called == null ? name : called;
      place.add(new Source(null, known, None.NODE, columns(table.getAlias(), query), false));
      return;
    }
    place.add(base(table, called, Privilege.SELECT));
  }

  /** A table or view as a source, of which something is needed in any case. */
  Source base(Table table, String called, Privilege privilege) throws NotUnderstood {
    int node = reading.names().relation(table);
    if (privilege != null) {
      reading.collected().any(privilege, node);
    }
    List<String> columns = new ArrayList<>();
    for (int i = 0; i < tree.columns(node); i++) {
      columns.add(tree.column(node, i));
    }
    String schema = called == null ? reading.names().name(table.getSchemaName()) : null;
    String known = called == null ? reading.names().name(table.getName()) : called;
    List<String> renamed = columns(table.getAlias(), columns);
    return new Source(schema, known, node, renamed, false);
  }

  private List<String> columns(Alias alias, List<String> columns) {
    if (alias == null || alias.getAliasColumns() == null) {
      return columns;
    }
    List<String> renamed = new ArrayList<>(columns);
    for (int i = 0; i < alias.getAliasColumns().size(); i++) {
      String other = reading.names().name(alias.getAliasColumns().get(i).name);
      if (i < renamed.size()) {
        renamed.set(i, other);
      } else {
        renamed.add(other);
      }
    }
    return renamed;
  }
}
