package fiador.servers.hsqldb;

import fiador.estate.ColumnType;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Comparison;
import fiador.servers.policies.MaskSql;
import java.util.Locale;

/**
 * Predicates and masks on HSQLDB. It compares texts padded with blanks, so a full stop is put
 * behind both; and it counts in UTF-16 units, so counting and cutting is left to regular
 * expressions.
 */
final class HsqldbSightSql extends MaskSql {
  HsqldbSightSql(String qualifier) {
    super(qualifier);
  }

  @Override
  protected String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  @Override
  public String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  @Override
  protected String exact(String text, ColumnType type) {
    return "CONCAT(CAST(" + text + " AS LONGVARCHAR), '.')";
  }

  @Override
  protected String column(Column column) {
    return shown(super.column(column), column.type());
  }

  @Override
  protected String shown(String column, ColumnType type) {
    return type == ColumnType.PADDED ? "RTRIM(" + column + ")" : column;
  }

  @Override
  protected String ordered(Comparison how, String left, String right) {
    throw new IllegalArgumentException(
        "HSQLDB has no exact order of texts: use =, <>, in or like there");
  }

  @Override
  protected String like(String text, String pattern) {
    StringBuilder expression = new StringBuilder("(?s)");
    pattern
        .codePoints()
        .forEach(
            c -> {
              if (c == '%') {
                expression.append(".*");
              } else if (c == '_') {
                expression.append('.');
              } else {
                boolean special = "\\^$.|?*+()[]{}".indexOf(c) >= 0;
                expression.append(special ? "\\" : "").appendCodePoint(c);
              }
            });
    return "REGEXP_MATCHES(" + text + ", " + literal(expression.toString()) + ")";
  }

  @Override
  protected String length(String text) {
    return "CHAR_LENGTH(REGEXP_REPLACE(" + text + ", '[\\x{10000}-\\x{10FFFF}]', '.'))";
  }

  @Override
  protected String substring(String text, int from, int length) {
    return "REGEXP_REPLACE("
        + text
        + ", '(?s)^.{0,"
        + (from - 1)
        + "}(.{0,"
        + length
        + "}).*$', '$1')";
  }

  /** Of what is unknown, IS TRUE is unknown here; and no query is distinct from anything. */
  @Override
  protected String isTrue(String predicate) {
    return "CASE WHEN " + predicate + " THEN TRUE ELSE FALSE END";
  }

  /** With the operator the parser of 2.7.4 loses its way where parentheses stand before it. */
  @Override
  protected String joined(String left, String right) {
    return "CONCAT(" + left + ", " + right + ")";
  }

  @Override
  protected String holds(String role) {
    return exact(literal(role), ColumnType.TEXT)
        + " IN (SELECT CONCAT(r.ROLE_NAME, '.') FROM INFORMATION_SCHEMA.ENABLED_ROLES r)";
  }

  @Override
  protected String heldRoles() {
    return "SELECT CONCAT(r.ROLE_NAME, '.') FROM INFORMATION_SCHEMA.ENABLED_ROLES r"
        + " WHERE r.ROLE_NAME <> 'PUBLIC'";
  }

  @Override
  protected String cast(String text, ColumnType type) {
    return switch (type) {
      case INTEGER, DECIMAL -> "CAST(" + text + " AS DECIMAL(50,15))";
      case DATE -> "CAST(" + text + " AS DATE)";
      case TIMESTAMP -> "CAST(" + text + " AS TIMESTAMP(6))";
      case BOOLEAN -> "CAST(" + text + " AS BOOLEAN)";
      default -> text;
    };
  }

  @Override
  protected String guarded(String name) {
    return quoted(GUARD.toUpperCase(Locale.ROOT)) + "." + quoted(name.toUpperCase(Locale.ROOT));
  }

  @Override
  protected String dated(String text, ColumnType type) {
    return cast(literal(text), type);
  }

  @Override
  protected String userName() {
    return "SESSION_USER";
  }

  @Override
  protected String number(String sql, ColumnType type) {
    return type == ColumnType.INTEGER ? "CAST(" + sql + " AS DECIMAL(38,0))" : sql;
  }

  @Override
  protected String starred(String text) {
    return "REGEXP_REPLACE(" + text + ", '(?s).', '*')";
  }

  @Override
  protected String first(String text, int count) {
    return substring(text, 1, count);
  }

  @Override
  protected String last(String text, int count) {
    return "REGEXP_REPLACE(" + text + ", '(?s)^.*?(.{0," + count + "})$', '$1')";
  }

  @Override
  protected String rest(String text, int kept, boolean first) {
    String without =
        first
            ? "REGEXP_REPLACE(" + text + ", '(?s)^.{" + kept + "}', '')"
            : "REGEXP_REPLACE(" + text + ", '(?s)^(.*).{" + kept + "}$', '$1')";
    return starred(without);
  }

  @Override
  protected String digest(String text) {
    throw new IllegalArgumentException(
        "HSQLDB has no function for digests: use another mask there");
  }
}
