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
        Manner manner = manner(best, right);
        cast.line(cast.principal(role), cast.thing(right.node()), manner, right.label());
      }
      for (Power power : rights.powers(role)) {
        Manner manner = role == user ? Manner.WORKS : rights.comes(power);
        cast.line(cast.principal(role), cast.thing(0), manner, power.text());
      }
    }
    everybody(user, cast, rights, best);
    cast.asked("p" + user);
    return cast.figure(
        "What " + shown.principal(user) + " holds, and through what",
        shown.origin(clock.instant()));
  }

  private static Manner manner(Map<Integer, State> best, Right right) {
    State state = best.get(right.node());
    boolean unasked = state == null && (right.inside() || right.owns());
    Manner not = unasked ? null : Cast.notWorking(state);
    return not == null ? Manner.WORKS : not;
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

  private static void everybody(int user, Cast cast, OwnRights rights, Map<Integer, State> best) {
    List<Right> all = rights.of(Principals.PUBLIC);
    if (!all.isEmpty()) {
      cast.line(
          cast.principal(user), cast.principal(Principals.PUBLIC), Manner.WORKS, "as everybody");
    }
    for (Right right : all) {
      cast.line(
          cast.principal(Principals.PUBLIC),
          cast.thing(right.node()),
          manner(best, right),
          right.label());
    }
  }
}
