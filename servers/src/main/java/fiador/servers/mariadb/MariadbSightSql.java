package fiador.servers.mariadb;

import fiador.estate.ColumnType;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Extract;
import fiador.servers.policies.MaskSql;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;

/** Predicates and masks on MariaDB. Texts are compared by their code points, blanks included. */
final class MariadbSightSql extends MaskSql {
  private static final String EXACT = " COLLATE utf8mb4_nopad_bin";

  MariadbSightSql(String qualifier) {
    super(qualifier);
  }

  @Override
  protected String quoted(String name) {
    return '`' + name.replace("`", "``") + '`';
  }

  /** What a backslash means and which character set holds is a matter of the session. */
  @Override
  public String literal(String text) {
    boolean plain = text.chars().allMatch(c -> c >= ' ' && c < 127 && c != '\\' && c != '\'');
    return plain && !text.isEmpty()
        ? "_utf8mb4'" + text + "'"
        : "_utf8mb4 X'"
            + HexFormat.of().withUpperCase().formatHex(text.getBytes(StandardCharsets.UTF_8))
            + "'";
  }

  @Override
  protected String exact(String text, ColumnType type) {
    return text.endsWith(EXACT) ? text : text + EXACT;
  }

  @Override
  protected String column(Column column) {
    String plain = super.column(column);
    return column.type().isText() ? "CONVERT(" + plain + " USING utf8mb4)" : plain;
  }

  @Override
  protected String text(Expression expression) {
    return plain(expression) + EXACT;
  }

  @Override
  protected String holds(String role) {
    return "EXISTS (SELECT 1 FROM "
        + guarded("own_roles")
        + " r WHERE r.role = "
        + literal(role)
        + EXACT
        + ")";
  }

  @Override
  protected String heldRoles() {
    return "SELECT r.role" + EXACT + " FROM " + guarded("own_roles") + " r";
  }

  @Override
  protected String cast(String text, ColumnType type) {
    return switch (type) {
      case INTEGER, DECIMAL -> "CAST(" + text + " AS DECIMAL(65,15))";
      case DATE -> "CAST(" + text + " AS DATE)";
      case TIMESTAMP -> "CAST(" + text + " AS DATETIME(6))";
      // a text that is no number counts as 0, so "true" would be false
      case BOOLEAN ->
          "CASE WHEN "
              + exact(text, ColumnType.TEXT)
              + " = "
              + literal("true")
              + " THEN TRUE WHEN "
              + exact(text, ColumnType.TEXT)
              + " = "
              + literal("false")
              + " THEN FALSE END";
      default -> text;
    };
  }

  @Override
  protected String guarded(String name) {
    return quoted(GUARD) + "." + quoted(name);
  }

  @Override
  protected String userName() {
    return login();
  }

  /** The name somebody logged in with; inside a definer's view only USER() still tells. */
  static String login() {
    return "CONVERT(SUBSTRING(USER(), 1, CHAR_LENGTH(USER()) - 1"
        + " - CHAR_LENGTH(SUBSTRING_INDEX(USER(), '@', -1))) USING utf8mb4)"
        + EXACT;
  }

  @Override
  protected String number(String sql, ColumnType type) {
    return type == ColumnType.INTEGER ? "CAST(" + sql + " AS DECIMAL(38,0))" : sql;
  }

  @Override
  protected String joined(String left, String right) {
    return "CONCAT(" + left + ", " + right + ")";
  }

  @Override
  protected String extract(Extract extract, String date) {
    return super.extract(extract, date);
  }

  @Override
  protected String booleanType() {
    return "SIGNED";
  }

  @Override
  protected String shown(String column, ColumnType type) {
    return type.isText() ? "CONVERT(" + column + " USING utf8mb4)" : column;
  }

  @Override
  protected String positionOfAt(String text) {
    return "LOCATE('@', " + text + ")";
  }

  @Override
  protected String whole(String number, ColumnType type) {
    return type == ColumnType.INTEGER ? number : "TRUNCATE(" + number + ", 0)";
  }

  @Override
  protected String firstDay(String date, ColumnType type, boolean ofYear) {
    String month = ofYear ? "'-01-01'" : "'-', LPAD(MONTH(" + date + "), 2, '0'), '-01'";
    String text = "CONCAT(LPAD(YEAR(" + date + "), 4, '0'), " + month + ")";
    return "CAST(" + text + " AS " + (type == ColumnType.DATE ? "DATE" : "DATETIME(6)") + ")";
  }

  @Override
  protected String digest(String text) {
    String key = "(SELECT k.value FROM " + guarded("digest_key") + " k)";
    return "SHA2(CONCAT("
        + key
        + ", UNHEX(SHA2(CONCAT("
        + key
        + ", CAST("
        + text
        + " AS BINARY)), 256))), 256)";
  }
}
