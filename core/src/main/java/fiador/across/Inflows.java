package fiador.across;

import fiador.across.Crossing.Crossed;
import fiador.across.Leg.Answer;
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
    return Leads.targets(atlas.around(target), target);
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
        if (Leads.to(around, from, each.getKey(), target, node)) {
          ways(around, from, each.getKey(), target, node, way, found);
        }
      }
    }
    way.remove(step);
    return found;
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
      Map<Led.Key, List<Reader>> alike = new LinkedHashMap<>();
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
    Map<Led.Key, List<Reader>> alike = new LinkedHashMap<>();
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

  /** Adds the ways, and those of people on further servers who come in as one of the readers. */
  private void put(
      Map<Led.Key, List<Reader>> alike,
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
}
