package fiador.changes.outcome;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights.Kept;
import fiador.policies.Seeing;
import fiador.policies.UnderName;
import fiador.predicates.Expression;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * What a change does to the rows and values that people see of tables with policies, before or
 * after it. Cost: those tables, times who may read them.
 */
public final class SightEffects {
  private SightEffects() {}

  /**
   * How somebody sees a table.
   *
   * @param rows which rows, with what is known of the user put in
   * @param masks what stands in place of values, by column: in rows in which one lets the value
   *     through the next is tried
   * @param known whether that is all that decides; else the server has rules nobody understands
   */
  public record Look(Expression rows, Map<String, List<Mask>> masks, boolean known) {
    /** All of it. */
    public static final Look ALL = new Look(Expression.TRUE, Map.of(), true);

    /** Whether no row is shown, whatever it holds. */
    public boolean isNothing() {
      return rows.equals(Expression.FALSE) || rows.equals(Expression.UNKNOWN);
    }
  }

  /**
   * What stands in place of a value.
   *
   * @param shows as a charter writes it
   * @param clear the rows in which the value comes through; FALSE for none
   */
  public record Mask(String shows, Expression clear) {}

  /**
   * Somebody sees a table otherwise.
   *
   * @param table the table, or the view that has its name before or after
   * @param was null where they could not read it
   * @param is null where they no longer can
   */
  public record Change(int user, int table, Look was, Look is) {}

  /**
   * All changes, by table and user.
   *
   * @param effects what happens to their rights
   */
  public static List<Change> of(
      Access before, Outcome.Result outcome, List<PeopleEffects.Change> effects, Clock clock) {
    Access after = outcome.after();
    Set<Integer> tables = tables(before, after);
    if (outcome.onlyRights()) {
      // what a table shows to whom stays the same, so only who reads it can change
      Seeing seeing = new Seeing(before);
      Set<Integer> read = new HashSet<>();
      effects.stream()
          .filter(effect -> effect.privilege() == Privilege.SELECT)
          .forEach(effect -> read.add(effect.node()));
      tables.removeIf(
          table ->
              !read.contains(table)
                  && seeing.safeViewsOf(table).stream().noneMatch(read::contains));
    }
    if (tables.isEmpty()) {
      return List.of();
    }
    Eyes then = new Eyes(before, clock);
    Eyes now = new Eyes(after, clock);
    Map<Integer, Integer> known = new HashMap<>();
    for (Access each : List.of(before, after)) {
      UnderName.tables(each).forEach((view, table) -> known.put(table, view));
    }
    List<Change> found = new ArrayList<>();
    for (int table : tables) {
      Map<Integer, Look> was = then.of(table);
      Map<Integer, Look> is = now.of(table);
      Set<Integer> users = new TreeSet<>(was.keySet());
      users.addAll(is.keySet());
      for (int user : users) {
        if (!Objects.equals(was.get(user), is.get(user))) {
          int name = known.getOrDefault(table, table);
          found.add(new Change(user, name, was.get(user), is.get(user)));
        }
      }
    }
    return found;
  }

  /** The tables with policies, before or after. */
  public static Set<Integer> tables(Access before, Access after) {
    Set<Integer> tables = new TreeSet<>();
    for (Access each : List.of(before, after)) {
      for (Kept kept : each.sights().kept().values()) {
        tables.add(kept.table());
      }
      tables.addAll(each.sights().filters().keySet());
    }
    return tables;
  }

  /** Who sees what at one time. */
  public static final class Eyes {
    private final Holders holders;
    private final Seeing seeing;
    private final Tree tree;

    public Eyes(Access access, Clock clock) {
      this.holders = new Holders(access, clock);
      this.seeing = new Seeing(access);
      this.tree = access.tree();
    }

    /** Who reads a table, itself or through its safe view, and how. */
    public Map<Integer, Look> of(int table) {
      Map<Integer, Look> looks = new TreeMap<>();
      for (int safe : seeing.safeViewsOf(table)) {
        for (int user : readers(safe).keySet()) {
          looks.merge(user, look(user, safe), (one, other) -> one.isNothing() ? other : one);
        }
      }
      readers(table)
          .forEach(
              (user, columns) -> {
                if (!looks.containsKey(user) || seeing.getsRound(user, table, columns)) {
                  looks.put(user, look(user, table));
                }
              });
      return looks;
    }

    /** Who reads it, and which of its columns. */
    private Map<Integer, BitSet> readers(int node) {
      Map<Integer, BitSet> users = new TreeMap<>();
      for (Holding holding : holders.of(node)) {
        if (holding.privilege() == Privilege.SELECT && holding.state().works()) {
          BitSet columns = users.computeIfAbsent(holding.user(), none -> new BitSet());
          if (holding.columns() == null) {
            columns.set(0, tree.columns(node));
          } else {
            columns.or(holding.columns());
          }
        }
      }
      return users;
    }

    private Look look(int user, int node) {
      Seeing.Answer answer = seeing.of(user, node);
      if (answer == null || answer.exempt() != null) {
        return Look.ALL;
      }
      Map<String, List<Mask>> masks = new HashMap<>();
      answer
          .seen()
          .masks()
          .forEach(
              (column, acting) ->
                  masks.put(
                      column,
                      acting.stream()
                          .map(one -> new Mask(one.mask().mask().text(), one.clear()))
                          .toList()));
      return new Look(answer.seen().condition(), Map.copyOf(masks), answer.isKnown());
    }
  }
}
