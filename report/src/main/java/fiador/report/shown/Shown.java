package fiador.report.shown;

import fiador.estate.DottedName;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Terms;
import fiador.policies.UnderName;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Holds;
import fiador.predicates.PredicateText;
import fiador.predicates.Rewriting;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.BitSet;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Names as people write them. A server that folds unquoted names to upper case knows {@code
 * billing} as {@code BILLING}; text shows it as people type it, machine formats as it is.
 */
public final class Shown {
  /** Made when a time is first shown, which in short answers is never. */
  private static final class Times {
    private static final DateTimeFormatter SECONDS =
        DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss").withZone(ZoneOffset.UTC);
  }

  private final Access access;
  private final boolean plainText;
  private String leftOut = "";

  /**
   * @param plainText true for text, false for machine formats
   */
  public Shown(Access access, boolean plainText) {
    this.access = access;
    this.plainText = plainText;
  }

  /** As text, and without the database where only one has anything in it. */
  public static Shown brief(Access access) {
    Shown shown = new Shown(access, true);
    Tree tree = access.tree();
    int only = None.NODE;
    for (int database : tree.size() == 0 ? new int[0] : tree.children().run(0)) {
      if (tree.kind(database) == NodeKind.DATABASE && hasThings(tree, database)) {
        if (only >= 0) {
          return shown;
        }
        only = database;
      }
    }
    shown.leftOut = only < 0 ? "" : tree.path(only) + ".";
    return shown;
  }

  private static boolean hasThings(Tree tree, int database) {
    for (int schema : tree.children().run(database)) {
      boolean own = tree.is(schema, NodeFact.SYSTEM);
      if (!own && tree.children().to(schema) > tree.children().from(schema)) {
        return true;
      }
    }
    return false;
  }

  private String shown(String name) {
    boolean folds = access.rules().fold("a").equals("A");
    boolean lower = plainText && folds && name.equals(name.toUpperCase(Locale.ROOT));
    return printable(lower ? name.toLowerCase(Locale.ROOT) : name);
  }

  private String printable(String name) {
    return plainText ? Visible.of(name) : name;
  }

  /** A label something was given by. */
  public String label(Terms terms) {
    return shown(access.labelOf(terms));
  }

  /** A user or role. */
  public String principal(int id) {
    Principals principals = access.principals();
    return id == Principals.PUBLIC ? "PUBLIC" : shown(principals.name(id));
  }

  /** That a view has its table's name, and what the table is called; null for anything else. */
  public @Nullable String aside(int node) {
    Integer table = UnderName.tables(access).get(node);
    return table == null ? null : "a view has the table's name; the table itself is " + path(table);
  }

  /** The dotted path of a node; the server's name for the server. */
  public String path(int node) {
    Tree tree = access.tree();
    if (node == 0 && plainText) {
      return Visible.of(tree.name(0));
    }
    String path = tree.path(node);
    boolean brief = !leftOut.isEmpty() && path.startsWith(leftOut);
    return shown(brief ? path.substring(leftOut.length()) : path);
  }

  /** The path with its kind: {@code table billing.customers}. */
  public String node(int node) {
    return access.tree().kind(node).text() + " " + path(node);
  }

  /** A column of a node. */
  public String column(int node, int ordinal) {
    return shown(DottedName.quoted(access.tree().column(node, ordinal)));
  }

  /** How many columns a node has. */
  public int columns(int node) {
    return access.tree().columns(node);
  }

  /** Columns in their order: {@code district, tariff}. */
  public String columns(int node, BitSet columns) {
    return columns.stream().mapToObj(c -> column(node, c)).collect(Collectors.joining(", "));
  }

  /** A name that stands alone, such as a column's. */
  public String name(String own) {
    return shown(own);
  }

  /** A predicate with its names as people write them. */
  public String predicate(Expression predicate) {
    return PredicateText.of(
        Rewriting.of(
            predicate,
            part ->
                part instanceof Column column
                    ? new Column(name(column.name()), column.ordinal(), column.type())
                    : part instanceof Holds holds ? new Holds(name(holds.role())) : part));
  }

  /** Where the answer comes from and how old that is: {@code survey of waterworks, 2 min old}. */
  public String origin(Instant now) {
    String from = surveyed(now);
    return access.about().supposed() ? "supposed; " + from : from;
  }

  private String surveyed(Instant now) {
    if (access.about().taken() == null) {
      return "the charter of " + access.about().server() + ", on paper";
    }
    if (access.about().recalled()) {
      return "survey of " + access.about().server() + " of " + time(access.about().taken());
    }
    return "survey of "
        + access.about().server()
        + ", "
        + age(Duration.between(access.about().taken(), now))
        + " old";
  }

  /** A point in time: {@code 2026-03-05 09:12:00 UTC}. */
  public static String time(Instant instant) {
    return Times.SECONDS.format(instant) + " UTC";
  }

  private static String age(Duration age) {
    long seconds = Math.max(0, age.toSeconds());
    if (seconds < 120) {
      return seconds + " s";
    } else if (seconds < 7200) {
      return seconds / 60 + " min";
    } else if (seconds < 172_800) {
      return seconds / 3600 + " h";
    }
    return seconds / 86_400 + " days";
  }
}
