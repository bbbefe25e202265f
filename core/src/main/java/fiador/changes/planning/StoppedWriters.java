package fiador.changes.planning;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.Few;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import fiador.policies.Seeing;
import fiador.policies.UnderName;
import java.time.Clock;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Who writes to a table and can no longer read it, because a safe view takes its readers over:
 * statements that have to look for what they change fail for them, all of them or those that look
 * at masked columns. Cost: the changes, and what those users hold on those tables.
 */
public final class StoppedWriters {
  private static final int NAMED = 4;

  private StoppedWriters() {}

  /** Adds a note for each such table. */
  public static void tell(
      Access after, List<Change> effects, Clock clock, Collection<String> notes) {
    Seeing seeing = new Seeing(after);
    Holdings holdings = new Holdings(after, clock, false);
    Tree tree = after.tree();
    Map<Integer, Set<String>> stopped = new LinkedHashMap<>();
    Map<Integer, Set<String>> hindered = new LinkedHashMap<>();
    Map<Integer, Set<String>> counting = new LinkedHashMap<>();
    Collection<Integer> writtenThrough =
        after.rules().has(HouseFact.WRITES_THROUGH_VIEWS)
            ? UnderName.tables(after).values()
            : List.of();
    boolean counts = after.rules().has(HouseFact.ANY_RIGHT_COUNTS_ROWS);
    for (Change change : effects) {
      boolean closed =
          change.privilege() == Privilege.SELECT
              && !change.isGain()
              && seeing.safeViewOf(change.node()) >= 0
              && !writtenThrough.contains(change.node());
      List<Holding> held = closed ? working(holdings, change) : List.of();
      String name = after.principals().name(change.user());
      if (held.stream().anyMatch(StoppedWriters::writes)) {
        boolean reads = held.stream().anyMatch(row -> row.privilege() == Privilege.SELECT);
        (reads ? hindered : stopped)
            .computeIfAbsent(change.node(), none -> new TreeSet<>())
            .add(name);
      }
      if (counts && !held.isEmpty() && hidesRows(seeing, change)) {
        counting.computeIfAbsent(change.node(), none -> new TreeSet<>()).add(name);
      }
    }
    stopped.forEach(
        (table, users) ->
            notes.add(
                tree.path(table)
                    + " can be read through its safe view only: an update or delete with a condition"
                    + " fails from then on for "
                    + Few.of(users, NAMED)));
    hindered.forEach(
        (table, users) ->
            notes.add(
                tree.path(table)
                    + " itself can be read in its unmasked columns only: an update or delete that looks"
                    + " at a masked one fails from then on for "
                    + Few.of(users, NAMED)));
    counting.forEach(
        (table, users) ->
            notes.add(
                tree.path(table)
                    + " is closed, but "
                    + after.rules().kind()
                    + " lets whoever holds any right on it count its rows: "
                    + Few.of(users, NAMED)));
  }

  private static boolean hidesRows(Seeing seeing, Change change) {
    Seeing.Answer answer = seeing.of(change.user(), seeing.safeViewOf(change.node()));
    return answer != null && !answer.seen().allRows();
  }

  private static List<Holding> working(Holdings holdings, Change change) {
    return holdings.at(change.user(), change.node()).stream()
        .filter(row -> row.state().works())
        .toList();
  }

  private static boolean writes(Holding row) {
    return row.privilege() == Privilege.UPDATE || row.privilege() == Privilege.DELETE;
  }
}
