package fiador.standin.deeds;

import fiador.standin.estate.Judge;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Thing;
import fiador.standin.house.House.Fact;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Statements that make things and drop them. */
final class ThingDeeds {
  private static final String CREATE = "create";

  /** Types as they are called here, and as a catalog shows them. */
  private static final Map<String, String> TYPES =
      Map.ofEntries(
          Map.entry("int", "integer"),
          Map.entry("integer", "integer"),
          Map.entry("bigint", "bigint"),
          Map.entry("decimal", "decimal"),
          Map.entry("double", "double"),
          Map.entry("text", "varchar"),
          Map.entry("varchar", "varchar"),
          Map.entry("date", "date"),
          Map.entry("timestamp", "timestamp"),
          Map.entry("boolean", "boolean"));

  private static final Set<String> SIZED = Set.of("decimal", "varchar");

  private ThingDeeds() {}

  static void createDatabase(Doing doing, String name) throws RefusedException, MistakeException {
    if (!doing.house().databases()) {
      throw new MistakeException("there is one database here, and schemas in it");
    }
    notOurs(name);
    make(doing, "database", name, doing.warehouse().server());
  }

  static void createSchema(Doing doing, List<String> path)
      throws RefusedException, MistakeException {
    notOurs(path.get(path.size() - 1));
    make(doing, "schema", path.get(path.size() - 1), doing.container("schema", path));
  }

  private static void notOurs(String name) throws MistakeException {
    if (name.equalsIgnoreCase("catalog")) {
      throw new MistakeException("catalog is the server's own");
    }
  }

  private static Thing make(Doing doing, String kind, String name, Thing in)
      throws RefusedException, MistakeException {
    doing.need(CREATE, in);
    return doing.warehouse().create(kind, name, in, owner(doing));
  }

  private static Principal owner(Doing doing) {
    return doing.session().acting();
  }

  /**
   * A column as it was written.
   *
   * @param type its words, in small letters
   * @param size what stands in brackets behind it; empty for nothing
   */
  record Column(String name, String type, String size) {}

  static void createTable(Doing doing, List<String> path, List<Column> columns)
      throws RefusedException, MistakeException {
    Map<String, String> types = types(columns);
    Thing table = newTable(doing, path, types);
    String kept = doing.kept().getTable();
    try {
      table.kept(kept == null ? doing.rows().create(types) : kept);
    } catch (MistakeException wrong) {
      doing.warehouse().drop(table);
      throw wrong;
    }
    doing.kept().setTable(table.kept());
  }

  static Thing newTable(Doing doing, List<String> path, Map<String, String> types)
      throws RefusedException, MistakeException {
    Thing in = doing.container("table", path);
    Thing table = make(doing, "table", path.get(path.size() - 1), in);
    table.columns().putAll(types);
    return table;
  }

  /** The columns of a new table, and the type of each. */
  static Map<String, String> types(List<Column> columns) throws MistakeException {
    Map<String, String> types = new LinkedHashMap<>();
    for (Column column : columns) {
      String type = TYPES.get(column.type());
      if (type == null || !column.size().isEmpty() && !SIZED.contains(type)) {
        throw new MistakeException(
            "there is no type " + column.type() + column.size() + "; there are " + types());
      }
      boolean twice = types.keySet().stream().anyMatch(column.name()::equalsIgnoreCase);
      if (twice) {
        throw new MistakeException("there are two columns " + column.name());
      }
      types.put(column.name(), type + column.size());
    }
    return types;
  }

  private static String types() {
    return "integer, bigint, decimal, double, varchar, date, timestamp, boolean";
  }

  static void createView(Doing doing, List<String> path, String query, boolean asAsker)
      throws RefusedException, MistakeException {
    Thing in = doing.container("view", path);
    List<Thing> reads = new ArrayList<>();
    if (doing.again()) {
      for (List<String> each : doing.kept().getReads()) {
        reads.add(doing.thing(null, each));
      }
    } else {
      Rows.Shown shown = doing.rows().shown(query, doing.session());
      reads.addAll(shown.reads());
      doing.kept().setColumns(shown.columns());
      doing.kept().setReads(reads.stream().map(Thing::names).toList());
    }
    Thing view = make(doing, "view", path.get(path.size() - 1), in);
    view.shows(query, asAsker, reads);
    view.columns().putAll(doing.kept().getColumns());
  }

  static void drop(Doing doing, String kind, List<String> path)
      throws RefusedException, MistakeException {
    Thing thing = doing.thing(kind, path);
    doing.needDisposal(thing);
    doing.warehouse().drop(thing);
    doing.dropped(thing);
  }

  static void changeOwner(Doing doing, Thing thing, String to)
      throws RefusedException, MistakeException {
    if (!doing.house().has(Fact.CHANGES_OWNERS)) {
      throw new MistakeException("things keep their owners here");
    }
    doing.needDisposal(thing);
    Principal other = doing.principal(to);
    Judge judge = doing.judge();
    boolean theirs = doing.session().on().contains(other);
    if (!doing.again() && !theirs && !judge.administers(doing.session())) {
      throw new RefusedException(
          doing.session().acting() + " may give " + thing + " to themselves and their roles only");
    }
    doing.needWithin(other);
    thing.owner(other);
  }
}
