package fiador.standin.queries;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.Thing;
import fiador.standin.estate.Warehouse;
import fiador.standin.queries.Asking.Reader;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.StringJoiner;
import net.sf.jsqlparser.expression.Expression;

/** What veils say, as the engine gets it: with who asks put in. */
final class Veils {
  private final Asking asking;
  private final Warehouse warehouse;
  private final Parsed known;

  Veils(Asking asking, Warehouse warehouse, Parsed known) {
    this.asking = asking;
    this.warehouse = warehouse;
    this.known = known;
  }

  /** A column as it is shown, with its name. */
  String value(Thing table, String column) throws MistakeException {
    String veil = table.veil().columns().get(column);
    String plain = PlainText.quoted(column);
    return veil == null ? plain : "(" + written(veil) + ") AS " + plain;
  }

  /** The condition of the rows that are there; empty for all. */
  String where(Thing table) throws MistakeException {
    String rows = table.veil().rows();
    return rows == null ? "" : " WHERE (" + written(rows) + ")";
  }

  String written(String expression) throws MistakeException {
    Expression parsed = known.of(expression);
    QueryWriter queries = new QueryWriter(asking, Reader.ofVeil(asking.asker()));
    ExpressionWriter writer = (ExpressionWriter) queries.getExpressionVisitor();
    try {
      parsed.accept(writer, null);
    } catch (Stopped stopped) {
      throw stopped.asMistake();
    }
    return queries.getBuilder().toString();
  }

  /**
   * What is known of who asks: {@code asker.self}, {@code asker.attributes}, {@code asker.roles}.
   */
  String asked(List<String> path) throws MistakeException {
    String what = path.size() == 2 ? path.get(1).toLowerCase(Locale.ROOT) : "";
    boolean asker = path.size() == 2 && path.get(0).equalsIgnoreCase("asker");
    Principal user = asking.asker().user();
    List<List<String>> rows = new ArrayList<>();
    switch (asker ? what : "") {
      case "self" -> rows.add(List.of(user.name()));
      case "roles" -> roles(user).forEach(role -> rows.add(List.of(role.name())));
      case "attributes" ->
          user.attributes()
              .forEach((name, values) -> values.forEach(each -> rows.add(List.of(name, each))));
      default ->
          throw new MistakeException(
              "a veil looks at its table's columns and at asker.self, asker.roles and"
                  + " asker.attributes");
    }
    return what.equals("attributes") ? rows(rows, "attribute", "value") : rows(rows, "name");
  }

  /** Those they hold themselves, by whatever chain, switched on or not. */
  private Set<Principal> roles(Principal user) {
    Set<Principal> held = new LinkedHashSet<>(warehouse.closure(Set.of(user)));
    held.remove(user);
    return held;
  }

  private static String rows(List<List<String>> rows, String... columns) {
    StringJoiner names = new StringJoiner(", ", "(", ")");
    for (String column : columns) {
      names.add(PlainText.quoted(column));
    }
    StringJoiner values = new StringJoiner(", ");
    for (List<String> row : rows.isEmpty() ? List.of(List.<String>of()) : rows) {
      StringJoiner one = new StringJoiner(", ", "(", ")");
      for (int i = 0; i < columns.length; i++) {
        String text = row.isEmpty() ? "" : row.get(i).replace("'", "''");
        one.add("CAST('" + text + "' AS VARCHAR)");
      }
      values.add(one.toString());
    }
    String none = rows.isEmpty() ? " WHERE 1 = 0" : "";
    return "(SELECT * FROM (VALUES " + values + ") AS \"rows\" " + names + none + ")";
  }
}
