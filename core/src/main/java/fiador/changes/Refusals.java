package fiador.changes;

import fiador.changes.planning.Demands;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Rights;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Path;
import fiador.effects.Source;
import fiador.effects.State;
import fiador.effects.Tracer;
import fiador.estate.Few;
import fiador.estate.None;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * What members of a role may not do. Where a server cannot deny, the demand is met only when nobody
 * it names gets the privilege from anywhere; who does is named.
 */
final class Refusals {
  /** So many are named. */
  private static final int NAMED = 4;

  /** So many ways of one user are looked at. */
  private static final int WAYS = 20;

  private final Access after;
  private final Clock clock;
  private final Tracer tracer;

  /** Looks at the estate as it would be. */
  Refusals(Access after, Clock clock) {
    this.after = after;
    this.clock = clock;
    this.tracer = new Tracer(after, clock);
  }

  List<Problem> problems(List<Wanted.Grant> refused, Map<String, List<Labelled>> labels) {
    List<Problem> found = new ArrayList<>();
    Map<Integer, List<Holding>> holders = new LinkedHashMap<>();
    Holders ask = new Holders(after, clock);
    for (Wanted.Grant grant : refused) {
      String role = after.rules().fold(grant.grantee());
      Demands demands = new Demands(after, labels, Map.of(), Set.of()).ofDenials();
      demands.add(grant, List.of(role));
      found.addAll(demands.problems());
      IntOpenHashSet below = below(after.principals().named(role));
      demands
          .rights()
          .getOrDefault(role, Map.of())
          .forEach(
              (node, rights) -> {
                List<Holding> rows = holders.computeIfAbsent(node, ask::of);
                found.addAll(against(grant, rows, rights, below));
              });
    }
    return found;
  }

  private List<Problem> against(
      Wanted.Grant grant, List<Holding> rows, Rights rights, IntOpenHashSet below) {
    Set<String> who = new LinkedHashSet<>();
    Set<String> gives = new LinkedHashSet<>();
    int node = -1;
    for (Holding row : rows) {
      boolean works = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
      if (works && below.contains(row.user()) && isMeant(row, rights)) {
        Path nearest = tracer.nearest(row);
        who.add(
            after.principals().name(row.user())
                + " can "
                + row.privilege().text()
                + (nearest != null && nearest.chain().length > 1
                    ? " through " + chain(nearest)
                    : ""));
        int column = row.columns() == null ? None.COLUMN : row.columns().nextSetBit(0);
        for (Path path :
            tracer.trace(row.user(), row.privilege(), row.node(), column, WAYS).paths()) {
          gives.add(what(path, row));
        }
        node = row.node();
      }
    }
    return who.isEmpty()
        ? List.of()
        : List.of(
            new Problem(
                grant.place(),
                after.rules().kind()
                    + (after.rules().has(HouseFact.DENIALS)
                        ? " denies it to " + grant.grantee() + ", and on "
                        : " cannot deny, and on ")
                    + after.tree().path(node)
                    + " "
                    + Few.of(who, NAMED)
                    + " all the same; what would have to go: "
                    + Few.of(gives, NAMED)));
  }

  /** The roles of a way, without the user it begins with. */
  private String chain(Path path) {
    return IntStream.of(path.chain())
        .skip(1)
        .mapToObj(after.principals()::name)
        .collect(Collectors.joining(" > "));
  }

  /** What at the end of a way gives the privilege. */
  private String what(Path path, Holding row) {
    String last = after.principals().name(path.last());
    if (path.source() instanceof Source.Granted granted) {
      int on = after.grants().node(granted.row());
      return row.privilege().text() + " on " + after.tree().path(on) + " to " + last;
    } else if (path.source() instanceof Source.Owned owned) {
      return last + " owning " + after.tree().path(owned.node());
    }
    return "the power " + ((Source.Powered) path.source()).power().text() + " of " + last;
  }

  private static boolean isMeant(Holding row, Rights rights) {
    if ((rights.whole & row.privilege().bit()) != 0) {
      return true;
    }
    return rights.columns.keySet().stream()
        .anyMatch(
            column ->
                (rights.on(column) & row.privilege().bit()) != 0
                    && (row.columns() == null || row.columns().get(column)));
  }

  private IntOpenHashSet below(int role) {
    IntOpenHashSet found = new IntOpenHashSet();
    IntArrayList open = new IntArrayList();
    if (role >= 0) {
      open.add(role);
    }
    while (!open.isEmpty()) {
      for (int edge : after.memberships().membersOf().run(open.popInt())) {
        if (found.add(after.memberships().member(edge))) {
          open.add(after.memberships().member(edge));
        }
      }
    }
    return found;
  }
}
