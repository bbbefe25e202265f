package fiador.servers;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Random queries over what there is, for views. */
final class RandomQueries {
  private final LineageConformance.Manner manner;
  private final Random random;
  private final List<LineageConformance.Source> sources;
  private int rows;

  /**
   * @param sources what can be read; more may come
   */
  RandomQueries(
      LineageConformance.Manner manner, Random random, List<LineageConformance.Source> sources) {
    this.manner = manner;
    this.random = random;
    this.sources = sources;
  }

  /** Of those columns. */
  String query(List<String> names) {
    rows = 0;
    return switch (random.nextInt(6)) {
      case 0 -> plain(names) + " UNION ALL " + plain(names);
      case 1 -> inner(names);
      case 2 -> grouped(names);
      case 3 -> manner.modern() ? named(names) : plain(names);
      default -> plain(names);
    };
  }

  /** How many rows the last query gives at most. */
  int rows() {
    return rows;
  }

  /** Views of views could have more rows than there is time for. */
  private LineageConformance.Source small() {
    return any(sources.stream().filter(source -> source.rows() <= 2).toList());
  }

  private <T> T any(List<T> from) {
    return from.get(random.nextInt(from.size()));
  }

  /** One or two sources, side by side. */
  private String plain(List<String> names) {
    LineageConformance.Source one = small();
    LineageConformance.Source two = small();
    boolean joined = random.nextBoolean();
    rows += one.rows() * (joined ? two.rows() : 1);
    List<String> all = new ArrayList<>(qualified("a", one));
    if (joined) {
      all.addAll(qualified("b", two));
    }
    StringBuilder sql = new StringBuilder("SELECT a." + quoted("id") + " AS " + quoted("id"));
    for (String name : names.subList(1, names.size())) {
      sql.append(", ")
          .append(expression(all, 2, manner.modern()))
          .append(" AS ")
          .append(quoted(name));
    }
    sql.append(" FROM ").append(full(one.name())).append(" a");
    if (joined) {
      sql.append(" JOIN ").append(full(two.name())).append(" b ON a.").append(quoted("id"));
      sql.append(" = b.").append(quoted("id"));
    }
    return sql.append(" WHERE char_length(").append(any(all)).append(") >= 0").toString();
  }

  private List<String> qualified(String alias, LineageConformance.Source source) {
    return source.columns().stream().skip(1).map(column -> alias + "." + quoted(column)).toList();
  }

  private String inner(List<String> names) {
    String list = list(names);
    return "SELECT " + list + " FROM (" + plain(names) + ") q";
  }

  private String list(List<String> names) {
    return String.join(", ", names.stream().map(name -> "q." + quoted(name)).toList());
  }

  private String named(List<String> names) {
    return "WITH q AS (" + plain(names) + ") SELECT " + list(names) + " FROM q";
  }

  private String grouped(List<String> names) {
    LineageConformance.Source one = small();
    rows++;
    List<String> all = qualified("a", one);
    StringBuilder sql = new StringBuilder("SELECT a." + quoted("id") + " AS " + quoted("id"));
    for (String name : names.subList(1, names.size())) {
      String text = expression(all, 1, false);
      String value =
          switch (random.nextInt(3)) {
            case 0 -> "concat('', count(" + text + "))";
            case 1 -> String.format(manner.join(), text, text);
            default -> "max(" + text + ")";
          };
      sql.append(", ").append(value).append(" AS ").append(quoted(name));
    }
    return sql + " FROM " + full(one.name()) + " a GROUP BY a." + quoted("id");
  }

  private String expression(List<String> columns, int depth, boolean window) {
    String column = depth == 0 ? any(columns) : null;
    if (column != null || random.nextInt(3) == 0) {
      return column == null ? any(columns) : column;
    }
    String one = expression(columns, depth - 1, false);
    String other = expression(columns, depth - 1, false);
    LineageConformance.Source table = sources.get(random.nextInt(LineageConformance.TABLES));
    String field = quoted(any(table.columns().subList(1, table.columns().size())));
    return switch (random.nextInt(window ? 11 : 10)) {
      case 0 -> "concat(" + one + ", " + other + ")";
      case 1 -> "upper(" + one + ")";
      case 2 -> "CASE WHEN " + one + " > 'm' THEN 'late' ELSE " + other + " END";
      case 3 -> "coalesce(" + one + ", " + other + ")";
      case 4 -> "cast(" + one + " AS CHAR(30))";
      case 5 -> "substring(" + one + " FROM 1 FOR 3)";
      case 6 -> "concat('n', char_length(" + one + "))";
      case 7 -> "CASE WHEN " + one + " IS NULL THEN 'none' ELSE 'some' END";
      case 8 -> "(SELECT max(s." + field + ") FROM " + full(table.name()) + " s)";
      case 9 -> "'fixed'";
      default ->
          "max("
              + one
              + ") OVER (PARTITION BY "
              + columns.get(0).charAt(0)
              + "."
              + quoted("id")
              + ")";
    };
  }

  String quoted(String name) {
    return manner.quote()
        + name.replace(manner.quote(), manner.quote() + manner.quote())
        + manner.quote();
  }

  /** A table or view of the box. */
  String full(String name) {
    return quoted("view_box") + "." + quoted(name);
  }
}
