package fiador.report.pictures;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Memberships;
import fiador.report.pictures.Figure.Manner;
import fiador.report.pictures.OwnRights.Right;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntLinkedOpenHashSet;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** One user: the roles they hold, directly and inside others, and the things these open. */
public final class UserFigure {
  private UserFigure() {}

  /** The figure. Cost: what the user holds. */
  public static Figure of(Access access, int user, Clock clock) {
    Shown shown = Shown.brief(access);
    Cast cast = new Cast(access, shown);
    cast.principal(user);
    Map<Integer, State> best = new HashMap<>();
    for (Holding row : new Holdings(access, clock, false).of(user)) {
      best.merge(row.node(), row.state(), (one, other) -> one.compareTo(other) <= 0 ? one : other);
    }
    IntLinkedOpenHashSet roles = roles(access, user, cast);
    OwnRights rights = new OwnRights(access);
    for (int role : roles.toIntArray()) {
      for (Right right : rights.of(role)) {
        draw(access, cast, role, best, right);
      }
      for (Power power : rights.powers(role)) {
        Manner manner = role == user ? Manner.WORKS : rights.comes(power);
        cast.line(cast.principal(role), cast.thing(0), manner, power.text());
      }
    }
    everybody(access, user, cast, rights, best);
    cast.asked("p" + user);
    return cast.figure(
        "What " + shown.principal(user) + " holds, and through what",
        shown.origin(clock.instant()));
  }

  /**
   * What a right amounts to for the user; null where it does not come to them, because a role on
   * the way is neither on nor can be switched to. Of some things servers keep no more than whose
   * they are, so that says nothing.
   */
  private static @Nullable Manner manner(Access access, Map<Integer, State> best, Right right) {
    State state = best.get(right.node());
    if (state != null) {
      Manner not = Cast.notWorking(state);
      return not == null ? Manner.WORKS : not;
    }
    boolean only = access.rules().privilegesOn(access.tree().kind(right.node())) == 0;
    return right.inside() || right.owns() && only ? Manner.WORKS : null;
  }

  private static void draw(
      Access access, Cast cast, int from, Map<Integer, State> best, Right right) {
    Manner manner = manner(access, best, right);
    if (manner != null) {
      cast.line(cast.principal(from), cast.thing(right.node()), manner, right.label());
    }
  }

  /** Draws the memberships, and finds the roles. */
  private static IntLinkedOpenHashSet roles(Access access, int user, Cast cast) {
    Memberships memberships = access.memberships();
    IntLinkedOpenHashSet seen = new IntLinkedOpenHashSet(new int[] {user});
    IntArrayList open = IntArrayList.of(user);
    while (!open.isEmpty()) {
      int at = open.popInt();
      for (int edge : memberships.rolesOf().run(at)) {
        if (cast.membership(edge, null) && seen.add(memberships.role(edge))) {
          open.add(memberships.role(edge));
        }
      }
    }
    return seen;
  }

  private static void everybody(
      Access access, int user, Cast cast, OwnRights rights, Map<Integer, State> best) {
    List<Right> all = rights.of(Principals.PUBLIC);
    if (!all.isEmpty()) {
      cast.line(
          cast.principal(user), cast.principal(Principals.PUBLIC), Manner.WORKS, "as everybody");
    }
    for (Right right : all) {
      draw(access, cast, Principals.PUBLIC, best, right);
    }
  }
}
