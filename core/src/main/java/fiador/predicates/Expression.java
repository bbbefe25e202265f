package fiador.predicates;

import fiador.estate.ColumnType;
import java.math.BigDecimal;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * A predicate, or a part of one. Values are {@code String}, {@code BigDecimal}, {@code LocalDate},
 * {@code LocalDateTime} or {@code Boolean}; null stands for SQL's null and, of truth values, for
 * unknown.
 */
public sealed interface Expression {
  /** True. */
  Expression TRUE = new Literal(true, ColumnType.BOOLEAN);

  /** False. */
  Expression FALSE = new Literal(false, ColumnType.BOOLEAN);

  /** Neither true nor false. */
  Expression UNKNOWN = new Literal(null, ColumnType.BOOLEAN);

  /** The truth value, null for unknown. */
  static Expression truth(Boolean value) {
    return value == null ? UNKNOWN : value ? TRUE : FALSE;
  }

  /** A text. */
  static Expression text(String value) {
    return new Literal(value, ColumnType.TEXT);
  }

  /** A number. */
  static Expression number(BigDecimal value) {
    return new Literal(value, ColumnType.DECIMAL);
  }

  /** A value. */
  record Literal(Object value, ColumnType type) implements Expression {}

  /**
   * A column of the table.
   *
   * @param ordinal which, counted from 0; -1 while the table is not known
   * @param type what it holds; OTHER while the table is not known
   */
  record Column(String name, int ordinal, ColumnType type) implements Expression {}

  /** The name of the user who asks. */
  record UserName() implements Expression {}

  /** What a predicate asks about the session. */
  static Set<SessionFact> sessionFacts(Expression predicate) {
    Set<SessionFact> found = EnumSet.noneOf(SessionFact.class);
    Rewriting.of(
        predicate,
        part -> {
          if (part instanceof Session session) {
            found.add(session.fact());
          }
          return part;
        });
    return found;
  }

  /** Something about the session in which the user asks: known to the server alone. */
  record Session(SessionFact fact) implements Expression {}

  /**
   * An attribute of the user who asks: behind "in" all its values, else the only one, or null.
   *
   * @param as what its values are compared with
   */
  record Attribute(String name, ColumnType as) implements Expression {}

  /** Whether the user who asks holds a role, directly or through others, switched on or not. */
  record Holds(String role) implements Expression {}

  /** What a lookup table says of the user who asks; only behind "in". */
  record Lookup(String name, ColumnType as) implements Expression {}

  /** The ways to compare. */
  enum Comparison {
    EQUAL("="),
    UNEQUAL("<>"),
    LESS("<"),
    AT_MOST("<="),
    GREATER(">"),
    AT_LEAST(">=");

    private final String sign;

    Comparison(String sign) {
      this.sign = sign;
    }

    /** As it is written. */
    public String sign() {
      return sign;
    }

    /** Whether two values in that order pass. */
    boolean passes(int order) {
      return switch (this) {
        case EQUAL -> order == 0;
        case UNEQUAL -> order != 0;
        case LESS -> order < 0;
        case AT_MOST -> order <= 0;
        case GREATER -> order > 0;
        case AT_LEAST -> order >= 0;
      };
    }
  }

  /** A comparison. */
  record Compare(Comparison how, Expression left, Expression right) implements Expression {}

  /** Whether a value is one of several. */
  record In(Expression item, List<Expression> options) implements Expression {}

  /** Whether a text is like a pattern: {@code %} any characters, {@code _} one, none escaped. */
  record Like(Expression text, String pattern) implements Expression {}

  /** Whether a value is null. */
  record IsNull(Expression value) implements Expression {}

  /** Whether a truth value is true, and not unknown. */
  record IsTrue(Expression value) implements Expression {}

  /** All of them. */
  record And(List<Expression> parts) implements Expression {}

  /** One of them at least. */
  record Or(List<Expression> parts) implements Expression {}

  /** The contrary. */
  record Not(Expression of) implements Expression {}

  /** The operations on numbers and texts. */
  enum Operation {
    PLUS("+"),
    MINUS("-"),
    TIMES("*"),
    JOINED("||");

    private final String sign;

    Operation(String sign) {
      this.sign = sign;
    }

    /** As it is written. */
    public String sign() {
      return sign;
    }
  }

  /** An operation. */
  record Operate(Operation how, Expression left, Expression right) implements Expression {}

  /** The length of a text in characters. */
  record Length(Expression text) implements Expression {}

  /**
   * A part of a text.
   *
   * @param from the first character, counted from 1
   * @param length how many characters
   */
  record Substring(Expression text, int from, int length) implements Expression {}

  /** The first value that is not null. */
  record Coalesce(List<Expression> values) implements Expression {}

  /** The fields of a date. */
  enum Field {
    YEAR,
    MONTH,
    DAY
  }

  /** A field of a date, as a number. */
  record Extract(Field field, Expression date) implements Expression {}
}
