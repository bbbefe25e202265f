package fiador.sqltext.lineage;

import fiador.sqltext.BareWords;
import fiador.sqltext.lineage.Scope.Output;
import fiador.sqltext.lineage.Scope.Source;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import net.sf.jsqlparser.expression.AnalyticExpression;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.ExpressionVisitorAdapter;
import net.sf.jsqlparser.expression.Function;
import net.sf.jsqlparser.expression.MySQLGroupConcat;
import net.sf.jsqlparser.expression.TrimFunction;
import net.sf.jsqlparser.expression.operators.relational.ExistsExpression;
import net.sf.jsqlparser.expression.operators.relational.IsNullExpression;
import net.sf.jsqlparser.expression.operators.relational.ParenthesedExpressionList;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.statement.select.AllColumns;
import net.sf.jsqlparser.statement.select.AllTableColumns;
import net.sf.jsqlparser.statement.select.ParenthesedSelect;
import net.sf.jsqlparser.statement.select.Select;

/**
 * What an expression shows: the columns whose values it is worked out of. How many there are,
 * whether there are any, and in what order rows stand shows no value.
 */
final class ExpressionColumns extends ExpressionVisitorAdapter<Void> {
  private final ViewColumns view;
  private final Scope scope;
  private final Set<Shown> found = new LinkedHashSet<>();
  private NotUnderstood problem;

  private ExpressionColumns(ViewColumns view, Scope scope) {
    this.view = view;
    this.scope = scope;
  }

  static Set<Shown> of(ViewColumns view, Expression expression, Scope scope) throws NotUnderstood {
    Expression bare = expression;
    while (bare instanceof ParenthesedExpressionList<?> list && list.size() == 1) {
      bare = list.get(0);
    }
    ExpressionColumns columns = new ExpressionColumns(view, scope);
    if (bare instanceof Column column) {
      columns.add(column, true);
    } else {
      bare.accept(columns, null);
    }
    if (columns.problem != null) {
      throw columns.problem;
    }
    return columns.found;
  }

  private void add(Column column, boolean asIs) {
    String name = view.name(column.getColumnName());
    Source source = null;
    if (column.getTable() != null && column.getTable().getName() != null) {
      String schema = view.name(column.getTable().getSchemaName());
      source = scope.source(schema, view.name(column.getTable().getName()));
      if (source == null) {
        problem = new NotUnderstood("nothing is called " + column.getTable());
        return;
      }
    }
    Set<Shown> shown = scope.column(source, name);
    if (shown != null) {
      shown.forEach(each -> found.add(asIs ? each : each.changed()));
    } else if (source == null && scope.source(null, name) != null) {
      all(scope.source(null, name));
    } else if (source != null || !BareWords.isValue(name)) {
      problem = new NotUnderstood("there is no column " + column);
    }
  }

  private void all(Source source) {
    source.outputs().forEach(output -> found.addAll(output.changed()));
    found.addAll(source.any() == null ? Set.of() : source.any());
  }

  @Override
  public <S> Void visit(Column column, S context) {
    add(column, false);
    return null;
  }

  @Override
  public <S> Void visit(AllTableColumns columns, S context) {
    String schema = view.name(columns.getTable().getSchemaName());
    Source source = scope.source(schema, view.name(columns.getTable().getName()));
    if (source == null) {
      problem = new NotUnderstood("nothing is called " + columns.getTable());
    } else {
      all(source);
    }
    return null;
  }

  @Override
  public <S> Void visit(AllColumns columns, S context) {
    scope.sources().forEach(this::all);
    return null;
  }

  @Override
  public <S> Void visit(Function function, S context) {
    if (!isCount(function.getName())) {
      visitAll(function.getParameters());
      visitAll(function.getNamedParameters());
    }
    return null;
  }

  private void visitAll(List<? extends Expression> expressions) {
    if (expressions != null) {
      expressions.forEach(each -> each.accept(this, null));
    }
  }

  @Override
  public <S> Void visit(AnalyticExpression window, S context) {
    if (!isCount(window.getName())) {
      for (Expression each :
          new Expression[] {window.getExpression(), window.getOffset(), window.getDefaultValue()}) {
        if (each != null) {
          each.accept(this, context);
        }
      }
    }
    return null;
  }

  /** The visitor itself passes it by. */
  @Override
  public <S> Void visit(MySQLGroupConcat joined, S context) {
    joined.getExpressionList().accept(this, context);
    return null;
  }

  /** The visitor itself passes it by. */
  @Override
  public <S> Void visit(TrimFunction trimmed, S context) {
    for (Expression each :
        new Expression[] {trimmed.getExpression(), trimmed.getFromExpression()}) {
      if (each != null) {
        each.accept(this, context);
      }
    }
    return null;
  }

  private boolean isCount(String function) {
    return "count".equalsIgnoreCase(function);
  }

  @Override
  public <S> Void visit(IsNullExpression test, S context) {
    return null;
  }

  @Override
  public <S> Void visit(ExistsExpression test, S context) {
    return null;
  }

  @Override
  public <S> Void visit(ParenthesedSelect select, S context) {
    return query(select);
  }

  @Override
  public <S> Void visit(Select select, S context) {
    return query(select);
  }

  private Void query(Select select) {
    try {
      for (Output output : view.outputs(select, scope)) {
        found.addAll(output.changed());
      }
    } catch (NotUnderstood unknown) {
      problem = unknown;
    }
    return null;
  }
}
