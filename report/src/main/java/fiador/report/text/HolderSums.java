package fiador.report.text;

import fiador.effects.Doors;
import fiador.effects.Doors.Door;
import fiador.effects.Holding;
import fiador.effects.Source;
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

  /** A line for each door of the node, those with most users first. */
  String through(int node, int column, List<Holding> rows, int width) {
    IntOpenHashSet users = new IntOpenHashSet();
    rows.forEach(row -> users.add(row.user()));
    List<Door> doors = new Doors(access, clock).of(node, column, users);
    Columns table = new Columns(width);
    for (Door door : shortened(doors)) {
      String to = door.to() == Doors.DIRECTLY ? "each directly" : shown.principal(door.to());
      table.line(many(door.users()), to, what(door, node));
    }
    return table.text() + left(doors.size(), "with fewer users");
  }

  private String what(Door door, int node) {
    if (door.source() instanceof Source.Owned) {
      return "owner of " + shown.node(door.on());
    } else if (door.source() instanceof Source.Powered powered) {
      return powered.power().text();
    }
    String columns = door.columns() == null ? "" : " (" + shown.columns(node, door.columns()) + ")";
    String kind = access.tree().kind(node).text();
    String on = door.on() == node ? "" : " on every " + kind + " in " + shown.node(door.on());
    return PrivilegeSet.text(door.privileges()) + columns + on;
  }

  private String names(List<Integer> users) {
    int more = users.size() - NAMES;
    List<String> names =
        users.subList(0, Math.min(NAMES, users.size())).stream().map(lines::who).toList();
    return String.join(", ", names) + (more > 0 ? " and " + more + " more" : "");
  }

  private static <T> List<T> shortened(List<T> all) {
    return all.subList(0, Math.min(LINES, all.size()));
  }

  private static String left(int all, String what) {
    return all > LINES ? "  and " + (all - LINES) + " more lines " + what + "\n" : "";
  }

  private static String many(int users) {
    return users + (users == 1 ? " user" : " users");
  }
}
