package fiador.servers.policies;

import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Guard;
import fiador.changes.steps.LookupTable;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.On;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.SightCases;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.policies.ColumnMask;
import fiador.policies.Fields;
import fiador.policies.SafeColumn;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.predicates.SessionFact;
import fiador.servers.kind.GuardReader;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.StringJoiner;
import java.util.stream.Collectors;

/**
 * The statements that put row and mask policies on one kind of server. Attributes of users, and
 * what was made from which policies, are kept in a guarded schema; users reach of it only what is
 * about themselves, through views that read with their owner's rights.
 */
public abstract class SightStatements implements SightCases<List<String>> {
  /** A writer of predicates and masks; the parameter as for {@link PredicateSql}. */
  protected abstract MaskSql writer(String qualifier);

  /** A name in SQL. */
  protected abstract String quoted(String name);

  /** Makes the guarded schema; may be run again. */
  protected abstract List<String> makeGuard();

  /** Drops the guarded schema with all in it. */
  protected abstract String dropGuard();

  /** The query for a view's text as the server keeps it, by its schema and name as literals. */
  protected abstract String storedView(String schema, String name);

  /** What stands before AS when a view is made; {@code replace} when there is one already. */
  public abstract String makeView(String name, boolean replace, boolean guarded);

  /** Lets everybody read one of the views of the guarded schema, where policies need that. */
  protected List<String> openGuarded(String name) {
    return List.of();
  }

  /** Takes from a new view what the server gave others on it by itself. */
  protected List<String> closeNew(String name) {
    return List.of();
  }

  /** Filters rows by itself, where the server can. */
  @Override
  public List<String> filterRows(FilterRows step) {
    throw new IllegalArgumentException("this server does not filter the rows of tables by itself");
  }

  @Override
  public List<String> guard(Guard step) {
    return step.make() ? makeGuard() : List.of(dropGuard());
  }

  @Override
  public List<String> setAttribute(SetAttribute step) {
    return attribute(step);
  }

  @Override
  public List<String> defineLookup(DefineLookup step) {
    return lookup(step);
  }

  @Override
  public List<String> showSafely(ShowSafely step) {
    return show(step);
  }

  /**
   * Gives a table another name, and its grants along with it.
   *
   * @param from the name it has, in SQL
   * @param to the new one's last part, in SQL
   */
  protected abstract List<String> rename(MoveTable move, String from, String to);

  /** Keeps a view from reading its table while that is renamed, where the server insists. */
  protected List<String> detach(SafeView view) {
    return List.of();
  }

  /** Makes or changes a view, as the server's kind needs it. */
  protected List<String> make(SafeView view, boolean replace) {
    return List.of(makeView(path(view.view()), replace, false) + " AS " + body(view));
  }

  /** What is kept of the table's policies knows it by its new name before anybody else does. */
  @Override
  public List<String> moveTable(MoveTable step) {
    MaskSql sql = writer("");
    List<String> from = step.from().parts();
    String schema = sql.literal(from.get(from.size() - 2));
    String was = sql.literal(from.get(from.size() - 1));
    String is = sql.literal(step.to().parts().get(from.size() - 1));
    String kept = "UPDATE " + sql.guarded("kept") + " SET ";
    String table = " WHERE table_schema = " + schema + " AND table_name = " + was;
    List<String> statements = new ArrayList<>();
    statements.add(
        kept
            + "object_name = "
            + is
            + table
            + " AND schema_name = "
            + schema
            + " AND object_name = "
            + was);
    statements.add(kept + "table_name = " + is + table);
    String name = step.to().parts().get(from.size() - 1);
    SafeView beside = step.besideAfter();
    if (beside != null) {
      statements.addAll(detach(beside));
    }
    statements.addAll(rename(step, path(step.from()), quoted(name)));
    if (beside != null) {
      statements.addAll(show(new ShowSafely(step.beside(), beside)));
    }
    return statements;
  }

  private List<String> attribute(SetAttribute set) {
    MaskSql sql = writer("");
    String attributes = sql.guarded("attributes");
    List<String> statements = new ArrayList<>();
    // whoever stops half-way may run the whole again
    Set<String> changed = new LinkedHashSet<>(set.before());
    changed.removeAll(set.after());
    Set<String> added = new LinkedHashSet<>(set.after());
    added.removeAll(set.before());
    changed.addAll(added);
    for (String value : changed) {
      statements.add(
          "DELETE FROM "
              + attributes
              + " WHERE user_name = "
              + sql.literal(set.user())
              + " AND attribute = "
              + sql.literal(set.attribute())
              + " AND "
              + sql.exact("value", ColumnType.TEXT)
              + " = "
              + sql.exact(sql.literal(value), ColumnType.TEXT));
    }
    for (String value : added) {
      statements.add(
          "INSERT INTO "
              + attributes
              + " (user_name, attribute, value) VALUES ("
              + sql.literal(set.user())
              + ", "
              + sql.literal(set.attribute())
              + ", "
              + sql.literal(value)
              + ")");
    }
    return statements;
  }

  private List<String> lookup(DefineLookup define) {
    MaskSql sql = writer("l.");
    LookupTable after = define.after();
    String name = sql.guarded(lookupView(after == null ? define.before() : after));
    List<String> statements = new ArrayList<>();
    On view = guardedView((after == null ? define.before() : after).name());
    statements.add(forget(view));
    if (after == null) {
      statements.add("DROP VIEW IF EXISTS " + name);
      return statements;
    }
    statements.add(
        makeView(name, define.before() != null, true)
            + " AS SELECT "
            + column(sql, after.value())
            + " AS "
            + alias("value")
            + " FROM "
            + path(after.table())
            + " l"
            + onlyTables()
            + " WHERE "
            + keyed(sql, after));
    if (define.before() == null) {
      statements.addAll(closeNew(name));
    }
    statements.addAll(openGuarded(name));
    String of = Fields.join(after.name(), after.key().name(), after.value().name());
    String keys = after.keys().namesUsers() ? "" : "\t" + Fields.join(after.keys().text());
    String kept = GuardReader.LOOKUP + of + keys;
    String stored =
        storedView(sql.literal(alias(PredicateSql.GUARD)), sql.literal(alias(lookupView(after))));
    statements.add(keep(view, after.table(), kept, stored));
    return statements;
  }

  /** Which rows of a lookup table are about who asks. */
  private static String keyed(MaskSql sql, LookupTable lookup) {
    String key = sql.exact(column(sql, lookup.key()), ColumnType.TEXT);
    if (lookup.keys().namesUsers()) {
      return key + " = " + sql.exact(sql.plain(new Expression.UserName()), ColumnType.TEXT);
    } else if (lookup.keys().namesRoles()) {
      return sql.isIn(key, sql.heldRoles());
    }
    return sql.predicate(
        new Expression.In(
            new Expression.Column(lookup.key().name(), 0, lookup.key().type()),
            List.of(new Expression.Attribute(lookup.keys().attribute(), ColumnType.TEXT))));
  }

  private static String column(MaskSql sql, SafeColumn column) {
    return sql.column(new Expression.Column(column.name(), 0, column.type()));
  }

  private static String lookupView(LookupTable lookup) {
    return GuardReader.LOOKUP + lookup.name();
  }

  private static On guardedView(String lookup) {
    return new On(NodeKind.VIEW, null, List.of(PredicateSql.GUARD, GuardReader.LOOKUP + lookup));
  }

  /** A column's name as the predicates of this kind of server write it. */
  protected String alias(String name) {
    return name;
  }

  private List<String> show(ShowSafely show) {
    SafeView after = show.after();
    List<String> statements = new ArrayList<>();
    statements.add(forget((after == null ? show.before() : after).view()));
    if (after == null) {
      statements.add("DROP VIEW " + path(show.before().view()));
      return statements;
    }
    boolean replace = show.before() != null;
    statements.addAll(make(after, replace));
    On view = after.view();
    if (show.before() == null) {
      statements.addAll(closeNew(path(after.view())));
    }
    MaskSql sql = writer("");
    String stored =
        storedView(
            sql.literal(view.parts().get(view.parts().size() - 2)),
            sql.literal(view.parts().get(view.parts().size() - 1)));
    statements.add(keep(view, after.table(), after.policies(), stored));
    return statements;
  }

  /** What a safe view selects. */
  public final String body(SafeView view) {
    MaskSql sql = writer("t.");
    TableSight sight = view.sight();
    StringJoiner columns = new StringJoiner(", ");
    for (SafeColumn column : view.columns()) {
      columns.add(column(sql, column, view) + " AS " + quoted(column.name()));
    }
    Expression condition = sight.condition();
    return "SELECT "
        + columns
        + " FROM "
        + path(view.table())
        + " t"
        + onlyTables()
        + (condition.equals(Expression.TRUE) ? "" : " WHERE " + sql.predicate(condition))
        + barrier();
  }

  /** The query for all facts of the session in which it is asked, in their order. */
  public final String sessionQuery() {
    MaskSql sql = writer("");
    return Arrays.stream(SessionFact.values())
        .map(fact -> sql.plain(new Expression.Session(fact)))
        .collect(Collectors.joining(", ", "SELECT ", ""));
  }

  /**
   * What makes the server refuse to read something else that was put where a table stood. It comes
   * behind the table's name; needed where views know tables by name, and run what they find there
   * with their maker's rights.
   */
  protected String onlyTables() {
    return "";
  }

  /** What keeps a query's own conditions from being tried on rows that the view hides. */
  protected String barrier() {
    return "";
  }

  /** Under a table's name, what nobody has masked is just what it was. */
  private String column(MaskSql sql, SafeColumn column, SafeView view) {
    String plain = "t." + quoted(column.name());
    List<ColumnMask> masks = view.sight().masksOf(column.name());
    if (masks.isEmpty()) {
      return view.underName() ? plain : sql.shown(plain, column.type());
    }
    return sql.seen(masks, plain, column.type());
  }

  /** Forgets what was made from policies. */
  protected final String forget(On object) {
    MaskSql sql = writer("");
    List<String> parts = object.parts();
    return "DELETE FROM "
        + sql.guarded("kept")
        + " WHERE schema_name = "
        + sql.literal(parts.get(parts.size() - 2))
        + " AND object_name = "
        + sql.literal(parts.get(parts.size() - 1));
  }

  /**
   * Keeps what was made from which policies.
   *
   * @param stored the query for the server's own text of it
   */
  protected final String keep(On object, On table, String policies, String stored) {
    MaskSql sql = writer("");
    StringJoiner values = new StringJoiner(", ");
    for (On on : List.of(object, table)) {
      values.add(sql.literal(on.parts().get(on.parts().size() - 2)));
      values.add(sql.literal(on.parts().get(on.parts().size() - 1)));
    }
    return "INSERT INTO "
        + sql.guarded("kept")
        + " (schema_name, object_name, table_schema, table_name, policies, stored) VALUES ("
        + values
        + ", "
        + sql.literal(policies)
        + ", ("
        + stored
        + "))";
  }

  /** A table's or view's name. */
  protected final String path(On on) {
    StringJoiner name = new StringJoiner(".");
    on.parts().forEach(part -> name.add(quoted(part)));
    return name.toString();
  }
}
