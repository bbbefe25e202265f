package fiador.sqltext.needs;

import fiador.estate.Privilege;
import fiador.sqltext.BareWords;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.needs.Place.Source;
import java.util.regex.Pattern;
import net.sf.jsqlparser.expression.AnalyticExpression;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.ExpressionVisitorAdapter;
import net.sf.jsqlparser.expression.Function;
import net.sf.jsqlparser.expression.MySQLGroupConcat;
import net.sf.jsqlparser.expression.NextValExpression;
import net.sf.jsqlparser.expression.TrimFunction;
import net.sf.jsqlparser.expression.operators.relational.ExistsExpression;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.statement.select.AllColumns;
import net.sf.jsqlparser.statement.select.AllTableColumns;
import net.sf.jsqlparser.statement.select.ParenthesedSelect;
import net.sf.jsqlparser.statement.select.Select;

/** What an expression reads and calls. */
final class ExpressionNeeds extends ExpressionVisitorAdapter<Void> {
  /** Servers' own functions that use what a text names, or what lies outside. */
  private static final Pattern REACHES_FURTHER =
      Pattern.compile(
          "(.*\\.)?((next|curr|set|last)val|\\w+_to_xml\\w*|lo_\\w+|dblink\\w*|pg_read_\\w+|pg_ls_\\w+"
              + "|pg_stat_file|load_file|sys_\\w+)",
          Pattern.CASE_INSENSITIVE);

  private final ReadNeeds reading;
  private final Place place;
  private NotUnderstood problem;

  private ExpressionNeeds(ReadNeeds reading, Place place) {
    this.reading = reading;
    this.place = place;
  }

  static void look(ReadNeeds reading, Expression expression, Place place) throws NotUnderstood {
    ExpressionNeeds needs = new ExpressionNeeds(reading, place);
    expression.accept(needs, null);
    if (needs.problem != null) {
      throw needs.problem;
    }
  }

  private interface Part {
    void look() throws NotUnderstood;
  }

  private Void with(Part part) {
    try {
      part.look();
    } catch (NotUnderstood unknown) {
      problem = problem == null ? unknown : problem;
    }
    return null;
  }

  @Override
  public <S> Void visit(Column column, S context) {
    return with(() -> column(column));
  }

  private void column(Column column) throws NotUnderstood {
    String name = reading.names().name(column.getColumnName());
    if (column.getTable() != null && column.getTable().getName() != null) {
      Source source = reading.source(column.getTable(), place);
      if (!reading.has(source, name) && !source.open()) {
        throw new NotUnderstood("there is no column " + source.alias() + "." + name);
      }
      reading.use(source, name);
      return;
    }
    for (Place at = place; at != null; at = at.around()) {
      boolean found = false;
      for (Source source : at.sources()) {
        if (reading.has(source, name)) {
          reading.use(source, name);
          found = true;
        }
      }
      boolean open = at.sources().stream().anyMatch(Source::open);
      if (found || reading.isOutput(name, at) || open) {
        return;
      }
    }
    for (Place at = place; at != null; at = at.around()) {
      for (Source source : at.sources()) {
        if (source.alias() != null && reading.names().same(source.alias(), name)) {
          // the whole row
          reading.everything(source);
          return;
        }
      }
    }
    if (!BareWords.isValue(name)) {
      throw new NotUnderstood("there is no column " + name);
    }
  }

  @Override
  public <S> Void visit(AllTableColumns columns, S context) {
    return with(() -> reading.everything(reading.source(columns.getTable(), place)));
  }

  /** Only as in {@code count(*)}, which reads no column. */
  @Override
  public <S> Void visit(AllColumns columns, S context) {
    return null;
  }

  @Override
  public <S> Void visit(Function function, S context) {
    with(
        () -> {
          called(function.getName());
          reading.ordered(function.getOrderByElements(), place);
        });
    return super.visit(function, context);
  }

  private void called(String name) throws NotUnderstood {
    if (REACHES_FURTHER.matcher(name).matches()) {
      throw new NotUnderstood("what " + name + " reaches is not known");
    }
    int routine = reading.names().routine(name);
    if (routine >= 0) {
      reading.collected().whole(routine, Privilege.EXECUTE);
    }
  }

  @Override
  public <S> Void visit(AnalyticExpression window, S context) {
    with(
        () -> {
          called(window.getName());
          reading.ordered(window.getOrderByElements(), place);
          reading.ordered(window.getFuncOrderBy(), place);
          reading.expression(window.getPartitionExpressionList(), place);
          reading.expression(window.getFilterExpression(), place);
          reading.expression(window.getOffset(), place);
          reading.expression(window.getDefaultValue(), place);
          reading.expression(window.getExpression(), place);
          if (window.getWindowDefinition() != null) {
            reading.ordered(window.getWindowDefinition().getOrderByElements(), place);
            reading.expression(window.getWindowDefinition().getPartitionExpressionList(), place);
          }
        });
    return null;
  }

  /** The visitor itself passes it by. */
  @Override
  public <S> Void visit(MySQLGroupConcat joined, S context) {
    return with(
        () -> {
          reading.expression(joined.getExpressionList(), place);
          reading.ordered(joined.getOrderByElements(), place);
        });
  }

  /** The visitor itself passes it by. */
  @Override
  public <S> Void visit(TrimFunction trimmed, S context) {
    return with(
        () -> {
          reading.expression(trimmed.getExpression(), place);
          reading.expression(trimmed.getFromExpression(), place);
        });
  }

  @Override
  public <S> Void visit(NextValExpression next, S context) {
    problem = new NotUnderstood("a sequence's next value");
    return null;
  }

  @Override
  public <S> Void visit(ExistsExpression test, S context) {
    return with(
        () -> {
          if (test.getRightExpression() instanceof Select query) {
            reading.existence(query, place);
          } else {
            reading.expression(test.getRightExpression(), place);
          }
        });
  }

  @Override
  public <S> Void visit(ParenthesedSelect select, S context) {
    return with(() -> reading.query(select, place));
  }

  @Override
  public <S> Void visit(Select select, S context) {
    return with(() -> reading.query(select, place));
  }
}
