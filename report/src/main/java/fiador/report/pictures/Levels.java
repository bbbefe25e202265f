package fiador.report.pictures;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Reach;
import fiador.policies.Seeing;
import fiador.report.pictures.Matrix.Cell;
import fiador.report.pictures.Matrix.Level;
import fiador.report.pictures.Matrix.Row;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.IntPredicate;
import org.jspecify.annotations.Nullable;

/**
 * Works out a {@link Matrix}: for each user or role, and each schema or thing, how much they can
 * do.
 */
public final class Levels {
  /** More rows nobody reads; so nobody else is looked at. */
  static final int MOST_ROWS = 40;

  static final int MOST_COLUMNS = 24;

  /** So many people are asked one by one before anything else is tried. */
  private static final int ONE_BY_ONE = 60;

  /** What changes rows. */
  static final long CHANGES =
      PrivilegeSet.of(Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE, Privilege.TRUNCATE);

  private final Access access;
  private final Tree tree;
  private final Shown shown;
  private final Holdings holdings;
  private final Seeing seeing;
  private final Reach atOnce;
  private final Reach reach;
  private final OwnRights rights;
  private final boolean byThing;
  private final IntPredicate things;
  private @Nullable Int2ObjectOpenHashMap<List<Holding>> byUser;

  /** Things that count, by what they stand under in the matrix. */
  private final Map<Integer, List<Integer>> columns = new LinkedHashMap<>();

  private final List<String> notes = new ArrayList<>();

  /**
   * @param byThing whether there is a column for each thing, and not for each schema
   */
  public Levels(Access access, Clock clock, boolean byThing) {
    this(access, clock, byThing, node -> true);
  }

  /**
   * As the other.
   *
   * @param things which things count
   */
  public Levels(Access access, Clock clock, boolean byThing, IntPredicate things) {
    this.things = things;
    this.access = access;
    this.tree = access.tree();
    this.shown = Shown.brief(access);
    this.holdings = new Holdings(access, clock, false);
    this.seeing = new Seeing(access);
    this.atOnce = new Reach(access, edge -> access.memberships().options(edge).inherit());
    this.reach = new Reach(access);
    this.rights = new OwnRights(access);
    this.byThing = byThing;
  }

  /**
   * The matrix. Cost: the holdings of those who are looked at.
   *
   * @param people the users or roles
   * @param schemas the schemas
   */
  public Matrix of(List<Integer> people, List<Integer> schemas, Clock clock) {
    columns(schemas);
    List<Integer> sorted = new ArrayList<>(people);
    sorted.sort((one, other) -> shown.principal(one).compareTo(shown.principal(other)));
    Map<List<Cell>, List<Integer>> alike = new LinkedHashMap<>();
    int empty = 0;
    int seen = 0;
    for (int who : sorted) {
      if (alike.size() == MOST_ROWS) {
        break;
      }
      List<Cell> cells = cells(who, held(who, seen++, sorted, clock));
      if (cells.stream().allMatch(Cell.EMPTY::equals)) {
        empty++;
      } else {
        alike.computeIfAbsent(cells, fresh -> new ArrayList<>()).add(who);
      }
    }
    if (empty > 0) {
      notes.add(empty + " more hold nothing here.");
    }
    if (seen < sorted.size()) {
      notes.add(
          "These are the first by name; "
              + (sorted.size() - seen)
              + " more were not looked at. --who NAME,... picks others.");
    }
    List<Row> rows = new ArrayList<>();
    alike.forEach(
        (cells, who) -> {
          boolean user = access.principals().isUser(who.get(0));
          rows.add(
              new Row(who.stream().map(shown::principal).toList(), user ? "user" : "role", cells));
        });
    explain(alike.keySet());
    return new Matrix(
        "Who can do what, by " + (byThing ? "table" : "schema"),
        shown.origin(clock.instant()),
        columns.keySet().stream().map(shown::path).toList(),
        rows,
        notes);
  }

  private void explain(Set<List<Cell>> all) {
    boolean parts = all.stream().flatMap(List::stream).anyMatch(cell -> cell.on() != cell.of());
    boolean limited = all.stream().flatMap(List::stream).anyMatch(Cell::limited);
    List<String> words = new ArrayList<>();
    if (parts) {
      words.add(
          "\"3 of 5\": on so many of the schema's tables and views, less or nothing on the others.");
    }
    if (limited) {
      words.add("\"by policy\": some rows are hidden or some values masked.");
    }
    if (!words.isEmpty()) {
      notes.add(0, String.join(" ", words));
    }
  }

  private void columns(List<Integer> schemas) {
    for (int schema : schemas) {
      List<Integer> inside = new ArrayList<>();
      for (int child : tree.children().run(schema)) {
        if (isShown(tree.kind(child)) && things.test(child)) {
          inside.add(child);
        }
      }
      if (byThing) {
        inside.forEach(node -> columns.put(node, List.of(node)));
      } else if (!inside.isEmpty()) {
        columns.put(schema, inside);
      }
    }
    if (columns.size() > MOST_COLUMNS) {
      notes.add(
          "Of "
              + columns.size()
              + " columns the first "
              + MOST_COLUMNS
              + "; --schema NAME,... picks others.");
      List<Integer> rest = new ArrayList<>(columns.keySet());
      rest.subList(MOST_COLUMNS, rest.size()).forEach(columns::remove);
    }
  }

  private static boolean isShown(NodeKind kind) {
    return kind == NodeKind.TABLE || kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW;
  }

  /**
   * What somebody holds. Most matrices are full after a few people, who are asked one by one; where
   * many hold alike the rows come slowly, and then all holders of the things are looked up at once,
   * if there are fewer things than people left.
   */
  private List<Holding> held(int who, int seen, List<Integer> people, Clock clock) {
    if (seen == ONE_BY_ONE) {
      int nodes = columns.values().stream().mapToInt(List::size).sum();
      boolean onlyUsers = people.stream().allMatch(access.principals()::isUser);
      if (onlyUsers && nodes < people.size() - seen) {
        byUser = byUser(clock);
      }
    }
    return byUser == null ? holdings.of(who) : byUser.getOrDefault(who, List.of());
  }

  private Int2ObjectOpenHashMap<List<Holding>> byUser(Clock clock) {
    Int2ObjectOpenHashMap<List<Holding>> found = new Int2ObjectOpenHashMap<>();
    Holders holders = new Holders(access, clock);
    for (List<Integer> inside : columns.values()) {
      for (int node : inside) {
        for (Holding row : holders.of(node)) {
          found.computeIfAbsent(row.user(), fresh -> new ArrayList<>()).add(row);
        }
      }
    }
    return found;
  }

  private List<Cell> cells(int who, List<Holding> held) {
    Map<Integer, Map<State, Long>> whole = new HashMap<>();
    IntOpenHashSet some = new IntOpenHashSet();
    for (Holding row : held) {
      if (row.columns() == null) {
        whole
            .computeIfAbsent(row.node(), fresh -> new TreeMap<>())
            .merge(row.state(), row.privilege().bit(), (one, other) -> one | other);
      } else if (row.privilege() == Privilege.SELECT) {
        some.add(row.node());
      }
    }
    Acting acting = new Acting(who, with(who, atOnce), with(who, reach));
    List<Cell> cells = new ArrayList<>();
    columns.values().forEach(nodes -> cells.add(cell(acting, nodes, whole, some)));
    return cells;
  }

  /** Who is looked at, with the roles they have at once and all they can have. */
  private record Acting(int who, IntOpenHashSet atOnce, IntOpenHashSet ever) {
    boolean has(int owner, State state) {
      return (state == State.LIVE ? atOnce : ever).contains(owner);
    }
  }

  private static IntOpenHashSet with(int who, Reach reach) {
    IntOpenHashSet roles = new IntOpenHashSet(reach.up(who));
    roles.add(who);
    return roles;
  }

  private record Mark(Level level, State state) {
    boolean isBetter(Mark other) {
      boolean works = state.works();
      boolean othersWorks = other.state.works();
      return level != Level.NONE
          && (other.level == Level.NONE
              || works && !othersWorks
              || works == othersWorks && level.compareTo(other.level) > 0);
    }
  }

  private Cell cell(
      Acting acting,
      List<Integer> nodes,
      Map<Integer, Map<State, Long>> whole,
      IntOpenHashSet some) {
    Mark best = new Mark(Level.NONE, State.LIVE);
    List<Mark> marks = new ArrayList<>();
    boolean limited = false;
    for (int node : nodes) {
      Mark mark = mark(node, whole.getOrDefault(node, Map.of()), some.contains(node), acting);
      marks.add(mark);
      best = mark.isBetter(best) ? mark : best;
      limited |= mark.level() != Level.NONE && isLimited(acting.who(), node);
    }
    return best.level() == Level.NONE
        ? Cell.EMPTY
        : new Cell(
            best.level(), best.state(), Collections.frequency(marks, best), nodes.size(), limited);
  }

  private Mark mark(int node, Map<State, Long> held, boolean some, Acting acting) {
    // an owner has all there is; whose role owns it and is out of reach has less
    long owners = access.rules().privilegesOn(tree.kind(node)) & ~tree.withheld(node);
    Mark best = new Mark(Level.NONE, State.LIVE);
    for (Map.Entry<State, Long> entry : held.entrySet()) {
      long privileges = entry.getValue();
      Level level = Level.NONE;
      if ((privileges & owners) == owners && acting.has(rights.ownerOf(node), entry.getKey())) {
        level = Level.OWN;
      } else if ((privileges & CHANGES) != 0) {
        level = Level.CHANGE;
      } else if ((privileges & Privilege.SELECT.bit()) != 0) {
        level = Level.READ;
      }
      Mark mark = new Mark(level, entry.getKey());
      best = mark.isBetter(best) ? mark : best;
    }
    return best.level() == Level.NONE && some ? new Mark(Level.COLUMNS, State.LIVE) : best;
  }

  private boolean isLimited(int who, int node) {
    if (who == Principals.PUBLIC || !seeing.decides(node)) {
      return false;
    }
    Seeing.Answer answer = seeing.of(who, node);
    return answer != null
        && answer.exempt() == null
        && !(answer.isKnown() && answer.seen().allRows() && answer.seen().masks().isEmpty());
  }
}
