package fiador.effects;

import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What brings the holders of a node their rights, seen from the node: each grant on it and on what
 * it lies in, its owner, and powers; with how many users each of them reaches.
 */
public final class SourceCounts {
  private final Access access;
  private final RoleWalk walk;

  /** On that server; the clock as for {@link Holdings}. */
  public SourceCounts(Access access, Clock clock) {
    this.access = access;
    this.walk = new RoleWalk(access, clock.instant().getEpochSecond());
  }

  /**
   * Something that gives rights on a node.
   *
   * @param to who has it: a role, everybody, or a user; below zero for users who have the same
   *     directly, each by itself
   * @param source one source of its kind: a grant, ownership, a power
   * @param on where a grant stands or what is owned; the node itself where a power opens it
   * @param columns what it is limited to, or null
   * @param users how many holders come through it, at once or after switching to a role; one may
   *     come through several
   */
  public record Counted(
      int to, Source source, int on, long privileges, @Nullable BitSet columns, int users) {}

  /** Below zero: no principal, but users who have something directly. */
  public static final int DIRECTLY = -1;

  private record Place(int to, Class<?> kind, Object of, int columns) {}

  /** Sources that are one: a source, all its privileges, and those who have it. */
  private static final class Sum {
    private final Source source;
    private final boolean passesOn;
    private final IntArrayList starts = new IntArrayList();
    private long privileges;

    Sum(Source source, boolean passesOn) {
      this.source = source;
      this.passesOn = passesOn;
    }
  }

  /**
   * What gives rights on a node, what most users come through first; such as nobody among the
   * holders comes through is left out. Cost: for each privilege, the grants on the node and what it
   * lies in; for each source, the memberships below it.
   *
   * @param column an ordinal, or below zero for any part of it
   * @param holders the users who hold something on it
   */
  public List<Counted> of(int node, int column, IntSet holders) {
    Map<Place, Sum> sums = new LinkedHashMap<>();
    GrantsOn grants = new GrantsOn(access, new ComingDown(access), node);
    for (Privilege privilege : Privilege.values()) {
      int part = column < 0 ? Sources.ANY_PART : column;
      Sources sources = new Sources(access, grants, privilege.bit(), node, part);
      for (int principal : sources.all()) {
        for (Source source : sources.passedOnBy(principal)) {
          sum(source, principal, true, sums).privileges |= privilege.bit();
        }
        for (Source source : sources.ownOf(principal)) {
          sum(source, principal, false, sums).privileges |= privilege.bit();
        }
      }
    }
    Map<List<Object>, Sum> alike = new LinkedHashMap<>();
    sums.forEach(
        (place, sum) -> {
          Place shared = new Place(shared(place.to()), place.kind(), place.of(), place.columns());
          List<Object> key = List.of(shared, sum.privileges);
          Sum all = alike.computeIfAbsent(key, fresh -> new Sum(sum.source, sum.passesOn));
          all.privileges = sum.privileges;
          all.starts.add(place.to());
        });
    List<Counted> found = new ArrayList<>();
    alike.forEach(
        (key, sum) -> {
          int users = users(sum, holders);
          if (users > 0) {
            found.add(counted((Place) key.get(0), sum, node, users));
          }
        });
    found.sort(Comparator.comparingInt(Counted::users).reversed().thenComparingInt(Counted::to));
    return found;
  }

  private Sum sum(Source source, int to, boolean passesOn, Map<Place, Sum> sums) {
    Place place = new Place(to, source.getClass(), what(source), columns(source));
    return sums.computeIfAbsent(place, fresh -> new Sum(source, passesOn));
  }

  private int shared(int principal) {
    boolean user = principal != Principals.PUBLIC && access.principals().isUser(principal);
    return user ? DIRECTLY : principal;
  }

  private Object what(Source source) {
    if (source instanceof Source.Granted granted) {
      return access.grants().node(granted.row());
    } else if (source instanceof Source.Owned owned) {
      return owned.node();
    }
    return ((Source.Powered) source).power();
  }

  private int columns(Source source) {
    return source instanceof Source.Granted granted
        ? access.grants().columns(granted.row())
        : ColumnSets.WHOLE;
  }

  private int users(Sum sum, IntSet holders) {
    if (sum.starts.contains(Principals.PUBLIC)) {
      return holders.size();
    }
    BitSet through = new BitSet();
    IntArrayList having = sum.passesOn ? walk.down(sum.starts, RoleWalk.Along.INHERIT) : sum.starts;
    IntArrayList all = walk.down(having, RoleWalk.Along.SET);
    for (int i = 0; i < all.size(); i++) {
      count(all.getInt(i), holders, through);
    }
    return through.cardinality();
  }

  /** What was given to one account may count for others of its name. */
  private void count(int principal, IntSet holders, BitSet through) {
    if (holders.contains(principal)) {
      through.set(principal);
    }
    if (access.accounts() != null) {
      for (int other : access.accounts().countingFor(principal)) {
        if (holders.contains(other)) {
          through.set(other);
        }
      }
    }
  }

  private Counted counted(Place place, Sum sum, int node, int users) {
    boolean single = place.to() == DIRECTLY && sum.starts.size() == 1;
    int to = single ? sum.starts.getInt(0) : place.to();
    int on = place.of() instanceof Integer where ? where : node;
    BitSet columns = null;
    if (place.columns() != ColumnSets.WHOLE) {
      columns = new BitSet();
      for (int ordinal : access.columnSets().ordinals(place.columns())) {
        columns.set(ordinal);
      }
    }
    return new Counted(to, sum.source, on, sum.privileges, columns, users);
  }
}
