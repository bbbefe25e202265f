package fiador.servers.postgresql;

import fiador.estate.ColumnType;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.Extract;
import fiador.predicates.SessionFact;
import fiador.servers.policies.MaskSql;

/**
 * Predicates and masks on PostgreSQL. Whatever asks about the user stands in a query of its own,
 * which the planner runs once for a statement and not once for a row.
 */
final class PostgresqlSightSql extends MaskSql {
  private static final String COLLATED = " COLLATE \"default\"";

  PostgresqlSightSql(String qualifier) {
    super(qualifier);
  }

  @Override
  protected String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  @Override
  public String literal(String text) {
    String doubled = text.replace("'", "''");
    return text.indexOf('\\') < 0
        ? "'" + doubled + "'"
        : "E'" + doubled.replace("\\", "\\\\") + "'";
  }

  /**
   * Equality of texts is exact under every deterministic collation, as a database's own always is.
   * Named, because where texts of two others meet the server knows none and refuses the whole
   * table.
   */
  @Override
  protected String exact(String text, ColumnType type) {
    return text.endsWith(COLLATED) ? text : text + COLLATED;
  }

  @Override
  protected String like(String text, String pattern) {
    return super.like(exact(text, ColumnType.TEXT), pattern);
  }

  @Override
  protected String column(Column column) {
    String plain = super.column(column);
    return column.type().isText() ? plain + "::text" : plain;
  }

  @Override
  protected String text(Expression expression) {
    return expression instanceof Expression.Literal
        ? plain(expression) + "::text"
        : plain(expression);
  }

  @Override
  protected String ordered(Comparison how, String left, String right) {
    return left + " COLLATE \"C\" " + how.sign() + " " + right + " COLLATE \"C\"";
  }

  @Override
  protected String isIn(String value, String query) {
    return value + " = ANY (ARRAY(" + query + "))";
  }

  @Override
  protected String holds(String role) {
    return "(SELECT pg_has_role(SESSION_USER, " + literal(role) + ", 'MEMBER'))";
  }

  @Override
  protected String heldRoles() {
    return "SELECT r.rolname::text"
        + COLLATED
        + " FROM pg_roles r"
        + " WHERE pg_has_role(SESSION_USER, r.oid, 'MEMBER')";
  }

  @Override
  protected String cast(String text, ColumnType type) {
    return switch (type) {
      case INTEGER, DECIMAL -> text + "::numeric";
      case DATE -> text + "::date";
      case TIMESTAMP -> text + "::timestamp";
      case BOOLEAN -> text + "::boolean";
      default -> text;
    };
  }

  @Override
  protected String guarded(String name) {
    return GUARD + "." + quoted(name);
  }

  @Override
  protected String userName() {
    return "SESSION_USER::text";
  }

  @Override
  protected String session(SessionFact fact) {
    return switch (fact) {
      case APPLICATION -> "(SELECT current_setting('application_name'))";
      case ADDRESS -> "(SELECT COALESCE(host(inet_client_addr()), ''))";
    };
  }

  @Override
  protected String number(String sql, ColumnType type) {
    return sql + "::numeric";
  }

  @Override
  protected String extract(Extract extract, String date) {
    return "CASE WHEN isfinite(" + date + ") THEN " + super.extract(extract, date) + " END";
  }

  /** Always of the same type, so that a view can be replaced when its masks change. */
  @Override
  protected String shown(String column, ColumnType type) {
    return switch (type) {
      case TEXT, PADDED -> column + "::text";
      case DECIMAL -> column + "::numeric";
      case INTEGER -> column + "::bigint";
      case TIMESTAMP -> column + "::timestamp";
      default -> column;
    };
  }

  @Override
  protected String whole(String number, ColumnType type) {
    return type == ColumnType.INTEGER ? number : "trunc(" + number + "::numeric)";
  }

  @Override
  protected String remainder(String whole, int by) {
    return whole + " % " + by;
  }

  @Override
  protected String firstDay(String date, ColumnType type, boolean ofYear) {
    String year = "extract(year FROM " + date + ")::integer, ";
    String month = ofYear ? "1, " : "extract(month FROM " + date + ")::integer, ";
    String made =
        type == ColumnType.DATE
            ? "make_date(" + year + month + "1)"
            : "make_timestamp(" + year + month + "1, 0, 0, 0)";
    return "CASE WHEN isfinite(" + date + ") THEN " + made + " ELSE " + date + " END";
  }

  @Override
  protected String digest(String text) {
    String key = "(SELECT k.value FROM " + guarded("digest_key") + " k)";
    return "encode(sha256("
        + key
        + " || sha256("
        + key
        + " || convert_to("
        + text
        + ", 'UTF8'))), 'hex')";
  }
}
