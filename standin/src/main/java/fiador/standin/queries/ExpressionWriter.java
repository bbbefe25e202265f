package fiador.standin.queries;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import net.sf.jsqlparser.expression.AnalyticExpression;
import net.sf.jsqlparser.expression.Function;
import net.sf.jsqlparser.expression.NextValExpression;
import net.sf.jsqlparser.expression.UserVariable;
import net.sf.jsqlparser.schema.Column;
import net.sf.jsqlparser.schema.Table;
import net.sf.jsqlparser.statement.select.AllColumns;
import net.sf.jsqlparser.statement.select.AllTableColumns;
import net.sf.jsqlparser.statement.select.FunctionAllColumns;
import net.sf.jsqlparser.util.deparser.ExpressionDeParser;

/**
 * Writes expressions anew: columns by their last two names, and functions that are known to be
 * harmless.
 */
final class ExpressionWriter extends ExpressionDeParser {
  private static final Set<String> FUNCTIONS =
      Set.of(
          "count",
          "sum",
          "min",
          "max",
          "avg",
          "coalesce",
          "nullif",
          "upper",
          "lower",
          "trim",
          "length",
          "char_length",
          "substring",
          "abs",
          "round",
          "floor",
          "ceil",
          "mod",
          "concat",
          "left",
          "right",
          "replace",
          "greatest",
          "least",
          "extract",
          "year",
          "month",
          "row_number",
          "rank",
          "dense_rank",
          "lag",
          "lead",
          "position");

  private final QueryWriter queries;
  private final Set<String> columns = new HashSet<>();

  ExpressionWriter(QueryWriter queries, StringBuilder builder) {
    super(queries, builder);
    this.queries = queries;
  }

  /** The last names of all columns that were written, in small letters. */
  Set<String> columns() {
    return columns;
  }

  @Override
  public <S> StringBuilder visit(Column column, S context) {
    columns.add(PlainText.lower(PlainText.name(column.getColumnName(), name -> name)));
    Table of = column.getTable();
    if (of != null && of.getName() != null) {
      getBuilder().append(of.getName()).append('.');
    }
    return getBuilder().append(column.getColumnName());
  }

  @Override
  public <S> StringBuilder visit(AllColumns all, S context) {
    if (all.getExceptColumns() != null || all.getReplaceExpressions() != null) {
      throw Stopped.mistake("nothing follows * here");
    }
    queries.star();
    return getBuilder().append('*');
  }

  @Override
  public <S> StringBuilder visit(AllTableColumns all, S context) {
    queries.star();
    return getBuilder().append(all.getTable().getName()).append(".*");
  }

  @Override
  public <S> StringBuilder visit(FunctionAllColumns all, S context) {
    throw Stopped.mistake("functions give values here, and no rows");
  }

  @Override
  public <S> StringBuilder visit(Function function, S context) {
    known(function.getName());
    boolean counts =
        function.getParameters() != null
            && List.copyOf(function.getParameters()).stream()
                .anyMatch(p -> p.getClass() == AllColumns.class);
    if (counts) {
      boolean plain = PlainText.lower(function.getName()).equals("count");
      if (!plain || function.getParameters().size() != 1) {
        throw Stopped.mistake("only count takes *");
      }
      return getBuilder().append("COUNT(*)");
    }
    return super.visit(function, context);
  }

  @Override
  public <S> StringBuilder visit(AnalyticExpression function, S context) {
    known(function.getName());
    if (function.isAllColumns()) {
      known("count");
    }
    return super.visit(function, context);
  }

  private static void known(String name) {
    if (!FUNCTIONS.contains(PlainText.lower(name))) {
      throw Stopped.mistake("there is no function " + name + " here");
    }
  }

  @Override
  public <S> StringBuilder visit(NextValExpression expression, S context) {
    throw Stopped.mistake("there are no sequences here");
  }

  @Override
  public <S> StringBuilder visit(UserVariable variable, S context) {
    throw Stopped.mistake("there are no variables here");
  }
}
