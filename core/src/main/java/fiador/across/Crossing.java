package fiador.across;

import fiador.across.Leg.Answer;
import fiador.effects.Obstacle.MissingGate;
import fiador.effects.State;
import fiador.effects.Switching;
import fiador.effects.Trace;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.Reads;
import fiador.grants.rules.HouseFact;
import java.time.Clock;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Follows foreign tables to the rows behind them: who reads here goes on as somebody there, whose
 * own right counts. Only reading is followed. What a stored copy shows lies here, and what a
 * routine reads is not followed.
 */
public final class Crossing {
  private final Access home;
  private final Clock clock;
  private final Steps steps;

  /** From one server to those of an atlas; the clock as for {@link Tracer}. */
  public Crossing(Access home, Atlas atlas, Clock clock) {
    this.home = home;
    this.clock = clock;
    this.steps = new Steps(home, atlas.around(home), clock);
  }

  /**
   * Whether rows come.
   *
   * @param answer of all that lies behind
   * @param acting the user, or the role they have to switch to first
   * @param state at once or after switching
   * @param legs the steps
   */
  public record Crossed(Answer answer, int acting, State state, List<Leg> legs) {}

  /** Whether a table, or anything under a view, is elsewhere. Cost: what lies under it. */
  public boolean leaves(int node) {
    return leaves(node, new HashSet<>());
  }

  private boolean leaves(int node, Set<Integer> seen) {
    Abroad abroad = home.seen().abroad();
    if (abroad.isEmpty() || !seen.add(node)) {
      return false;
    }
    if (abroad.placeOf(node) != null || steps.parts(home).containsKey(node)) {
      return true;
    }
    Reads reads = home.reads();
    if (home.tree().kind(node) == NodeKind.VIEW) {
      for (int at = reads.byView().from(node); at < reads.byView().to(node); at++) {
        if (leaves(reads.under().get(reads.byView().row(at)), seen)) {
          return true;
        }
      }
    }
    return false;
  }

  /**
   * Whether rows come to somebody who reads a table or view with something elsewhere in it. Where
   * users are roles too, a mapping is nobody's but the one's it was made for, so that they read as
   * themselves or as a role they can switch to; elsewhere they go on as themselves, whatever role
   * is on. Null where they may not read it here at all. Cost: a trace for each such role and step.
   *
   * @param column an ordinal, or -1 for all
   */
  public @Nullable Crossed read(int user, int node, int column) {
    return read(user, node, column, Steps::worst);
  }

  /** The same, of which something else than the worst step may count. */
  @Nullable Crossed read(int user, int node, int column, Function<List<Leg>, Answer> counts) {
    if (!home.rules().has(HouseFact.USERS_ARE_ROLES)) {
      return asThemselves(user, node, column, counts);
    }
    Crossed best = null;
    if (isLive(user, node, column, false)) {
      best = crossed(user, State.LIVE, node, column, counts);
    }
    if (best != null && best.answer() == Answer.OPEN) {
      return best;
    }
    for (int role : Switching.rolesOf(home, clock, user)) {
      if (isLive(role, node, column, true)) {
        Crossed other = crossed(role, State.ON_REQUEST, node, column, counts);
        if (best == null || other.answer().compareTo(best.answer()) < 0) {
          best = other;
        }
      }
    }
    return best;
  }

  private @Nullable Crossed asThemselves(
      int user, int node, int column, Function<List<Leg>, Answer> counts) {
    boolean live = isLive(user, node, column, false);
    int role =
        live ? user : new OneRole(steps.tracer(home), home.tree()).thatReads(user, node, column);
    if (role < 0) {
      return null;
    }
    List<Leg> legs = steps.of(user, node, wanted(home, node, column));
    return new Crossed(counts.apply(legs), role, live ? State.LIVE : State.ON_REQUEST, legs);
  }

  /**
   * What comes to somebody who may read some of it: all where all comes, else as with the first
   * column that does. A view is followed as a whole, so there any column will do.
   *
   * @return null where nothing comes
   */
  @Nullable Crossed some(int user, int node, Function<List<Leg>, Answer> counts) {
    for (int at = -1; at < home.tree().columns(node); at++) {
      Crossed crossed = read(user, node, at < 0 ? None.COLUMN : at, counts);
      if (crossed != null && crossed.answer() != Answer.CLOSED) {
        return crossed;
      }
    }
    return null;
  }

  /** What comes into a stored copy when its owner fills it; null where nothing does. */
  @Nullable Crossed filled(int copy, Function<List<Leg>, Answer> counts) {
    int owner = home.tree().owner(copy);
    Crossed crossed = owner < 0 ? null : crossed(owner, State.LIVE, copy, None.COLUMN, counts);
    return crossed == null || crossed.answer() == Answer.CLOSED ? null : crossed;
  }

  /** Whether somebody may read it, or each column of it, without switching. */
  private boolean isLive(int who, int node, int column, boolean switched) {
    if (mayRead(who, node, column, switched)) {
      return true;
    }
    boolean each = column < 0 && home.tree().columns(node) > 0;
    for (int at = 0; each && at < home.tree().columns(node); at++) {
      each = mayRead(who, node, at, switched);
    }
    return each;
  }

  /** What stands in the way of a login does not matter to a role that is switched to. */
  private boolean mayRead(int who, int node, int column, boolean switched) {
    Trace trace = steps.tracer(home).trace(who, Privilege.SELECT, node, column, 1);
    boolean onlyLogin =
        switched
            && trace.state() == State.BLOCKED
            && !trace.obstacles().isEmpty()
            && trace.obstacles().stream()
                .allMatch(each -> each instanceof MissingGate gate && gate.atLogin());
    return trace.state() == State.LIVE || onlyLogin;
  }

  private Crossed crossed(
      int acting, State state, int node, int column, Function<List<Leg>, Answer> counts) {
    List<Leg> legs = steps.of(acting, node, wanted(home, node, column));
    return new Crossed(counts.apply(legs), acting, state, legs);
  }

  private static BitSet wanted(Access access, int node, int column) {
    BitSet wanted = new BitSet();
    if (column >= 0) {
      wanted.set(column);
    } else {
      wanted.set(0, access.tree().columns(node));
    }
    return wanted;
  }
}
