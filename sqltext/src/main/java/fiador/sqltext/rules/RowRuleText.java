package fiador.sqltext.rules;

import fiador.estate.ColumnType;
import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Expression.In;
import fiador.predicates.Expression.IsNull;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.UserName;
import fiador.predicates.PredicateText;
import fiador.predicates.Values;
import fiador.sqltext.lineage.NotUnderstood;
import fiador.sqltext.lineage.ViewColumns;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import net.sf.jsqlparser.JSQLParserException;
import net.sf.jsqlparser.expression.ArrayConstructor;
import net.sf.jsqlparser.expression.BinaryExpression;
import net.sf.jsqlparser.expression.BooleanValue;
import net.sf.jsqlparser.expression.CastExpression;
import net.sf.jsqlparser.expression.DoubleValue;
import net.sf.jsqlparser.expression.Function;
import net.sf.jsqlparser.expression.LongValue;
import net.sf.jsqlparser.expression.NotExpression;
import net.sf.jsqlparser.expression.StringValue;
import net.sf.jsqlparser.expression.operators.conditional.AndExpression;
import net.sf.jsqlparser.expression.operators.conditional.OrExpression;
import net.sf.jsqlparser.expression.operators.relational.ComparisonOperator;
import net.sf.jsqlparser.expression.operators.relational.EqualsTo;
import net.sf.jsqlparser.expression.operators.relational.IsNullExpression;
import net.sf.jsqlparser.expression.operators.relational.ParenthesedExpressionList;
import net.sf.jsqlparser.statement.select.PlainSelect;

/**
 * Understands row rules that somebody wrote in SQL, as far as they mean exactly what a predicate
 * means: comparisons of columns with values, the user's name, roles held, and, or, not. Whatever
 * else stands there makes the whole rule one that is not understood.
 */
public final class RowRuleText {
  private static final Pattern QUERY = Pattern.compile("\\bselect\\b", Pattern.CASE_INSENSITIVE);
  private static final Set<String> TEXTS = Set.of("text", "character varying", "varchar", "name");
  private static final Set<String> NUMBERS =
      Set.of("integer", "bigint", "smallint", "numeric", "int4", "int8");

  /** Something that predicates cannot say. */
  private static final class Beyond extends RuntimeException {
    private static final long serialVersionUID = 1L;

    Beyond(Object what) {
      super(String.valueOf(what), null, false, false);
    }
  }

  private RowRuleText() {}

  /** The predicate of a rule's SQL, as the catalog writes it; null when it is beyond predicates. */
  public static String predicate(String sql) {
    // a query inside is beyond predicates, and takes the parser minutes to find out
    if (sql == null || QUERY.matcher(sql).find()) {
      return null;
    }
    try {
      return PredicateText.of(truth(condition(sql)));
    } catch (JSQLParserException | NotUnderstood | RuntimeException | StackOverflowError beyond) {
      return null;
    }
  }

  /** Only whole queries are given up after a while; the condition has to be all there is to it. */
  private static Object condition(String sql) throws JSQLParserException, NotUnderstood {
    String query = "SELECT 1 WHERE ";
    if (ViewColumns.parsed(query + sql) instanceof PlainSelect select
        && select.toString().equals(query + select.getWhere())) {
      return select.getWhere();
    }
    throw new Beyond(sql);
  }

  private static Object inner(Object sql) {
    Object at = sql;
    while (at instanceof ParenthesedExpressionList<?> list && list.size() == 1) {
      at = list.get(0);
    }
    return at;
  }

  private static Expression truth(Object sql) {
    Object at = inner(sql);
    if (at instanceof AndExpression and) {
      return new And(List.of(truth(and.getLeftExpression()), truth(and.getRightExpression())));
    } else if (at instanceof OrExpression or) {
      return new Or(List.of(truth(or.getLeftExpression()), truth(or.getRightExpression())));
    } else if (at instanceof NotExpression not) {
      return new Not(truth(not.getExpression()));
    } else if (at instanceof IsNullExpression is) {
      Expression plain = new IsNull(value(is.getLeftExpression()));
      return is.isNot() ? new Not(plain) : plain;
    } else if (at instanceof EqualsTo equal
        && inner(equal.getRightExpression()) instanceof Function any) {
      return any(equal, any);
    } else if (at instanceof ComparisonOperator compare) {
      return compare(compare);
    } else if (at instanceof Function function) {
      return role(function);
    }
    Expression value = value(at);
    if (value instanceof Column
        || value.equals(Expression.TRUE)
        || value.equals(Expression.FALSE)) {
      return value;
    }
    throw new Beyond(at);
  }

  /** {@code x = ANY (ARRAY[...])}, which is how the catalog writes {@code in}. */
  private static Expression any(EqualsTo equal, Function any) {
    boolean one = any.getParameters() != null && any.getParameters().size() == 1;
    if (!any.getName().equalsIgnoreCase("any")
        || !one
        || !(inner(any.getParameters().get(0)) instanceof ArrayConstructor array)) {
      throw new Beyond(any);
    }
    List<Expression> options = new ArrayList<>();
    array.getExpressions().forEach(option -> options.add(value(option)));
    return new In(value(equal.getLeftExpression()), List.copyOf(options));
  }

  /** Texts have their collation's order, which predicates do not know. */
  private static Expression compare(ComparisonOperator sql) {
    Comparison how = null;
    String sign = sql.getStringExpression().equals("!=") ? "<>" : sql.getStringExpression();
    for (Comparison one : Comparison.values()) {
      how = one.sign().equals(sign) ? one : how;
    }
    BinaryExpression sides = sql;
    Expression left = value(sides.getLeftExpression());
    Expression right = value(sides.getRightExpression());
    boolean equality = how == Comparison.EQUAL || how == Comparison.UNEQUAL;
    if (how == null || !equality && !ordered(left) && !ordered(right)) {
      throw new Beyond(sql);
    }
    return new Compare(how, left, right);
  }

  private static boolean ordered(Expression side) {
    return side instanceof Expression.Literal literal && !literal.type().isText();
  }

  /** Whether the user holds a role, however: only then it is what predicates ask. */
  private static Expression role(Function function) {
    boolean three = function.getParameters() != null && function.getParameters().size() == 3;
    if (!three || !function.getName().equalsIgnoreCase("pg_has_role")) {
      throw new Beyond(function);
    }
    boolean user = value(function.getParameters().get(0)) instanceof UserName;
    Expression role = value(function.getParameters().get(1));
    Expression how = value(function.getParameters().get(2));
    boolean member =
        how instanceof Expression.Literal literal
            && "member".equals(String.valueOf(literal.value()).toLowerCase(Locale.ROOT));
    if (!user || !member || !(role instanceof Expression.Literal name)) {
      throw new Beyond(function);
    }
    return new Holds((String) name.value());
  }

  private static Expression value(Object sql) {
    Object at = inner(sql);
    if (at instanceof CastExpression cast) {
      return cast(cast);
    } else if (at instanceof net.sf.jsqlparser.schema.Column column) {
      return column(column);
    } else if (at instanceof StringValue text) {
      return Expression.text(text.getNotExcapedValue());
    } else if (at instanceof LongValue number) {
      return Expression.number(new BigDecimal(number.getBigIntegerValue()));
    } else if (at instanceof DoubleValue number) {
      return Expression.number(new BigDecimal(number.toString()));
    } else if (at instanceof BooleanValue truth) {
      return Expression.truth(truth.getValue());
    }
    throw new Beyond(at);
  }

  private static Expression column(net.sf.jsqlparser.schema.Column column) {
    String name = column.getColumnName();
    if (column.getTable() != null && column.getTable().getName() != null) {
      throw new Beyond(column);
    }
    if (name.equals("CURRENT_USER") || name.equals("SESSION_USER")) {
      return new UserName();
    }
    boolean quoted = name.startsWith("\"");
    return new Column(quoted ? name : '"' + name + '"', -1, ColumnType.OTHER);
  }

  private static Expression cast(CastExpression cast) {
    String type = cast.getColDataType().toString().toLowerCase(Locale.ROOT);
    Expression inside = value(cast.getLeftExpression());
    boolean text = inside instanceof Expression.Literal literal && literal.type().isText();
    if (TEXTS.contains(type)) {
      return inside;
    } else if (NUMBERS.contains(type)) {
      boolean number = inside instanceof Expression.Literal literal && literal.type().isNumber();
      if (text || number || inside instanceof Column) {
        return text ? literal(inside, ColumnType.DECIMAL) : inside;
      }
    } else if (text && type.equals("date")) {
      return literal(inside, ColumnType.DATE);
    } else if (text && type.startsWith("timestamp without")) {
      return literal(inside, ColumnType.TIMESTAMP);
    }
    throw new Beyond(cast);
  }

  private static Expression literal(Expression text, ColumnType type) {
    String value = (String) ((Expression.Literal) text).value();
    return new Expression.Literal(Values.of(value, type), type);
  }
}
