package fiador.repairs;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/**
 * The fewest roles that give each user exactly what they have: a smallest cover of a matrix of
 * users and privileges by full rectangles.
 *
 * <p>Finding it is as hard as covering a graph with the fewest cliques, whose points are the cells
 * of the matrix, joined where one rectangle can hold both. Two steps are always right and mostly
 * enough: a cell whose neighbours are all joined with each other makes a role with them; a cell
 * whose neighbours include all those of another is covered along with that one (Ene, Horne,
 * Milosavljevic, Rao, Schreiber, Tarjan: Fast exact and heuristic methods for role minimization
 * problems, SACMAT 2008). Where neither applies, a large rectangle is taken and all is tried again,
 * several times over in other orders. Cells of which no two fit one rectangle need a role each;
 * that bounds the number from below.
 *
 * <p>Users alike and privileges alike are taken together first. Cost of a round: the cells left,
 * times the users of each cell's privilege.
 */
final class RoleCover {
  private static final int TRIES = 24;
  private static final long WORK = 300_000_000L;

  /**
   * A cover.
   *
   * @param roles what each role gives and who gets it
   * @param atLeast no cover has fewer roles
   */
  record Cover(List<Role> roles, int atLeast) {}

  /** A role: all its privileges are held by all its users. */
  record Role(BitSet privileges, BitSet users) {}

  private final List<BitSet> rows = new ArrayList<>();
  private final List<BitSet> columns = new ArrayList<>();
  private final List<BitSet> usersOfRow = new ArrayList<>();
  private final List<BitSet> privilegesOfColumn = new ArrayList<>();
  private List<BitSet> open;
  private List<int[]> dominated;
  private List<Role> chosen;
  private int independent;
  private long work;

  private RoleCover(List<BitSet> held) {
    List<BitSet> bare = new ArrayList<>();
    Map<BitSet, Integer> known = new LinkedHashMap<>();
    for (int user = 0; user < held.size(); user++) {
      if (!held.get(user).isEmpty()) {
        int row = known.computeIfAbsent(held.get(user), fresh -> known.size());
        if (row == bare.size()) {
          bare.add(held.get(user));
          usersOfRow.add(new BitSet());
        }
        usersOfRow.get(row).set(user);
      }
    }
    Map<Integer, BitSet> holders = new LinkedHashMap<>();
    for (int row = 0; row < bare.size(); row++) {
      int at = row;
      bare.get(row).stream()
          .forEach(one -> holders.computeIfAbsent(one, fresh -> new BitSet()).set(at));
    }
    Map<BitSet, Integer> alike = new HashMap<>();
    holders.forEach(
        (privilege, who) -> {
          int column = alike.computeIfAbsent(who, fresh -> alike.size());
          if (column == columns.size()) {
            columns.add(who);
            privilegesOfColumn.add(new BitSet());
          }
          privilegesOfColumn.get(column).set(privilege);
        });
    for (int row = 0; row < bare.size(); row++) {
      BitSet mine = new BitSet();
      for (int column = 0; column < columns.size(); column++) {
        mine.set(column, columns.get(column).get(row));
      }
      rows.add(mine);
    }
  }

  /**
   * Covers a matrix.
   *
   * @param held the privileges of each user
   */
  static Cover of(List<BitSet> held) {
    return new RoleCover(held).find();
  }

  private Cover find() {
    List<Role> best = null;
    int atLeast = 0;
    for (int attempt = 0; attempt < TRIES && work < WORK; attempt++) {
      Random random = attempt == 0 ? null : new Random(attempt);
      start();
      boolean bounded = false;
      reduce();
      while (!isDone()) {
        if (!bounded && attempt == 0) {
          atLeast = independent + independentRest();
          bounded = true;
        }
        take(large(random));
        reduce();
      }
      atLeast = bounded || attempt > 0 ? atLeast : independent;
      if (best == null || chosen.size() < best.size()) {
        best = new ArrayList<>(chosen);
      }
      if (best.size() <= atLeast) {
        break;
      }
    }
    return new Cover(tidied(best), atLeast);
  }

  private void start() {
    open = new ArrayList<>();
    rows.forEach(row -> open.add((BitSet) row.clone()));
    dominated = new ArrayList<>();
    chosen = new ArrayList<>();
    independent = 0;
  }

  private boolean isDone() {
    return open.stream().allMatch(BitSet::isEmpty);
  }

  /** A set of open cells as its rows and columns. */
  private record Near(BitSet rows, BitSet columns) {}

  /** The open cells that fit into one rectangle with a cell, itself among them. */
  private Near near(int row, int column) {
    BitSet inRows = new BitSet();
    BitSet inColumns = new BitSet();
    BitSet mine = rows.get(row);
    BitSet who = columns.get(column);
    for (int other = who.nextSetBit(0); other >= 0; other = who.nextSetBit(other + 1)) {
      work += 1 + mine.size() / 64;
      if (open.get(other).intersects(mine)) {
        inRows.set(other);
        BitSet both = (BitSet) open.get(other).clone();
        both.and(mine);
        inColumns.or(both);
      }
    }
    return new Near(inRows, inColumns);
  }

  private static boolean hasAll(BitSet all, BitSet some) {
    BitSet rest = (BitSet) some.clone();
    rest.andNot(all);
    return rest.isEmpty();
  }

  /** Does what is always right, until nothing of it can be done. */
  private void reduce() {
    boolean changed = true;
    while (changed) {
      changed = false;
      for (int row = 0; row < rows.size(); row++) {
        for (int column = open.get(row).nextSetBit(0);
            column >= 0;
            column = open.get(row).nextSetBit(column + 1)) {
          changed |= reduce(row, column);
        }
      }
    }
  }

  private boolean reduce(int row, int column) {
    Near near = near(row, column);
    BitSet fullRows = new BitSet();
    near.rows().stream()
        .filter(other -> hasAll(rows.get(other), near.columns()))
        .forEach(fullRows::set);
    if (fullRows.equals(near.rows())) {
      independent++;
      take(near);
      return true;
    }
    BitSet fullColumns = new BitSet();
    near.columns().stream()
        .filter(other -> hasAll(columns.get(other), near.rows()))
        .forEach(fullColumns::set);
    boolean changed = false;
    for (int other = fullRows.nextSetBit(0); other >= 0; other = fullRows.nextSetBit(other + 1)) {
      BitSet going = (BitSet) open.get(other).clone();
      going.and(fullColumns);
      if (other == row) {
        going.clear(column);
      }
      int at = other;
      going.stream().forEach(gone -> dominated.add(new int[] {row, column, at, gone}));
      open.get(other).andNot(going);
      changed |= !going.isEmpty();
    }
    return changed;
  }

  /** Makes a role of a rectangle's open cells, with all that were to be covered along with them. */
  private void take(Near near) {
    Map<Integer, BitSet> cells = new HashMap<>();
    BitSet inColumns = new BitSet();
    for (int row = near.rows().nextSetBit(0); row >= 0; row = near.rows().nextSetBit(row + 1)) {
      BitSet mine = (BitSet) near.columns().clone();
      mine.and(open.get(row));
      if (!mine.isEmpty()) {
        cells.put(row, mine);
        inColumns.or(mine);
      }
    }
    BitSet inRows = new BitSet();
    cells.keySet().forEach(inRows::set);
    cells.forEach((row, mine) -> open.get(row).andNot(mine));
    // later ones first: what one brings along was still in the graph when the one before it went
    for (int i = dominated.size() - 1; i >= 0; i--) {
      int[] pair = dominated.get(i);
      BitSet by = cells.get(pair[0]);
      if (by != null && by.get(pair[1])) {
        cells.computeIfAbsent(pair[2], fresh -> new BitSet()).set(pair[3]);
        inRows.set(pair[2]);
        inColumns.set(pair[3]);
      }
    }
    BitSet privileges = new BitSet();
    inColumns.stream().forEach(column -> privileges.or(privilegesOfColumn.get(column)));
    BitSet users = new BitSet();
    inRows.stream().forEach(row -> users.or(usersOfRow.get(row)));
    chosen.add(new Role(privileges, users));
  }

  /** A rectangle with many open cells. */
  private Near large(Random random) {
    Near best = null;
    long most = -1;
    for (int row = 0; row < rows.size(); row++) {
      for (int column = open.get(row).nextSetBit(0);
          column >= 0;
          column = open.get(row).nextSetBit(column + 1)) {
        Near grown = grown(row, column);
        long cells = 0;
        for (int at = grown.rows().nextSetBit(0); at >= 0; at = grown.rows().nextSetBit(at + 1)) {
          BitSet both = (BitSet) open.get(at).clone();
          both.and(grown.columns());
          cells += both.cardinality();
        }
        cells = random == null ? cells * 4 : cells * 4 + random.nextInt(12);
        if (cells > most) {
          most = cells;
          best = grown;
        }
        if (random != null && random.nextInt(4) == 0) {
          // not every cell has to be a start every time
          column = Math.max(column, open.get(row).length() - 2);
        }
      }
    }
    return best;
  }

  /** Grows a rectangle from a cell, each time by the row that loses the fewest open cells. */
  private Near grown(int row, int column) {
    BitSet inRows = new BitSet();
    inRows.set(row);
    BitSet inColumns = (BitSet) rows.get(row).clone();
    BitSet left = (BitSet) columns.get(column).clone();
    left.clear(row);
    long cells = count(inRows, inColumns);
    while (!left.isEmpty()) {
      int next = -1;
      long most = cells - 1;
      BitSet narrowed = null;
      for (int other = left.nextSetBit(0); other >= 0; other = left.nextSetBit(other + 1)) {
        BitSet both = (BitSet) inColumns.clone();
        both.and(rows.get(other));
        work += 1 + both.size() / 64;
        inRows.set(other);
        long now = count(inRows, both);
        inRows.clear(other);
        if (now > most) {
          most = now;
          next = other;
          narrowed = both;
        }
      }
      if (next < 0) {
        break;
      }
      inRows.set(next);
      left.clear(next);
      inColumns = narrowed;
      cells = most;
    }
    return new Near(inRows, inColumns);
  }

  private long count(BitSet inRows, BitSet inColumns) {
    long cells = 0;
    for (int row = inRows.nextSetBit(0); row >= 0; row = inRows.nextSetBit(row + 1)) {
      BitSet both = (BitSet) inColumns.clone();
      both.and(open.get(row));
      cells += both.cardinality();
    }
    return cells;
  }

  /** How many of the open cells can be found of which no two fit into one rectangle. */
  private int independentRest() {
    List<BitSet> rest = new ArrayList<>();
    open.forEach(row -> rest.add((BitSet) row.clone()));
    int found = 0;
    while (true) {
      int bestRow = -1;
      int bestColumn = -1;
      long fewest = Long.MAX_VALUE;
      for (int row = 0; row < rows.size(); row++) {
        BitSet cells = rest.get(row);
        for (int column = cells.nextSetBit(0); column >= 0; column = cells.nextSetBit(column + 1)) {
          long near = 0;
          BitSet who = columns.get(column);
          for (int other = who.nextSetBit(0); other >= 0; other = who.nextSetBit(other + 1)) {
            BitSet both = (BitSet) rest.get(other).clone();
            both.and(rows.get(row));
            near += both.cardinality();
          }
          if (near < fewest) {
            fewest = near;
            bestRow = row;
            bestColumn = column;
          }
        }
      }
      if (bestRow < 0) {
        return found;
      }
      found++;
      int row = bestRow;
      columns.get(bestColumn).stream().forEach(other -> rest.get(other).andNot(rows.get(row)));
    }
  }

  /** Gives a user no role whose privileges they have from their other roles anyhow. */
  // two roles may give the same to the same users
  @SuppressWarnings("ReferenceEquality")
  private List<Role> tidied(List<Role> roles) {
    List<Role> tidy = new ArrayList<>();
    roles.forEach(role -> tidy.add(new Role(role.privileges(), (BitSet) role.users().clone())));
    BitSet everybody = new BitSet();
    usersOfRow.forEach(everybody::or);
    everybody.stream()
        .forEach(
            user -> {
              for (Role role : tidy) {
                if (role.users().get(user)) {
                  BitSet others = new BitSet();
                  tidy.stream()
                      .filter(other -> other != role && other.users().get(user))
                      .forEach(other -> others.or(other.privileges()));
                  role.users().set(user, !hasAll(others, role.privileges()));
                }
              }
            });
    tidy.removeIf(role -> role.users().isEmpty());
    return tidy;
  }
}
