package fiador.report.pictures;

import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.State;
import fiador.grants.Access;
import fiador.grants.Memberships;
import fiador.policies.AnyWay;
import fiador.report.pictures.Figure.Manner;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** One thing or column: everybody who gets there, through roles, and round it by views. */
public final class ThingFigure {
  private final Access access;
  private final Memberships memberships;
  private final Cast cast;
  private final Map<Integer, State> best = new HashMap<>();

  /** The privileges there are on such a thing. */
  private final long asked;

  private ThingFigure(Access access, Cast cast, int node) {
    this.asked = access.rules().privilegesOn(access.tree().kind(node));
    this.access = access;
    this.memberships = access.memberships();
    this.cast = cast;
  }

  /**
   * The figure. Cost: the holders of the thing and of what shows its values.
   *
   * @param column its ordinal, or -1 for the whole
   */
  public static Figure of(Access access, int node, int column, Clock clock) {
    Shown shown = Shown.brief(access);
    Cast cast = new Cast(access, shown);
    ThingFigure figure = new ThingFigure(access, cast, node);
    String target = cast.thing(node);
    for (Holding row : new Holders(access, clock).of(node)) {
      boolean meant =
          column < 0
              || (access.rules().columnPrivileges() & row.privilege().bit()) != 0
                  && (row.columns() == null || row.columns().get(column));
      if (meant) {
        figure.best.merge(
            row.user(), row.state(), (one, other) -> one.compareTo(other) <= 0 ? one : other);
      }
    }
    Map<Integer, String> sources = new OwnRights(access).on(node, column);
    figure.members(sources);
    sources.forEach((who, label) -> cast.line(cast.principal(who), target, figure.own(who), label));
    figure.roundAbout(node, column, clock);
    cast.asked(target);
    String path = shown.path(node) + (column < 0 ? "" : "." + shown.column(node, column));
    return cast.figure("Who gets to " + path, shown.origin(clock.instant()));
  }

  private Manner own(int principal) {
    // of some things, such as a schema, servers keep no more than whose they are
    State state = best.get(principal);
    Manner not = state == null ? null : Cast.notWorking(state);
    return not == null ? Manner.WORKS : not;
  }

  /** The ways from users to those who have something. */
  private void members(Map<Integer, String> sources) {
    IntOpenHashSet seen = new IntOpenHashSet();
    IntArrayList open = new IntArrayList();
    for (int source : sources.keySet()) {
      if (seen.add(source)) {
        open.add(source);
      }
    }
    while (!open.isEmpty()) {
      int at = open.popInt();
      for (int edge : memberships.membersOf().run(at)) {
        int member = memberships.member(edge);
        boolean user = access.principals().isUser(member);
        State state = best.get(member);
        if (user && state == null && asked != 0) {
          continue;
        }
        Manner not = state == null ? null : Cast.notWorking(state);
        if (cast.membership(edge, not) && !user && seen.add(member)) {
          open.add(member);
        }
      }
    }
  }

  private void roundAbout(int node, int column, Clock clock) {
    for (AnyWay.Way way : new AnyWay(access, clock).of(node, column)) {
      List<Integer> path = way.path();
      for (int at = 0; at + 1 < path.size(); at++) {
        cast.line(cast.thing(path.get(at)), cast.thing(path.get(at + 1)), Manner.WORKS, "shows it");
      }
      for (AnyWay.Reader reader : way.readers()) {
        boolean masked = reader.asIs().isEmpty() && reader.workedOut().isEmpty();
        Manner manner = reader.state() == State.ON_REQUEST ? Manner.ON_REQUEST : Manner.WORKS;
        cast.line(
            cast.principal(reader.user()),
            cast.thing(way.node()),
            manner,
            masked ? "masked" : reader.asIs().isEmpty() ? "worked out" : "");
      }
    }
  }
}
