package fiador.standin.queries;

import fiador.standin.deeds.Secrets;
import fiador.standin.estate.Judge;
import fiador.standin.estate.MistakeException;
import fiador.standin.estate.Principal;
import fiador.standin.estate.RefusedException;
import fiador.standin.estate.Session;
import fiador.standin.estate.Thing;
import fiador.standin.estate.Warehouse;
import fiador.standin.estate.WayIn;
import fiador.standin.house.House;
import fiador.standin.house.House.Fact;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.StringJoiner;
import java.util.function.Predicate;
import net.sf.jsqlparser.schema.Table;

/**
 * One statement of one asker: which things it names, and what stands for each of them so that no
 * more is seen than the asker may see. Columns that may not be read are not there.
 */
final class Asking {
  /** What is there where no column may be read. */
  static final String NO_COLUMN = "\"-\"";

  private static final int DEEPEST = 40;

  /** So deep are views written within each other, where they cannot be written apart. */
  private static final int DEEPEST_WITHIN = 4;

  /** Each is a call to another server. */
  private static final int MOST_FETCHES = 20;

  private static final String SELECT = "select";
  private static final String CATALOG = "catalog";

  private final House house;
  private final Warehouse warehouse;
  private final Judge judge;
  private final Session asker;
  private final Parsed known;
  private final Map<String, String> behind = new HashMap<>();
  private final List<Use> uses = new ArrayList<>();
  private final Map<String, String> hidden = new HashMap<>();
  private final Set<String> written = new HashSet<>();
  private final List<Wanted> wanted = new ArrayList<>();
  private final ViewsApart apart = new ViewsApart();
  private boolean catalog;

  Asking(House house, Warehouse warehouse, Session asker, Parsed known) {
    this.known = known;
    this.house = house;
    this.warehouse = warehouse;
    this.judge = new Judge(house, warehouse);
    this.asker = asker;
  }

  House house() {
    return house;
  }

  Judge judge() {
    return judge;
  }

  Session asker() {
    return asker;
  }

  /** What was found to be used so far. */
  List<Use> uses() {
    return uses;
  }

  /** Columns that stand in what was named and may not be read, by their names in small letters. */
  Map<String, String> hidden() {
    return hidden;
  }

  /** The engine's names of all that was written, so that another reader can look for more. */
  Set<String> written() {
    return written;
  }

  /** The views that stand before a query; nowhere else if they are not wanted there. */
  ViewsApart apart() {
    return apart;
  }

  /** Whether the catalog is asked. */
  boolean catalog() {
    return catalog;
  }

  /** What has to be had from other servers before it can be answered. */
  List<Fetch> fetches() {
    return wanted.stream().map(Wanted::known).toList();
  }

  /** Whose rights count at a place: a query's asker, or a view's owner. */
  record Reader(Session session, boolean gates, boolean everything, int depth) {
    private static final int VEIL = -1;

    static Reader of(Session asker) {
      return new Reader(asker, true, false, 0);
    }

    /** What a veil says: it reads who asks, and no tables. */
    static Reader ofVeil(Session asker) {
      return new Reader(asker, true, false, VEIL);
    }

    boolean isVeil() {
      return depth == VEIL;
    }
  }

  /**
   * What stands for a thing.
   *
   * @param sql in brackets, or a name
   * @param hidden the columns that are not in it
   */
  record Relation(String sql, Set<String> hidden) {}

  /** The thing a table name in a query means. */
  Thing thing(Table table) throws MistakeException {
    List<String> path = path(table);
    Thing at = warehouse.server();
    for (String name : path) {
      Thing next = at.inside(name);
      if (next == null) {
        throw new MistakeException("there is no " + String.join(".", path));
      }
      at = next;
    }
    if (!at.kind().equals("table") && !at.kind().equals("view")) {
      throw new MistakeException("there are no rows in " + at);
    }
    return at;
  }

  private List<String> path(Table table) {
    List<String> parts = new ArrayList<>(table.getNameParts());
    java.util.Collections.reverse(parts);
    return parts.stream().map(part -> PlainText.name(part, house.folding()::of)).toList();
  }

  /**
   * What stands for a name in a query.
   *
   * @param names whether the query names a column, once all of it was written
   */
  Relation relation(Table table, Reader reader, Predicate<String> names)
      throws RefusedException, MistakeException {
    List<String> path = path(table);
    if (reader.isVeil()) {
      return new Relation(veils().asked(path), Set.of());
    }
    if (path.size() == 2 && path.get(0).equalsIgnoreCase(CATALOG)) {
      return new Relation(catalog(path.get(1), reader), Set.of());
    }
    return relation(thing(table), reader, names);
  }

  private String catalog(String view, Reader reader) throws RefusedException, MistakeException {
    if (!judge.keepsAccounts(reader.session())) {
      throw new RefusedException(reader.session().acting() + " may not read the catalog");
    }
    if (!CatalogViews.ALL.containsKey(PlainText.lower(view))) {
      throw new MistakeException(
          "there is no catalog." + view + "; there are " + CatalogViews.ALL.keySet());
    }
    catalog = true;
    return remember("\"CATALOG\"." + PlainText.quoted(view.toUpperCase(Locale.ROOT)));
  }

  String remember(String name) {
    written.add(name);
    return name;
  }

  private Relation relation(Thing thing, Reader reader, Predicate<String> names)
      throws RefusedException, MistakeException {
    if (reader.depth() > DEEPEST) {
      throw new MistakeException(thing + " reads itself");
    }
    if (reader.depth() == 0) {
      uses.add(new Use(SELECT, thing));
    }
    Relation known = apart.known(thing, reader);
    if (known != null) {
      return known;
    }
    if (!apart.isWanted() && reader.depth() > DEEPEST_WITHIN) {
      throw new MistakeException(thing + " is read through too many views for this place");
    }
    Relation whole = whole(thing, reader, names);
    if (thing.text() == null || !apart.isWanted()) {
      return whole;
    }
    Relation named = apart.put(thing, reader, whole);
    remember(named.sql());
    return named;
  }

  private Relation whole(Thing thing, Reader reader, Predicate<String> names)
      throws RefusedException, MistakeException {
    Set<String> may = mayRead(thing, reader);
    Set<String> mayNot = new LinkedHashSet<>(thing.columns().keySet());
    mayNot.removeAll(may);
    mayNot.forEach(column -> hidden.put(PlainText.lower(column), column));
    StringJoiner shown = new StringJoiner(", ");
    boolean veiled = isVeiled(thing);
    for (String column : may) {
      shown.add(veiled ? veils().value(thing, column) : PlainText.quoted(column));
    }
    // where rows may be counted and no column be read, there is one without a name
    String columns = may.isEmpty() ? "1 AS " + NO_COLUMN : shown.toString();
    String rows = thing.far() == null ? source(thing, reader) : fetched(thing, reader, may, names);
    if (!veiled) {
      return new Relation("(SELECT " + columns + " FROM " + rows + ")", mayNot);
    }
    String where = veils().where(thing);
    String mark = PlainText.quoted("V" + Secrets.random());
    String whole = "(SELECT " + columns + " FROM " + rows + where + ")";
    behind.put(mark, whole);
    return new Relation("(SELECT * FROM " + remember(mark) + ")", mayNot);
  }

  private Veils veils() {
    return new Veils(this, warehouse, known);
  }

  /**
   * Puts in what stands behind marks. What veils say was read and written here, and is no matter of
   * whoever looks once more at what somebody else wrote.
   */
  String unmarked(String sql) {
    String whole = sql;
    for (Map.Entry<String, String> mark : behind.entrySet()) {
      whole = whole.replace(mark.getKey(), mark.getValue());
    }
    return whole;
  }

  /** Whether a veil lies over it for who asks, whoever's view it is read by. */
  boolean isVeiled(Thing thing) {
    return !thing.veil().isOpen() && !judge.administers(asker);
  }

  /** What a veil says of rows, for who asks, as a condition; empty for nothing. */
  String condition(Thing thing) throws MistakeException {
    String where = isVeiled(thing) ? veils().where(thing) : "";
    if (where.isEmpty()) {
      return "";
    }
    String mark = "'V" + Secrets.random() + "' = ''";
    behind.put(mark, where.substring(" WHERE ".length()));
    return mark;
  }

  private Set<String> mayRead(Thing thing, Reader reader) throws RefusedException {
    if (reader.everything()) {
      RefusedException shut = judge.seals().shut(reader.session(), thing);
      if (shut != null) {
        throw shut;
      }
      return thing.columns().keySet();
    }
    Session session = reader.session();
    String missing =
        reader.gates()
            ? judge.missing(session, SELECT, thing, Set.of())
            : judge.lacking(session, SELECT, thing, Set.of());
    if (missing != null) {
      throw new RefusedException(missing);
    }
    Set<String> may = new LinkedHashSet<>();
    for (String column : thing.columns().keySet()) {
      if (judge.lacking(session, SELECT, thing, List.of(column)) == null) {
        may.add(column);
      }
    }
    return may;
  }

  /** Rows that another server has: whoever reads them must be let in there too. */
  private String fetched(Thing thing, Reader reader, Set<String> may, Predicate<String> names)
      throws RefusedException, MistakeException {
    Thing.Far far = Objects.requireNonNull(thing.far());
    Principal who = reader.session().user();
    WayIn way = warehouse.elsewhere().wayIn(who, far.place());
    if (way == null) {
      throw new RefusedException(who + " has no way into " + far.place().name());
    }
    if (wanted.size() >= MOST_FETCHES) {
      throw new MistakeException(
          "more than " + MOST_FETCHES + " tables of other servers cannot be read at once");
    }
    String into = "T" + Secrets.random();
    wanted.add(new Wanted(into, thing, far, way, may, names));
    return remember("\"ROWS\"." + PlainText.quoted(into));
  }

  private String source(Thing thing, Reader reader) throws RefusedException, MistakeException {
    if (thing.text() == null) {
      return remember("\"ROWS\"." + PlainText.quoted(String.valueOf(thing.kept())));
    }
    Session session = thing.asAsker() ? asker : judge.login(thing.owner());
    boolean everything = !house.has(Fact.CHECKS_UNDER_VIEWS);
    Reader within = new Reader(session, false, everything, reader.depth() + 1);
    String inner = QueryWriter.rewritten(this, thing.text(), within);
    StringJoiner names = new StringJoiner(", ", "(", ")");
    thing.columns().keySet().forEach(column -> names.add(PlainText.quoted(column)));
    return "(" + inner + ") AS \"shown\"" + names;
  }
}
