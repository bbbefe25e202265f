package fiador.changes.planning;

import fiador.changes.outcome.SightEffects;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.estate.Few;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.policies.Seeing;
import fiador.policies.UnderName;
import fiador.predicates.Expression;
import java.time.Clock;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Who adds or changes rows of a table and can then do so within other bounds than before, because a
 * policy is about what is written, too. Cost: the tables with policies, times who may write to
 * them.
 */
public final class BoundWriters {
  private static final int NAMED = 4;
  private static final Set<Privilege> WRITING = Set.of(Privilege.INSERT, Privilege.UPDATE);

  private BoundWriters() {}

  /**
   * Adds a note for each table on which somebody can write less than all rows, and could before.
   */
  public static void tell(Access before, Access after, Clock clock, Collection<String> notes) {
    Seeing then = new Seeing(before);
    Seeing now = new Seeing(after);
    Holders earlier = new Holders(before, clock);
    Holders later = new Holders(after, clock);
    Map<Integer, Integer> known = new HashMap<>();
    UnderName.tables(after).forEach((view, table) -> known.put(table, view));
    for (int table : SightEffects.tables(before, after)) {
      if (!now.bindsWriters(table)) {
        continue;
      }
      Set<Integer> both = writers(earlier, table);
      both.retainAll(writers(later, table));
      Set<String> bound = new TreeSet<>();
      for (int user : both) {
        Expression is = written(now, user, table);
        if (!is.equals(Expression.TRUE) && !is.equals(written(then, user, table))) {
          bound.add(after.principals().name(user));
        }
      }
      if (!bound.isEmpty()) {
        notes.add(
            after.tree().path(known.getOrDefault(table, table))
                + ": rows can then be added, and changed to, only as its policies show them to who"
                + " writes; new for "
                + Few.of(bound, NAMED));
      }
    }
  }

  private static Set<Integer> writers(Holders holders, int table) {
    Set<Integer> found = new TreeSet<>();
    for (Holding row : holders.of(table)) {
      if (WRITING.contains(row.privilege()) && row.state().works()) {
        found.add(row.user());
      }
    }
    return found;
  }

  private static Expression written(Seeing seeing, int user, int table) {
    Seeing.Answer answer = seeing.of(user, table);
    boolean free = answer == null || answer.exempt() != null;
    return free ? Expression.TRUE : answer.seen().written();
  }
}
