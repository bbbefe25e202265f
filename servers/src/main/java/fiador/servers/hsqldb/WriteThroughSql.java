package fiador.servers.hsqldb;

import fiador.changes.steps.SafeView;
import fiador.grants.Sights.Fills;
import fiador.policies.SafeColumn;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;
import java.util.function.UnaryOperator;

/**
 * Carries on to the table what is written to the view that has its name. A masked value that comes
 * back as it was shown leaves what stands there. Without a key that everybody sees only what is
 * inserted is carried on by a trigger; the server itself then changes unmasked columns and deletes.
 *
 * <p>A trigger is told of nothing in a column whether it was left out or null was given: either way
 * the column's default stands there.
 */
final class WriteThroughSql {
  private static final Fills NOTHING = new Fills(Map.of(), List.of(), List.of());

  private final SafeView view;
  private final String name;
  private final String table;
  private final UnaryOperator<String> quoted;
  private final Fills fills;
  private final HsqldbSightSql sql = new HsqldbSightSql("");

  /**
   * @param name the view's name in SQL
   * @param table its table's
   */
  WriteThroughSql(SafeView view, String name, String table, UnaryOperator<String> quoted) {
    this.view = view;
    this.name = name;
    this.table = table;
    this.quoted = quoted;
    this.fills = view.fills() == null ? NOTHING : view.fills();
  }

  /** Takes all of it away; may be run again. */
  List<String> drop() {
    return List.of(
        "DROP TRIGGER " + trigger("I") + " IF EXISTS",
        "DROP TRIGGER " + trigger("U") + " IF EXISTS",
        "DROP TRIGGER " + trigger("D") + " IF EXISTS");
  }

  /** Makes it, where there is nothing of it. */
  List<String> make() {
    List<String> statements = new ArrayList<>();
    statements.add(
        "CREATE TRIGGER "
            + trigger("I")
            + " INSTEAD OF INSERT ON "
            + name
            + " REFERENCING NEW ROW AS N FOR EACH ROW "
            + insert());
    if (hasOpenKey()) {
      statements.add(
          "CREATE TRIGGER "
              + trigger("U")
              + " INSTEAD OF UPDATE ON "
              + name
              + " REFERENCING NEW ROW AS N OLD ROW AS O FOR EACH ROW UPDATE "
              + table
              + " B SET "
              + changes()
              + where());
      statements.add(
          "CREATE TRIGGER "
              + trigger("D")
              + " INSTEAD OF DELETE ON "
              + name
              + " REFERENCING OLD ROW AS O FOR EACH ROW DELETE FROM "
              + table
              + " B"
              + where());
    }
    return statements;
  }

  private String trigger(String which) {
    List<String> parts = view.view().parts();
    String own = "FIADOR_" + which + "_" + parts.get(parts.size() - 1);
    return quoted.apply(parts.get(parts.size() - 2)) + "." + quoted.apply(own);
  }

  private boolean hasOpenKey() {
    return !fills.key().isEmpty()
        && fills.key().stream().allMatch(column -> view.sight().masksOf(column).isEmpty());
  }

  private List<SafeColumn> given() {
    return view.columns().stream()
        .filter(column -> !fills.never().contains(column.name()))
        .toList();
  }

  private String insert() {
    StringJoiner names = new StringJoiner(", ", " (", ")");
    StringJoiner values = new StringJoiner(", ", " VALUES (", ")");
    for (SafeColumn column : given()) {
      String value = "N." + quoted.apply(column.name());
      String otherwise = fills.plainDefault(column.name());
      names.add(quoted.apply(column.name()));
      values.add(otherwise == null ? value : "COALESCE(" + value + ", " + otherwise + ")");
    }
    return "INSERT INTO " + table + names + values;
  }

  private String changes() {
    StringJoiner set = new StringJoiner(", ");
    for (SafeColumn column : given()) {
      String plain = quoted.apply(column.name());
      String is = "N." + plain;
      if (!view.sight().masksOf(column.name()).isEmpty()) {
        String was = "O." + plain;
        boolean text = column.type().isText();
        String same =
            (text ? sql.exact(is, column.type()) : is)
                + " = "
                + (text ? sql.exact(was, column.type()) : was)
                + " OR "
                + is
                + " IS NULL AND "
                + was
                + " IS NULL";
        is = "CASE WHEN " + same + " THEN B." + plain + " ELSE " + is + " END";
      }
      set.add(plain + " = " + is);
    }
    return set.toString();
  }

  private String where() {
    StringJoiner conditions = new StringJoiner(" AND ", " WHERE ", "");
    for (String column : fills.key()) {
      conditions.add("B." + quoted.apply(column) + " = O." + quoted.apply(column));
    }
    return conditions.toString();
  }
}
