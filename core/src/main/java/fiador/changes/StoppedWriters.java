package fiador.changes;

import fiador.changes.PeopleEffects.Change;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.estate.Few;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.HouseRules.Ownership;
import fiador.policies.Seeing;
import java.time.Clock;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Who writes to a table and can no longer read it, because a safe view takes its readers over:
 * statements that have to look for what they change fail for them. Cost: the changes, and what
 * those users hold on those tables.
 */
final class StoppedWriters {
  private static final int NAMED = 4;

  private StoppedWriters() {}

  /** Adds a note for each such table. */
  static void tell(Access after, List<Change> effects, Clock clock, Collection<String> notes) {
    Seeing seeing = new Seeing(after);
    Holdings holdings = new Holdings(after, clock, false);
    Tree tree = after.tree();
    Map<Integer, Set<String>> stopped = new LinkedHashMap<>();
    Map<Integer, Set<String>> counting = new LinkedHashMap<>();
    boolean counts = after.rules().ownership() == Ownership.SCHEMA;
    for (Change change : effects) {
      boolean closed =
          change.privilege() == Privilege.SELECT
              && !change.isGain()
              && seeing.safeViewOf(change.node()) >= 0;
      for (Holding row : closed ? holdings.at(change.user(), change.node()) : List.<Holding>of()) {
        boolean writes = row.privilege() == Privilege.UPDATE || row.privilege() == Privilege.DELETE;
        if (writes && row.state().works()) {
          stopped
              .computeIfAbsent(change.node(), none -> new TreeSet<>())
              .add(after.principals().name(change.user()));
        }
        if (counts && row.state().works()) {
          counting
              .computeIfAbsent(change.node(), none -> new TreeSet<>())
              .add(after.principals().name(change.user()));
        }
      }
    }
    stopped.forEach(
        (table, users) ->
            notes.add(
                tree.path(table)
                    + " can be read through its safe view only: an update or delete with a condition"
                    + " fails from then on for "
                    + Few.of(users, NAMED)));
    counting.forEach(
        (table, users) ->
            notes.add(
                tree.path(table)
                    + " is closed, but "
                    + after.rules().server()
                    + " lets whoever holds any right on it count its rows: "
                    + Few.of(users, NAMED)));
  }
}
