package fiador.policies;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.estate.NodeKind;
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
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Finds who gets round policies: reads a table that is filtered or masked for them without the
 * filter or the mask, because they may read the table itself, or a view or routine that reads it
 * with somebody else's rights. Cost: what lies above the tables with policies, and the holders of
 * each.
 */
public final class Bypass {
  private final Access access;
  private final Tree tree;
  private final Seeing seeing;
  private final Holders holders;
  private final Openings openings;

  /** On that server; the clock as for {@link Holders}. */
  public Bypass(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.seeing = new Seeing(access);
    this.holders = new Holders(access, clock);
    this.openings = new Openings(access, seeing);
  }

  /**
   * A way round policies.
   *
   * @param table the table that has them
   * @param path the table itself, or the views or the routine from the one that is used down to it
   * @param rows whether rows come back that the policies hide from those users
   * @param columns the names of columns whose values come back unmasked, or what is worked out of
   *     them
   * @param derived those of them of which only worked out values come back
   * @param users who can, and would be hindered otherwise
   * @param powerful those of them whom nothing stops: superusers, and who owns the table
   * @param owners those of them who own it and are no superusers
   */
  public record Way(
      int table,
      List<Integer> path,
      boolean rows,
      List<String> columns,
      List<String> derived,
      List<Integer> users,
      List<Integer> powerful,
      List<Integer> owners) {}

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
    List<Opening> all = new ArrayList<>();
    if (throughView) {
      all.add(new Opening(List.of(table), Flow.ofTable(tree, table)));
    }
    all.addAll(openings.of(table, guard));
    List<Way> found = new ArrayList<>();
    Way exempt = throughView ? null : exempt(table);
    if (exempt != null) {
      found.add(exempt);
    }
    for (Opening opening : all) {
      Way way = way(table, guard, opening);
      if (way != null) {
        found.add(way);
      }
    }
    return found;
  }

  /** Those for whom the server itself does not filter the table. */
  private Way exempt(int table) {
    List<Integer> users = new ArrayList<>();
    List<Integer> owners = new ArrayList<>();
    Opening itself = new Opening(List.of(table), Flow.ofTable(tree, table));
    for (int user : readers(itself).keySet()) {
      Seeing.Answer meant = seeing.of(user, table);
      if (meant != null && meant.exempt() != null) {
        users.add(user);
        if (!access.isSuperuser(user)) {
          owners.add(user);
        }
      }
    }
    return users.isEmpty()
        ? null
        : new Way(table, itself.path(), true, List.of(), List.of(), users, users, owners);
  }

  private Way way(int table, int guard, Opening opening) {
    List<Integer> users = new ArrayList<>();
    List<Integer> powerful = new ArrayList<>();
    List<Integer> owners = new ArrayList<>();
    boolean rows = false;
    Set<String> clear = new TreeSet<>();
    Set<String> derived = new TreeSet<>();
    for (Map.Entry<Integer, BitSet> reader : readers(opening).entrySet()) {
      int user = reader.getKey();
      Seeing.Answer meant = seeing.of(user, guard);
      if (meant == null || meant.exempt() != null) {
        continue;
      }
      Set<String> masked = meant.seen().masks().keySet();
      BitSet read = seeing.clear(user, opening.node(), reader.getValue());
      Set<String> asIs = named(table, opening.flow().clear(read), masked);
      Set<String> workedOut = named(table, opening.flow().derived(read), masked);
      boolean itself = opening.path().equals(List.of(table));
      boolean filtered = itself && guard != table && seeing.filters(user, table);
      boolean hidden = !meant.isKnown() || !meant.seen().allRows() && !filtered;
      if (hidden || !asIs.isEmpty() || !workedOut.isEmpty()) {
        rows |= hidden;
        clear.addAll(asIs);
        derived.addAll(workedOut);
        users.add(user);
        if (access.isSuperuser(user) || isOwner(user, table)) {
          powerful.add(user);
          if (!access.isSuperuser(user)) {
            owners.add(user);
          }
        }
      }
    }
    if (users.isEmpty()) {
      return null;
    }
    derived.removeAll(clear);
    clear.addAll(derived);
    return new Way(
        table,
        opening.path(),
        rows,
        List.copyOf(clear),
        List.copyOf(derived),
        users,
        powerful,
        owners);
  }

  /** Who may read or call it, and which of its columns. */
  private Map<Integer, BitSet> readers(Opening opening) {
    boolean routine = tree.kind(opening.node()) == NodeKind.ROUTINE;
    Privilege needed = routine ? Privilege.EXECUTE : Privilege.SELECT;
    Map<Integer, BitSet> found = new LinkedHashMap<>();
    for (Holding holding : holders.of(opening.node())) {
      boolean open = holding.state() == State.LIVE || holding.state() == State.ON_REQUEST;
      if (holding.privilege() == needed && open) {
        BitSet columns = found.computeIfAbsent(holding.user(), none -> new BitSet());
        if (holding.columns() == null) {
          columns.set(0, opening.flow().columns());
        } else {
          columns.or(holding.columns());
        }
      }
    }
    return found;
  }

  private Set<String> named(int table, BitSet columns, Set<String> among) {
    Set<String> names = new TreeSet<>(among);
    names.removeIf(name -> !columns.get(tree.columnNamed(table, name)));
    return names;
  }

  private boolean isOwner(int user, int table) {
    int schema = tree.enclosing(table, NodeKind.SCHEMA);
    return tree.owner(table) == user || schema >= 0 && tree.owner(schema) == user;
  }
}
