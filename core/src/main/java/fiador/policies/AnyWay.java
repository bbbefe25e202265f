package fiador.policies;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.policies.Openings.Opening;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Who gets the values of a table without a right on it: through a view or a stored copy that reads
 * it with its owner's rights, or a routine that runs with them. Cost: what lies above the table,
 * and the holders of each.
 */
public final class AnyWay {
  private final Access access;
  private final Tree tree;
  private final Holders holders;
  private final Openings openings;
  private final Seeing seeing;

  /** On that server; the clock as for {@link Holders}. */
  public AnyWay(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.holders = new Holders(access, clock);
    this.seeing = new Seeing(access);
    this.openings = new Openings(access, seeing);
  }

  /**
   * A way to a table's values.
   *
   * @param path from the view or routine that is used down to the table
   * @param readers who can use it, as far as they get something through it
   */
  public record Way(List<Integer> path, List<Reader> readers) {
    /** What is used. */
    public int node() {
      return path.get(0);
    }
  }

  /**
   * Somebody who uses a way.
   *
   * @param state whether it works at once or after switching a role on
   * @param asIs ordinals of the table's columns whose values come as they are
   * @param workedOut ordinals of those of which only worked out values come
   * @param masked ordinals of those whose values come masked
   * @param sight what decides on their rows there; null where no policy does
   */
  public record Reader(
      int user, State state, BitSet asIs, BitSet workedOut, BitSet masked, Seeing.Answer sight) {}

  /**
   * The ways to a table, or to one column of it, the nearest first. Whoever may read all that a way
   * shows from the table itself is left out.
   *
   * @param column its ordinal, or below zero for any
   */
  public List<Way> of(int table, int column) {
    return of(table, column, false);
  }

  /** The same with those who may read the table itself too: that may come to nothing. */
  public List<Way> ofAll(int table) {
    return of(table, None.COLUMN, true);
  }

  private List<Way> of(int table, int column, boolean all) {
    List<Way> ways = new ArrayList<>();
    boolean shows = tree.kind(table).isObject() && tree.columns(table) > 0;
    List<Opening> above = shows ? openings.all(table) : List.of();
    Map<Integer, BitSet> direct = all || above.isEmpty() ? Map.of() : direct(table);
    for (Opening opening : above) {
      List<Reader> readers = new ArrayList<>();
      for (Holding holding : best(opening)) {
        Reader reader = reader(opening, holding, column, direct);
        if (reader != null) {
          readers.add(reader);
        }
      }
      if (!readers.isEmpty()) {
        ways.add(new Way(opening.path(), readers));
      }
    }
    return ways;
  }

  private Map<Integer, BitSet> direct(int table) {
    Map<Integer, BitSet> found = new LinkedHashMap<>();
    for (Holding row : holders.of(table)) {
      if (row.privilege() == Privilege.SELECT && row.state().works()) {
        BitSet columns = found.computeIfAbsent(row.user(), fresh -> new BitSet());
        columns.or(row.columns() == null ? whole(tree.columns(table)) : row.columns());
      }
    }
    return found;
  }

  private static BitSet whole(int columns) {
    BitSet all = new BitSet();
    all.set(0, columns);
    return all;
  }

  /** Who can use it, each with all columns they can read and the best state. */
  private List<Holding> best(Opening opening) {
    boolean routine = tree.kind(opening.node()) == NodeKind.ROUTINE;
    Privilege needed = routine ? Privilege.EXECUTE : Privilege.SELECT;
    Map<Integer, Holding> found = new LinkedHashMap<>();
    for (Holding row : holders.of(opening.node())) {
      if (row.privilege() == needed && row.state().works()) {
        found.merge(row.user(), row, AnyWay::together);
      }
    }
    return List.copyOf(found.values());
  }

  private static Holding together(Holding one, Holding other) {
    BitSet columns = null;
    if (one.columns() != null && other.columns() != null) {
      columns = (BitSet) one.columns().clone();
      columns.or(other.columns());
    }
    State better = one.state().compareTo(other.state()) <= 0 ? one.state() : other.state();
    return new Holding(one.user(), one.privilege(), one.node(), better, false, columns);
  }

  private Reader reader(Opening opening, Holding holding, int column, Map<Integer, BitSet> direct) {
    BitSet read = holding.columns() == null ? whole(opening.flow().columns()) : holding.columns();
    BitSet asIs = opening.flow().clear(read);
    BitSet workedOut = opening.flow().derived(read);
    workedOut.andNot(asIs);
    BitSet all = (BitSet) asIs.clone();
    all.or(workedOut);
    if (column >= 0) {
      BitSet only = new BitSet();
      only.set(column);
      asIs.and(only);
      workedOut.and(only);
      all.and(only);
    }
    all.andNot(direct.getOrDefault(holding.user(), new BitSet()));
    if (all.isEmpty()) {
      return null;
    }
    Seeing.Answer sight = seeing.of(holding.user(), opening.node());
    BitSet masked = (BitSet) asIs.clone();
    BitSet clear = seeing.clear(holding.user(), opening.node(), read);
    asIs.and(opening.flow().clear(clear));
    masked.andNot(asIs);
    return new Reader(holding.user(), holding.state(), asIs, workedOut, masked, sight);
  }

  /** What a server calls such a thing. */
  public String kind(Way way) {
    boolean safe = access.sights().kept().containsKey(way.node());
    return switch (tree.kind(way.node())) {
      case MATERIALIZED_VIEW -> "stored copy";
      case ROUTINE -> "routine";
      default -> safe ? "safe view" : "view";
    };
  }
}
