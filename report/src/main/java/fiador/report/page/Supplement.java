package fiador.report.page;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What a page shows beside the estate itself.
 *
 * @param findings what is wrong; of a part of the estate only what is about that part is taken
 * @param notLooked what was not looked at for findings; null where all was
 * @param gap what settling the charter would change for people; null where there is no charter
 * @param after the estate as it would be then, in which new users have names; null without a gap
 * @param history what changed, the newest first; only whole estates have one
 * @param overTime how many users had access, survey by survey; only for whole estates
 */
public record Supplement(
    List<Finding> findings,
    @Nullable String notLooked,
    @Nullable List<Change> gap,
    @Nullable Access after,
    List<Past> history,
    List<Count> overTime) {

  /** Findings alone; parameters as for the record. */
  public static Supplement of(List<Finding> findings, @Nullable String notLooked) {
    return new Supplement(findings, notLooked, null, null, List.of(), List.of());
  }

  /** Nothing at all. */
  public static final Supplement NOTHING = of(List.of(), null);

  /**
   * A change that is past.
   *
   * @param when between which surveys, and by whom as far as that is known
   * @param lines what came and went
   */
  public record Past(String when, List<String> lines) {}

  /**
   * How many users could use something in each schema.
   *
   * @param when the survey's time
   * @param users by the schema's path as it is shown
   */
  public record Count(String when, Map<String, Integer> users) {

    /** Counts them in an estate; views and tables alone. Cost: the holders of all of them. */
    public static Count of(Access access, Clock clock) {
      Shown shown = Shown.brief(access);
      Tree tree = access.tree();
      Holders holders = new Holders(access, clock);
      Map<String, Integer> users = new TreeMap<>();
      for (int schema = 0; schema < tree.size(); schema++) {
        if (tree.kind(schema) == NodeKind.SCHEMA && !tree.isSystem(schema)) {
          IntOpenHashSet found = new IntOpenHashSet();
          int things = 0;
          for (int node : tree.children().run(schema)) {
            things += tree.columns(node) > 0 ? 1 : 0;
            for (Holding row : tree.columns(node) > 0 ? holders.of(node) : List.<Holding>of()) {
              if (row.state().works()) {
                found.add(row.user());
              }
            }
          }
          if (things > 0) {
            users.put(shown.path(schema), found.size());
          }
        }
      }
      return new Count(Shown.time(access.about().taken()), users);
    }
  }
}
