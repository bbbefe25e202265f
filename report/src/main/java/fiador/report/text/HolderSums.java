package fiador.report.text;

import fiador.effects.Holding;
import fiador.effects.Source;
import fiador.effects.SourceCounts;
import fiador.effects.SourceCounts.Counted;
import fiador.effects.State;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.report.shown.Shown;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** A long list of holders: how many hold what, and what gives it to them. */
final class HolderSums {
  private static final int NAMES = 3;
  private static final int LINES = 20;

  private final Access access;
  private final Shown shown;
  private final HeldLines lines;
  private final Clock clock;

  HolderSums(Access access, Shown shown, HeldLines lines, Clock clock) {
    this.access = access;
    this.shown = shown;
    this.lines = lines;
    this.clock = clock;
  }

  /** One user's rows that are alike in everything but the privilege. */
  private record One(int user, State state, boolean grantable, Object columns) {}

  /** What users have in common. */
  private record Held(State state, String what) {}

  /** A line for all who hold the same, best state first, then the most. */
  String groups(List<Holding> rows, int width) {
    Map<One, List<Holding>> each = new LinkedHashMap<>();
    for (Holding row : rows) {
      One one = new One(row.user(), row.state(), row.grantable(), row.columns());
      each.computeIfAbsent(one, fresh -> new ArrayList<>()).add(row);
    }
    Map<Held, List<Integer>> groups = new LinkedHashMap<>();
    each.forEach(
        (one, alike) -> {
          String what = lines.privileges(alike) + lines.columns(alike.get(0));
          groups
              .computeIfAbsent(new Held(one.state(), what), fresh -> new ArrayList<>())
              .add(one.user());
        });
    List<Map.Entry<Held, List<Integer>>> sorted = new ArrayList<>(groups.entrySet());
    sorted.sort(
        Comparator.comparing((Map.Entry<Held, List<Integer>> group) -> group.getKey().state())
            .thenComparing(group -> -group.getValue().size()));
    boolean allLive = HeldLines.allLive(rows);
    Columns table = new Columns(width);
    for (Map.Entry<Held, List<Integer>> group : shortened(sorted)) {
      Held held = group.getKey();
      String users = many(group.getValue().size());
      String names = names(group.getValue());
      if (allLive) {
        table.line(users, held.what(), names);
      } else {
        table.line(users, States.of(held.state()), held.what(), names);
      }
    }
    return table.text() + left(sorted.size(), "that hold something else");
  }

  /** A line for each source of rights on the node, what most users come through first. */
  String through(int node, int column, List<Holding> rows, int width) {
    IntOpenHashSet users = new IntOpenHashSet();
    rows.forEach(row -> users.add(row.user()));
    List<Counted> found = new SourceCounts(access, clock).of(node, column, users);
    Columns table = new Columns(width);
    for (Counted each : shortened(found)) {
      String to = each.to() == SourceCounts.DIRECTLY ? "each directly" : shown.principal(each.to());
      table.line(many(each.users()), to, what(each, node));
    }
    return table.text() + left(found.size(), "with fewer users");
  }

  private String what(Counted each, int node) {
    if (each.source() instanceof Source.Owned) {
      return "owner of " + shown.node(each.on());
    } else if (each.source() instanceof Source.Powered powered) {
      return powered.power().text();
    }
    String columns = each.columns() == null ? "" : " (" + shown.columns(node, each.columns()) + ")";
    String kind = access.tree().kind(node).text();
    String on = each.on() == node ? "" : " on every " + kind + " in " + shown.node(each.on());
    return PrivilegeSet.text(each.privileges()) + columns + on;
  }

  private String names(List<Integer> users) {
    return FirstNames.of(users, lines::who, NAMES);
  }

  private static <T> List<T> shortened(List<T> all) {
    return all.subList(0, Math.min(LINES, all.size()));
  }

  private static String left(int all, String what) {
    return all > LINES ? "  and " + (all - LINES) + " more lines " + what + "\n" : "";
  }

  private static String many(int users) {
    return HoldingSums.many(users, "user");
  }
}
