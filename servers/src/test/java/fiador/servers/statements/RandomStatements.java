package fiador.servers.statements;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;

/** Random statements over a few tables and views, all of them with names that fit. */
final class RandomStatements {
  /** What not every server has, or writes its own way. */
  enum Can {
    MERGE,
    FULL_JOIN,
    RETURNING,
    ON_CONFLICT,
    UPDATE_FROM,
    DELETE_USING,
    LATERAL,
    TRUNCATE,
    LOCKS,
    CHANGED_IN_SUBQUERY,
    /** Leaves out subqueries whose value nobody uses, and with them what they take. */
    FORGETS_UNUSED,
    /** Checks the columns of views where there are subqueries too. */
    CHECKS_VIEWS_BESIDE_SUBQUERIES
  }

  /** A table or view. */
  record Thing(String name, List<String> columns, boolean table) {}

  /** A source in a statement, and what its columns are called there. */
  private record Seen(String alias, List<String> columns) {
    String column(Random random) {
      return alias + "." + columns.get(random.nextInt(columns.size()));
    }
  }

  private final List<Thing> things;
  private final String function;
  private final Set<Can> can;
  private final Random random;
  private String changed;
  private int aliases;

  RandomStatements(List<Thing> things, String function, Set<Can> can, Random random) {
    this.things = things;
    this.function = function;
    this.can = can;
    this.random = random;
  }

  /** A query or a change. */
  String next() {
    String next = any();
    while (next.contains("s2.v1")
        && next.contains("(SELECT")
        && !can.contains(Can.CHECKS_VIEWS_BESIDE_SUBQUERIES)) {
      next = any();
    }
    return next;
  }

  private String any() {
    aliases = 0;
    changed = null;
    return switch (random.nextInt(12)) {
      case 0, 1 -> insert();
      case 2, 3 -> update();
      case 4 -> delete();
      case 5 -> can.contains(Can.MERGE) ? merge() : query(2);
      case 6 -> can.contains(Can.TRUNCATE) ? "TRUNCATE TABLE " + table().name() : query(2);
      default -> query(2);
    };
  }

  private boolean maybe(int oneIn) {
    return random.nextInt(oneIn) == 0;
  }

  private Thing table() {
    List<Thing> tables = things.stream().filter(Thing::table).toList();
    Thing table = tables.get(random.nextInt(tables.size()));
    changed = table.name();
    return table;
  }

  private Thing thing() {
    List<Thing> possible =
        can.contains(Can.CHANGED_IN_SUBQUERY)
            ? things
            : things.stream()
                .filter(each -> !each.name().equals(changed) && (changed == null || each.table()))
                .toList();
    return possible.get(random.nextInt(possible.size()));
  }

  private String fresh(String kind) {
    return kind + aliases++;
  }

  /** A query, perhaps with named ones before it, or of several. */
  private String query(int depth) {
    if (depth > 1 && maybe(4)) {
      String name = fresh("q");
      String inner = select(1, List.of(), 2);
      String from = fresh("s");
      String all = maybe(2) ? "*" : from + ".c2, " + from + ".c1";
      String named = "WITH " + name + " (c1, c2) AS (" + inner + ") SELECT " + all;
      return named + " FROM " + name + " " + from + (maybe(2) ? " WHERE " + from + ".c1 > 0" : "");
    } else if (maybe(5)) {
      String union = maybe(2) ? " UNION ALL " : " UNION ";
      return select(depth, List.of(), 2)
          + union
          + select(depth, List.of(), 2)
          + (maybe(3) ? " ORDER BY 1" : "");
    }
    return select(depth, List.of(), 0);
  }

  /**
   * A simple query.
   *
   * @param outer what it may name from around it
   * @param width how many columns it must have; 0 for any number
   */
  private String select(int depth, List<Seen> outer, int width) {
    List<Seen> seen = new ArrayList<>();
    String from = from(depth, seen);
    int valued = width > 0 && can.contains(Can.FORGETS_UNUSED) ? 0 : depth;
    List<Seen> all = new ArrayList<>(seen);
    all.addAll(maybe(2) ? outer : List.of());
    StringBuilder sql = new StringBuilder("SELECT ");
    int kind = random.nextInt(width > 0 ? 3 : 6);
    String group = null;
    int columns = width > 0 ? width : 1 + random.nextInt(3);
    if (kind == 3) {
      sql.append(maybe(2) ? "*" : seen.get(random.nextInt(seen.size())).alias() + ".*");
    } else if (kind == 4) {
      sql.append(maybe(2) ? "count(*)" : "1");
    } else if (kind == 5) {
      group = seen.get(0).column(random);
      sql.append(group).append(", ").append(maybe(2) ? "count(*)" : "sum(" + any(seen) + ")");
    } else {
      for (int i = 0; i < columns; i++) {
        sql.append(i > 0 ? ", " : "").append(value(valued, all));
        sql.append(width > 0 ? " AS y" + (i + 1) : maybe(3) ? " AS x" + i : "");
      }
    }
    sql.append(" FROM ").append(from);
    if (maybe(2)) {
      sql.append(" WHERE ").append(condition(depth, all));
    }
    if (group != null) {
      sql.append(" GROUP BY ").append(group);
      sql.append(maybe(2) ? " HAVING max(" + any(seen) + ") > 1" : "");
    } else if (kind < 3 && width == 0 && maybe(3)) {
      sql.append(" ORDER BY ").append(maybe(2) ? "1" : any(seen));
    }
    boolean plain = depth > 1 && !from.contains("(") && kind < 3 && width == 0 && seen.size() == 1;
    if (plain && can.contains(Can.LOCKS) && maybe(8)) {
      sql.append(" FOR UPDATE");
    }
    return sql.toString();
  }

  private String any(List<Seen> seen) {
    return seen.get(random.nextInt(seen.size())).column(random);
  }

  private String from(int depth, List<Seen> seen) {
    StringBuilder from = new StringBuilder(source(depth, seen));
    while (seen.size() < 3 && maybe(3)) {
      Seen left = seen.get(0);
      int before = seen.size();
      String right = source(depth, seen);
      Seen added = seen.get(before);
      List<String> shared = new ArrayList<>(left.columns());
      shared.retainAll(added.columns());
      int how = random.nextInt(5);
      if (how == 0) {
        from.append(" CROSS JOIN ").append(right);
      } else if (how == 1 && before == 1 && !shared.isEmpty()) {
        from.append(" JOIN ").append(right).append(" USING (").append(shared.get(0)).append(")");
        rename(seen, shared.get(0));
      } else if (how == 2 && before == 1 && !shared.isEmpty()) {
        from.append(" NATURAL JOIN ").append(right);
        shared.forEach(column -> rename(seen, column));
      } else {
        String join = maybe(2) ? " LEFT JOIN " : " JOIN ";
        from.append(join).append(right).append(" ON ");
        from.append(left.column(random)).append(" = ").append(added.column(random));
      }
    }
    return from.toString();
  }

  /** Some servers know a shared column by its bare name only; leave it alone. */
  private static void rename(List<Seen> seen, String column) {
    for (int i = 0; i < seen.size(); i++) {
      List<String> left = new ArrayList<>(seen.get(i).columns());
      left.remove(column);
      if (!left.isEmpty()) {
        seen.set(i, new Seen(seen.get(i).alias(), left));
      }
    }
  }

  private String source(int depth, List<Seen> seen) {
    if (depth > 0 && maybe(6)) {
      String alias = fresh("d");
      seen.add(new Seen(alias, List.of("y1", "y2")));
      String inner = select(depth - 1, List.of(), 2);
      String all = maybe(2) ? inner : "SELECT i.* FROM (" + inner + ") i";
      return "(" + all + ") " + alias;
    }
    Thing thing = thing();
    String alias = fresh("s");
    seen.add(new Seen(alias, thing.columns()));
    return thing.name() + (maybe(2) ? " AS " : " ") + alias;
  }

  private String value(int depth, List<Seen> seen) {
    String one = any(seen);
    return switch (random.nextInt(10)) {
      case 0 -> one + " + " + any(seen);
      case 1 -> "coalesce(" + one + ", " + any(seen) + ")";
      case 2 -> "CASE WHEN " + one + " > 1 THEN " + any(seen) + " ELSE 0 END";
      case 3 -> function == null ? one : function + "(" + one + ")";
      case 4 ->
          depth > 0 ? "(SELECT max(m.y1) FROM (" + select(depth - 1, List.of(), 1) + ") m)" : one;
      case 5 -> "7";
      default -> one;
    };
  }

  private String condition(int depth, List<Seen> seen) {
    String one = any(seen);
    return switch (random.nextInt(8)) {
      case 0 -> one + " = " + any(seen);
      case 1 -> one + " IS NULL";
      case 2 -> one + " BETWEEN 1 AND " + any(seen);
      case 3 -> depth > 0 ? one + " IN (" + select(depth - 1, seen, 1) + ")" : one + " > 1";
      case 4 -> depth > 0 ? "EXISTS (" + exists(seen) + ")" : one + " < 1";
      case 5 -> "NOT (" + one + " > 3 AND " + any(seen) + " < 9)";
      case 6 -> one + " IN (1, 2, 3)";
      default -> one + " > 1";
    };
  }

  private String exists(List<Seen> outer) {
    String list = maybe(2) ? "1" : maybe(2) ? "*" : "z0.*";
    Thing thing = thing();
    String alias = list.startsWith("z0") ? "z0" : fresh("e");
    String where =
        maybe(2)
            ? ""
            : " WHERE "
                + alias
                + "."
                + thing.columns().get(random.nextInt(thing.columns().size()))
                + " = "
                + any(outer);
    return "SELECT " + list + " FROM " + thing.name() + " " + alias + where;
  }

  private List<String> some(List<String> columns) {
    List<String> some = new ArrayList<>(columns);
    while (some.size() > 1 && !maybe(3)) {
      some.remove(random.nextInt(some.size()));
    }
    return some;
  }

  private String insert() {
    Thing table = table();
    List<String> into = some(table.columns());
    boolean listed = !maybe(4);
    int width = listed ? into.size() : table.columns().size();
    StringBuilder sql = new StringBuilder("INSERT INTO " + table.name());
    sql.append(listed ? " (" + String.join(", ", into) + ")" : "");
    if (maybe(3)) {
      sql.append(' ').append(select(1, List.of(), width));
    } else {
      sql.append(" VALUES (").append("1, ".repeat(width - 1)).append("2)");
    }
    String first = table.columns().get(random.nextInt(table.columns().size()));
    String other = table.columns().get(random.nextInt(table.columns().size()));
    boolean values = sql.indexOf("VALUES") >= 0;
    if (can.contains(Can.ON_CONFLICT) && values && maybe(4)) {
      String excluded = maybe(2) ? "excluded." + other : "5";
      sql.append(" ON CONFLICT ")
          .append(
              maybe(3) || !table.columns().contains("a")
                  ? "DO NOTHING"
                  : "(a) DO UPDATE SET " + first + " = " + excluded);
    }
    if (can.contains(Can.RETURNING) && maybe(4)) {
      sql.append(" RETURNING ").append(maybe(3) ? "*" : first);
    }
    return sql.toString();
  }

  private String update() {
    Thing table = table();
    Seen self = new Seen("t", table.columns());
    List<Seen> seen = new ArrayList<>(List.of(self));
    StringBuilder sql = new StringBuilder("UPDATE " + table.name() + " t SET ");
    StringBuilder rest = new StringBuilder();
    if (can.contains(Can.UPDATE_FROM) && maybe(4)) {
      rest.append(" FROM ").append(source(1, seen));
    }
    List<String> columns = some(table.columns());
    for (int i = 0; i < columns.size(); i++) {
      sql.append(i > 0 ? ", " : "").append(columns.get(i)).append(" = ");
      sql.append(maybe(2) ? "3" : value(1, seen));
    }
    sql.append(rest);
    sql.append(maybe(3) ? "" : " WHERE " + condition(1, seen));
    if (can.contains(Can.RETURNING) && maybe(6)) {
      sql.append(" RETURNING ").append(self.column(random));
    }
    return sql.toString();
  }

  private String delete() {
    Thing table = table();
    Seen self = new Seen("t", table.columns());
    List<Seen> seen = new ArrayList<>(List.of(self));
    // not every server gives what is deleted from another name
    StringBuilder sql = new StringBuilder("DELETE FROM " + table.name());
    if (can.contains(Can.DELETE_USING)) {
      sql.append(" t");
      sql.append(maybe(4) ? " USING " + source(0, seen) : "");
      sql.append(maybe(3) ? "" : " WHERE " + condition(1, seen));
    } else if (!maybe(3)) {
      sql.append(" WHERE ").append(table.columns().get(0)).append(" > 2");
    }
    return sql.toString();
  }

  private String merge() {
    Thing table = table();
    Seen self = new Seen("t", table.columns());
    List<Seen> seen = new ArrayList<>(List.of(self));
    String from = source(0, seen);
    Seen other = seen.get(1);
    StringBuilder sql = new StringBuilder("MERGE INTO " + table.name() + " AS t USING " + from);
    sql.append(" ON (").append(self.column(random)).append(" = ").append(other.column(random));
    sql.append(")");
    boolean updates = maybe(2);
    if (updates) {
      sql.append(" WHEN MATCHED THEN UPDATE SET ");
      sql.append(self.columns().get(random.nextInt(self.columns().size()))).append(" = ");
      sql.append(maybe(2) ? "4" : other.column(random));
    }
    if (!updates || maybe(2)) {
      String into = self.columns().get(random.nextInt(self.columns().size()));
      sql.append(" WHEN NOT MATCHED THEN INSERT (").append(into).append(") VALUES (");
      sql.append(maybe(2) ? "6" : other.column(random)).append(")");
    }
    return sql.toString();
  }
}
