package fiador.across;

import fiador.across.Crossing.Crossed;
import fiador.across.Leg.Answer;
import fiador.across.Leg.Why;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.policies.AnyWay;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Who reads a table from other servers, through foreign tables there and the views above them. The
 * server itself only sees the login that is used. Cost: the foreign tables of all servers, and of
 * those that lead here the holders, each followed.
 */
public final class Inflows {
  /** As for {@link Steps}. */
  private static final int MOST = 200;

  private final Atlas atlas;
  private final Clock clock;
  private int left;

  /** Among the servers of an atlas; the clock as for {@link Holders}. */
  public Inflows(Atlas atlas, Clock clock) {
    this.atlas = atlas;
    this.clock = clock;
  }

  /**
   * A server on the way.
   *
   * @param at the server
   * @param path from what is used there, a view or the foreign table, down to the foreign table
   * @param login the account with which the next server is asked, by its id there; -1 where the
   *     survey was not shown which
   */
  public record Hop(Access at, List<Integer> path, int login) {}

  /**
   * Somebody who reads from elsewhere.
   *
   * @param user by their id on the first server of the way
   * @param state at once or after switching a role on
   * @param answer whether rows come, or nobody can say
   */
  public record Reader(int user, State state, Answer answer) {}

  /**
   * A way to a table from another server.
   *
   * @param hops from where people are to the last server before the table's
   * @param columns ordinals of the table's columns whose values come, as they are or worked out
   * @param readers who can
   */
  public record Inflow(List<Hop> hops, BitSet columns, List<Reader> readers) {
    /** The account that the table's server sees. */
    public int login() {
      return hops.get(hops.size() - 1).login();
    }

    /** Where the people are. */
    public Access from() {
      return hops.get(0).at();
    }
  }

  /** All ways to a table or view of a server of the atlas. */
  public List<Inflow> to(Access target, int node) {
    left = MOST;
    return to(target, node, new HashSet<>());
  }

  /**
   * The tables and views of a server to which foreign tables of others lead, in their order. Cost:
   * its things, and all foreign tables.
   */
  public List<Integer> targets(Access target) {
    Atlas around = atlas.around(target);
    Set<String> named = new HashSet<>();
    for (Access from : around.all()) {
      from.seen().abroad().tables().values().forEach(said -> named.add(said.name()));
    }
    List<Integer> found = new ArrayList<>();
    Tree tree = target.tree();
    for (int node = 0; !named.isEmpty() && node < tree.size(); node++) {
      boolean may = tree.columns(node) > 0 && named.contains(tree.name(node));
      if (may && isLedTo(around, target, node)) {
        found.add(node);
      }
    }
    return found;
  }

  private static boolean isLedTo(Atlas around, Access target, int node) {
    for (Access from : around.all()) {
      for (int table : from.seen().abroad().tables().keySet()) {
        if (leadsTo(around, from, table, target, node)) {
          return true;
        }
      }
    }
    return false;
  }

  /** Whether there were more ways than are followed, the last time somebody asked. */
  public boolean isCut() {
    return left < 0;
  }

  private record Seen(String server, int node) {}

  private List<Inflow> to(Access target, int node, Set<Seen> way) {
    List<Inflow> found = new ArrayList<>();
    if (--left < 0) {
      return found;
    }
    Seen step = new Seen(target.about().identity() + target.about().server(), node);
    Tree tree = target.tree();
    if (!tree.kind(node).isObject() || tree.columns(node) == 0 || !way.add(step)) {
      return found;
    }
    Atlas around = atlas.around(target);
    for (Access from : around.all()) {
      for (Map.Entry<Integer, Abroad.Table> each :
          new TreeMap<>(from.seen().abroad().tables()).entrySet()) {
        if (leadsTo(around, from, each.getKey(), target, node)) {
          ways(around, from, each.getKey(), target, node, way, found);
        }
      }
    }
    way.remove(step);
    return found;
  }

  /** Whether a foreign table is that table, whoever is asking. */
  private static boolean leadsTo(Atlas around, Access from, int table, Access target, int node) {
    Abroad abroad = from.seen().abroad();
    Abroad.Table said = abroad.table(table);
    Tree tree = target.tree();
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    int database = tree.enclosing(node, NodeKind.DATABASE);
    Abroad.Place place = abroad.places().get(said.place());
    return said.name().equals(tree.name(node))
        && schema >= 0
        && said.schema().equals(tree.name(schema))
        && (place.database().isEmpty()
            || database >= 0 && place.database().equals(tree.name(database)))
        && around.isAt(from, place, target);
  }

  private void ways(
      Atlas around,
      Access from,
      int table,
      Access target,
      int node,
      Set<Seen> way,
      List<Inflow> found) {
    Crossing crossing = new Crossing(from, around, clock);
    Led led = new Led(crossing, from, table, target, node);
    ways(led, table, way, found);
    // whoever reads a table reads the parts of it too
    for (int whole : from.seen().abroad().table(table).wholes()) {
      ways(led, whole, way, found);
    }
  }

  /** A foreign table that is that table of the target. */
  private record Led(Crossing crossing, Access from, int table, Access target, int node) {
    /** From what is used down to the foreign table. */
    List<Integer> path(List<Integer> down) {
      List<Integer> path = new ArrayList<>(down);
      if (path.get(path.size() - 1) != table) {
        path.add(table);
      }
      return path;
    }

    /**
     * Of a table of which this is a part, what comes by this one counts, whatever comes of others:
     * a question that keeps to it does not meet them.
     */
    Function<List<Leg>, Answer> counts(int read) {
      return read == table ? Steps::worst : this::best;
    }

    private Answer best(List<Leg> legs) {
      Answer best = Answer.CLOSED;
      for (Leg leg : legs) {
        best = leg.table() == table && leg.answer().compareTo(best) < 0 ? leg.answer() : best;
      }
      return best;
    }

    void add(
        Map<Key, List<Reader>> alike, @Nullable Crossed crossed, Reader reader, BitSet columns) {
      if (crossed == null || columns.isEmpty()) {
        return;
      }
      for (Leg leg : crossed.legs()) {
        boolean hidden = leg.why() == Why.LOGIN_NOT_SHOWN || leg.why() == Why.LOGIN_NOT_SAID;
        if (leg.table() == table && (hidden || leg.user() >= 0) && isSame(leg.there(), target)) {
          alike
              .computeIfAbsent(new Key(leg.user(), columns), fresh -> new ArrayList<>())
              .add(reader);
          return;
        }
      }
    }

    /** Columns of what is read, by their ordinals at the target. */
    BitSet there(int read, BitSet columns) {
      BitSet own = read == table ? columns : Steps.byName(from, read, columns, table);
      return Inflows.there(from, table, target, node, own);
    }
  }

  /**
   * Who comes by the foreign table itself or by a table of which it is a part, and by the views
   * above.
   */
  private void ways(Led led, int read, Set<Seen> way, List<Inflow> found) {
    Access from = led.from();
    Crossing crossing = led.crossing();
    direct(led, read, way, found);
    // somebody may have a right on the foreign table and no mapping, and come in by a view's owner
    for (AnyWay.Way other : new AnyWay(from, clock).ofAll(read)) {
      NodeKind kind = from.tree().kind(other.node());
      boolean copy = kind == NodeKind.MATERIALIZED_VIEW;
      if (kind != NodeKind.VIEW && !copy) {
        continue;
      }
      Crossed filled = copy ? crossing.filled(other.node(), led.counts(read)) : null;
      Map<Key, List<Reader>> alike = new LinkedHashMap<>();
      for (AnyWay.Reader reader : other.readers()) {
        BitSet columns = (BitSet) reader.asIs().clone();
        columns.or(reader.workedOut());
        columns.or(reader.masked());
        Crossed crossed =
            copy ? filled : crossing.some(reader.user(), other.node(), led.counts(read));
        State state = copy || crossed == null ? reader.state() : crossed.state();
        Reader who = new Reader(reader.user(), state, answer(crossed));
        led.add(alike, crossed, who, led.there(read, columns));
      }
      put(alike, from, led.path(other.path()), way, found);
    }
  }

  private static Answer answer(@Nullable Crossed crossed) {
    return crossed == null ? Answer.CLOSED : crossed.answer();
  }

  /** Who comes by what they read, with no view above it. */
  private void direct(Led led, int read, Set<Seen> way, List<Inflow> found) {
    Access from = led.from();
    Map<Key, List<Reader>> alike = new LinkedHashMap<>();
    Map<Integer, BitSet> held = new LinkedHashMap<>();
    for (Holding row : new Holders(from, clock).of(read)) {
      if (row.privilege() == Privilege.SELECT && row.state().works()) {
        BitSet columns = held.computeIfAbsent(row.user(), fresh -> new BitSet());
        if (row.columns() == null) {
          columns.set(0, from.tree().columns(read));
        } else {
          columns.or(row.columns());
        }
      }
    }
    held.forEach(
        (user, columns) -> {
          Crossed whole = led.crossing().read(user, read, None.COLUMN, led.counts(read));
          if (whole != null && whole.answer() != Answer.CLOSED) {
            Reader reader = new Reader(user, whole.state(), whole.answer());
            led.add(alike, whole, reader, led.there(read, columns));
            return;
          }
          Crossed some = null;
          BitSet open = new BitSet();
          for (int at = columns.nextSetBit(0); at >= 0; at = columns.nextSetBit(at + 1)) {
            Crossed one = led.crossing().read(user, read, at, led.counts(read));
            if (one != null && one.answer() != Answer.CLOSED) {
              some = one;
              open.set(at);
            }
          }
          if (some != null) {
            Reader reader = new Reader(user, some.state(), some.answer());
            led.add(alike, some, reader, led.there(read, open));
          }
        });
    put(alike, from, led.path(List.of(read)), way, found);
  }

  private record Key(int login, BitSet columns) {}

  private static boolean isSame(@Nullable Access one, Access other) {
    return one != null
        && one.about().server().equals(other.about().server())
        && one.about().identity().equals(other.about().identity());
  }

  /** Adds the ways, and those of people on further servers who come in as one of the readers. */
  private void put(
      Map<Key, List<Reader>> alike,
      Access from,
      List<Integer> path,
      Set<Seen> way,
      List<Inflow> found) {
    alike.forEach(
        (key, readers) ->
            found.add(
                new Inflow(
                    List.of(new Hop(from, path, key.login())),
                    key.columns(),
                    List.copyOf(readers))));
    if (alike.isEmpty()) {
      return;
    }
    for (Inflow further : to(from, path.get(0), way)) {
      alike.forEach(
          (key, readers) -> {
            boolean live =
                readers.stream()
                    .anyMatch(each -> each.user() == further.login() && each.state() == State.LIVE);
            if (live) {
              List<Hop> hops = new ArrayList<>(further.hops());
              hops.add(new Hop(from, path, key.login()));
              found.add(new Inflow(List.copyOf(hops), key.columns(), further.readers()));
            }
          });
    }
  }

  /** Columns of the foreign table, by their ordinals there. */
  private static BitSet there(Access from, int table, Access target, int node, BitSet columns) {
    Abroad.Table said = from.seen().abroad().table(table);
    BitSet found = new BitSet();
    for (int at = columns.nextSetBit(0); at >= 0; at = columns.nextSetBit(at + 1)) {
      String name = said.columns().getOrDefault(at, from.tree().column(table, at));
      int ordinal = target.tree().columnNamed(node, name);
      if (ordinal >= 0) {
        found.set(ordinal);
      }
    }
    return found;
  }
}
