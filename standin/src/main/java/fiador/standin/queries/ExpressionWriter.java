package fiador.standin.queries;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import net.sf.jsqlparser.expression.AnalyticExpression;
import net.sf.jsqlparser.expression.Expression;
import net.sf.jsqlparser.expression.Function;
import net.sf.jsqlparser.expression.NextValExpression;
import net.sf.jsqlparser.expression.UserVariable;
import net.sf.jsqlparser.expression.operators.relational.LikeExpression;
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

  /** What veils may call besides, and what stands for it; all count characters as people do. */
  private static final Map<String, String> IN_VEILS =
      Map.ofEntries(
          Map.entry("char_length", "\"TEXTS\".\"CHARACTERS\""),
          Map.entry("substring", "\"TEXTS\".\"PART\""),
          Map.entry("position", "\"TEXTS\".\"PLACE\""),
          Map.entry("repeat", "\"TEXTS\".\"REPEATED\""),
          Map.entry("trunc", "TRUNC"),
          Map.entry("lpad", "LPAD"),
          Map.entry("rtrim", "RTRIM"));

  private final QueryWriter queries;
  private final boolean veil;
  private final Set<String> columns = new HashSet<>();

  /**
   * @param veil whether it is a veil's, which knows more and is an administrator's
   */
  ExpressionWriter(QueryWriter queries, StringBuilder builder, boolean veil) {
    super(queries, builder);
    this.queries = queries;
    this.veil = veil;
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
    // names that are words of the engine stand in veils like all others
    return getBuilder()
        .append(
            veil
                ? PlainText.quoted(PlainText.name(column.getColumnName(), name -> name))
                : column.getColumnName());
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
    String inVeils = veil ? IN_VEILS.get(PlainText.lower(function.getName())) : null;
    if (inVeils != null) {
      getBuilder().append(inVeils).append('(');
      String comma = "";
      Iterable<? extends Expression> parts =
          function.getParameters() == null
              ? function.getNamedParameters()
              : function.getParameters();
      for (Expression part : parts) {
        getBuilder().append(comma);
        part.accept(this, context);
        comma = ", ";
      }
      return getBuilder().append(')');
    }
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

  /** The engine's own takes half of a character for a whole one. */
  @Override
  public <S> StringBuilder visit(LikeExpression like, S context) {
    if (!veil) {
      return super.visit(like, context);
    }
    getBuilder().append(like.isNot() ? "NOT " : "").append("\"TEXTS\".\"ALIKE\"(");
    like.getLeftExpression().accept(this, context);
    getBuilder().append(", ");
    like.getRightExpression().accept(this, context);
    return getBuilder().append(')');
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
