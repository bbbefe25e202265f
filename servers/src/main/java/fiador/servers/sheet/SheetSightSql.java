package fiador.servers.sheet;

import fiador.estate.ColumnType;
import fiador.houses.Pattern;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Comparison;
import fiador.servers.policies.MaskSql;
import java.util.Map;

/**
 * Predicates and masks in the SQL of the standard, with what a house sheet says of how a server
 * knows who asks. Texts must be compared as they are there, and counted by characters.
 */
final class SheetSightSql extends MaskSql {
  private final SheetDialect dialect;

  SheetSightSql(SheetDialect dialect) {
    super("");
    this.dialect = dialect;
  }

  private String asker(Pattern what) {
    return dialect.write(what, Map.of());
  }

  @Override
  protected String quoted(String name) {
    return dialect.quoted(name);
  }

  @Override
  public String literal(String text) {
    return dialect.literal(text);
  }

  @Override
  protected String exact(String text, ColumnType type) {
    return text;
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
        "no exact order of texts is known of this kind of server: use =, <>, in or like there");
  }

  @Override
  protected String holds(String role) {
    return literal(role) + " IN (" + heldRoles() + ")";
  }

  @Override
  protected String heldRoles() {
    return asker(Pattern.ASKER_ROLES);
  }

  @Override
  protected String guarded(String name) {
    return asker(Pattern.ASKER_ATTRIBUTES);
  }

  @Override
  protected String userName() {
    return "(" + asker(Pattern.ASKER_NAME) + ")";
  }

  @Override
  protected String cast(String text, ColumnType type) {
    return switch (type) {
      case INTEGER, DECIMAL -> "CAST(" + text + " AS DECIMAL(50, 15))";
      case DATE -> "CAST(" + text + " AS DATE)";
      case TIMESTAMP -> "CAST(" + text + " AS TIMESTAMP)";
      case BOOLEAN -> "CAST(" + text + " AS BOOLEAN)";
      default -> text;
    };
  }

  /** Some parsers lose their way where several brackets open before a query. */
  @Override
  protected String one(String query) {
    return "COALESCE(" + query + ", NULL)";
  }

  @Override
  protected String number(String sql, ColumnType type) {
    return type == ColumnType.INTEGER ? "CAST(" + sql + " AS DECIMAL(38, 0))" : sql;
  }

  @Override
  protected String substring(String text, int from, int length) {
    return "SUBSTRING(" + text + ", " + from + ", " + length + ")";
  }

  @Override
  protected String from(String text, String place) {
    return "SUBSTRING(" + text + ", " + place + ", " + length(text) + ")";
  }

  @Override
  protected String first(String text, int count) {
    return substring(text, 1, count);
  }

  @Override
  protected String last(String text, int count) {
    return "SUBSTRING(" + text + ", " + length(text) + " - " + count + " + 1, " + count + ")";
  }

  @Override
  protected String digest(String text) {
    throw new IllegalArgumentException(
        "no function for digests is known of this kind of server: use another mask there");
  }
}
