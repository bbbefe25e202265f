package fiador.changes;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.effects.Need;
import fiador.effects.Remedy;
import fiador.effects.State;
import fiador.effects.Together;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.policies.Sealing;
import fiador.policies.Seeing;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Whether somebody may run a statement that needs several things at once, and what would let them.
 * Cost: a trace for each thing that is needed; for what would help an outcome for each of those
 * tried.
 */
public final class Running {
  private final Access access;
  private final Clock clock;

  /** Parameters as for {@link Together}. */
  public Running(Access access, Clock clock) {
    this.access = access;
    this.clock = clock;
  }

  /**
   * One thing that is needed.
   *
   * @param need what; of a right on columns one column
   * @param has whether the session that has most has it
   * @param trace of it; null for an ownership
   */
  public record Line(Need need, boolean has, Trace trace) {}

  /**
   * The answer.
   *
   * @param user who
   * @param state live, on request, or null where no session has all
   * @param role to switch to first; -1 for none
   * @param lines all that is needed
   * @param helps what, all together, would let them; empty where nothing is missing, where it would
   *     take more than grants, and where policies or a seal decide instead
   */
  public record Answer(int user, State state, int role, List<Line> lines, List<Step> helps) {
    /** Whether it works, at once or after switching a role on. */
    public boolean works() {
      return state != null;
    }
  }

  /**
   * For a user.
   *
   * @param needs what is needed
   */
  public Answer of(int user, List<Need> needs) {
    List<Need> each = byColumn(needs);
    Together.Result result = new Together(access, clock).of(user, each);
    Tracer tracer = new Tracer(access, clock);
    List<Line> lines = new ArrayList<>();
    boolean canHelp = result.state() == null;
    for (int i = 0; i < each.size(); i++) {
      Need need = each.get(i);
      boolean has = result.has().get(i);
      lines.add(new Line(need, has, trace(tracer, user, need, has)));
      canHelp &= has || need instanceof Need.Right && !isShut(need.node());
    }
    List<Step> helps = canHelp ? helps(user, each) : List.of();
    return new Answer(user, result.state(), result.role(), lines, helps);
  }

  /** Whether a grant would get round policies or a seal. */
  private boolean isShut(int node) {
    return new Seeing(access).safeViewOf(node) >= 0 || new Sealing(access, clock).on(node) != null;
  }

  private static List<Need> byColumn(List<Need> needs) {
    List<Need> each = new ArrayList<>();
    for (Need need : needs) {
      if (need instanceof Need.Right right && right.columns() != null && !right.anyPart()) {
        right.columns().stream()
            .forEach(
                column -> {
                  BitSet one = new BitSet();
                  one.set(column);
                  each.add(new Need.Right(right.anyOf(), right.node(), one, false));
                });
      } else {
        each.add(need);
      }
    }
    return each;
  }

  /** Of the privileges of which one is enough the first that is held, else the first there is. */
  private Trace trace(Tracer tracer, int user, Need need, boolean has) {
    if (!(need instanceof Need.Right right)) {
      return null;
    }
    int column = right.columns() == null ? None.COLUMN : right.columns().nextSetBit(0);
    Trace first = null;
    for (long rest = right.anyOf(); rest != 0; rest &= rest - 1) {
      Trace trace = tracer.trace(user, Privilege.lowest(rest), need.node(), column, 1);
      if (first == null || has && !trace.paths().isEmpty()) {
        first = trace;
      }
      if (has && !trace.paths().isEmpty()) {
        break;
      }
    }
    return first;
  }

  /** Adds what helps, one after the other, until all of it is there. */
  private List<Step> helps(int user, List<Need> needs) {
    List<Step> steps = new ArrayList<>();
    Access at = access;
    Together.Result result = new Together(at, clock).of(user, needs);
    while (result.state() == null) {
      Access further = null;
      Tracer tracer = new Tracer(at, clock);
      for (int i = 0; i < needs.size() && further == null; i++) {
        if (result.has().get(i)) {
          continue;
        }
        for (Remedy remedy : trace(tracer, user, needs.get(i), false).remedies()) {
          List<Step> more = new ArrayList<>(steps);
          more.add(step(remedy, user));
          Access after = Outcome.of(access, more).after();
          Together.Result then = new Together(after, clock).of(user, needs);
          if (count(then) > count(result)) {
            steps = more;
            further = after;
            result = then;
            break;
          }
        }
      }
      if (further == null) {
        return List.of();
      }
      at = further;
    }
    return steps;
  }

  private static long count(Together.Result result) {
    return result.has().stream().filter(has -> has).count();
  }

  private Step step(Remedy remedy, int user) {
    if (remedy instanceof Remedy.Join join) {
      return new GiveRole(access.principals().name(join.role()), access.principals().name(user));
    }
    Remedy.Grant grant = (Remedy.Grant) remedy;
    List<String> columns =
        grant.column() < 0
            ? List.of()
            : List.of(access.tree().column(grant.node(), grant.column()));
    return new Grant(
        grant.privilege(),
        Places.on(access.tree(), grant.node()),
        columns,
        access.principals().name(grant.grantee()),
        false);
  }
}
