package fiador.policies;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Reads;
import fiador.grants.Sights;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Finds who gets round policies: reads a table that is filtered or masked for him without the
 * filter or the mask, because he may read the table itself, or a view that reads it with somebody
 * else's rights. A view counts as showing every column it reads. Cost: the views above the tables
 * with policies, and the holders of each.
 */
public final class Bypass {
  private final Access access;
  private final Tree tree;
  private final Seeing seeing;
  private final Holders holders;
  private final Map<Integer, IntArrayList> readers = new LinkedHashMap<>();

  /** On that server; the clock as for {@link Holders}. */
  public Bypass(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.seeing = new Seeing(access);
    this.holders = new Holders(access, clock);
    Reads reads = access.reads();
    for (int view = 0; view < tree.size(); view++) {
      if (tree.kind(view) == NodeKind.VIEW || tree.kind(view) == NodeKind.MATERIALIZED_VIEW) {
        for (int row : reads.byView().run(view)) {
          readers.computeIfAbsent(reads.under()[row], none -> new IntArrayList()).add(view);
        }
      }
    }
  }

  /**
   * A way round policies.
   *
   * @param table the table that has them
   * @param path the table itself, or the views from the one that is read down to it
   * @param rows whether rows come back that the policies hide from those users
   * @param columns the names of columns whose values come back unmasked
   * @param users who can, and would be hindered otherwise
   * @param powerful those of them whom nothing stops: superusers, and who owns the table
   */
  public record Way(
      int table,
      List<Integer> path,
      boolean rows,
      List<String> columns,
      List<Integer> users,
      List<Integer> powerful) {}

  /** All ways round the policies of all tables. */
  public List<Way> ways() {
    List<Way> found = new ArrayList<>();
    new TreeMap<>(access.sights().kept())
        .forEach(
            (node, kept) -> {
              boolean throughView = node != kept.table();
              if (throughView || seeing.safeViewOf(kept.table()) < 0) {
                found.addAll(of(kept.table(), node, throughView));
              }
            });
    access
        .sights()
        .filters()
        .forEach(
            (table, filter) -> {
              if (filter.enabled() && !access.sights().kept().containsKey(table)) {
                found.addAll(of(table, table, false));
              }
            });
    return found;
  }

  /**
   * The ways round one table's policies.
   *
   * @param guard the table, or the view through which it is meant to be read
   */
  private List<Way> of(int table, int guard, boolean throughView) {
    List<Way> found = new ArrayList<>();
    BitSet all = new BitSet();
    all.set(0, tree.columns(table));
    Way direct = throughView ? way(table, guard, List.of(table), all) : null;
    if (direct != null) {
      found.add(direct);
    }
    above(table, guard, List.of(table), all, new IntOpenHashSet(new int[] {guard, table}), found);
    return found;
  }

  /** Views of views: each shows on what it reads. */
  private void above(
      int table,
      int guard,
      List<Integer> path,
      BitSet columns,
      IntOpenHashSet seen,
      List<Way> found) {
    int under = path.get(0);
    for (int view : readers.getOrDefault(under, new IntArrayList()).toIntArray()) {
      if (tree.isSystem(view) || !seen.add(view) || !opens(view, table)) {
        continue;
      }
      List<Integer> longer = new ArrayList<>(List.of(view));
      longer.addAll(path);
      BitSet shown = under == table ? read(view, table, columns) : columns;
      Way way = way(table, guard, List.copyOf(longer), shown);
      if (way != null) {
        found.add(way);
      }
      above(table, guard, longer, shown, seen, found);
    }
  }

  private BitSet read(int view, int table, BitSet columns) {
    BitSet found = new BitSet();
    Reads reads = access.reads();
    for (int row : reads.byView().run(view)) {
      if (reads.under()[row] == table) {
        if (reads.columns()[row] == ColumnSets.WHOLE) {
          return columns;
        }
        for (int ordinal : access.columnSets().ordinals(reads.columns()[row])) {
          found.set(ordinal);
        }
      }
    }
    return found;
  }

  /** Whether a view reads with rights for which the table's policies do not count. */
  private boolean opens(int view, int table) {
    if (tree.is(view, NodeFact.INVOKER) || access.sights().kept().containsKey(view)) {
      return false;
    }
    Sights.Filter filter = access.sights().filters().get(table);
    int owner = tree.owner(view);
    if (filter == null || !filter.enabled() || owner < 0) {
      return true;
    }
    Seeing.Answer answer = seeing.of(owner, table);
    // rules that ask for the session's user go on counting under somebody else's view
    return answer == null || answer.exempt() != null;
  }

  private Way way(int table, int guard, List<Integer> path, BitSet columns) {
    List<Integer> users = new ArrayList<>();
    List<Integer> powerful = new ArrayList<>();
    boolean rows = false;
    java.util.Set<String> clear = new java.util.TreeSet<>();
    for (Holding holding : holders.of(path.get(0))) {
      boolean open = holding.state() == State.LIVE || holding.state() == State.ON_REQUEST;
      if (holding.privilege() != Privilege.SELECT || !open || users.contains(holding.user())) {
        continue;
      }
      Seeing.Answer meant = seeing.of(holding.user(), guard);
      if (meant == null || meant.exempt() != null) {
        continue;
      }
      BitSet shown = (BitSet) columns.clone();
      if (path.size() == 1 && holding.columns() != null) {
        shown.and(holding.columns());
      }
      List<String> unmasked =
          meant.seen().masks().keySet().stream()
              .filter(name -> shown.get(tree.columnNamed(table, name)))
              .toList();
      boolean hidden = !meant.isKnown() || !meant.seen().allRows();
      if (hidden || !unmasked.isEmpty()) {
        rows |= hidden;
        clear.addAll(unmasked);
        users.add(holding.user());
        if (seeing.isSuperuser(holding.user()) || isOwner(holding.user(), table)) {
          powerful.add(holding.user());
        }
      }
    }
    return users.isEmpty() ? null : new Way(table, path, rows, List.copyOf(clear), users, powerful);
  }

  private boolean isOwner(int user, int table) {
    int schema = tree.enclosing(table, NodeKind.SCHEMA);
    return tree.owner(table) == user || schema >= 0 && tree.owner(schema) == user;
  }
}
