package fiador.sweep.estate;

import fiador.sweep.tables.Sink;
import fiador.sweep.tables.Table;
import java.io.IOException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/**
 * What became of people's rights from one survey to the next. Only what is in containers whose
 * marks differ is looked at. Cost: the rights there.
 */
public final class Changes {
  private final Before before;
  private final Before after;

  public Changes(Before before, Before after) {
    this.before = before;
    this.after = after;
  }

  /** Where somebody's marks differ. */
  private record Place(String account, Set<String> old, Set<String> fresh) {}

  /**
   * Writes what changed for some accounts.
   *
   * @param person tells whose an account is; null where that is not known
   */
  public void write(Collection<String> accounts, UnaryOperator<@Nullable String> person, Sink sink)
      throws IOException {
    List<Place> places = new ArrayList<>();
    Set<String> oldMarks = new HashSet<>();
    Set<String> freshMarks = new HashSet<>();
    for (String account : accounts) {
      Map<String, Set<String>> then = before.marks(account);
      Map<String, Set<String>> now = after.marks(account);
      Set<String> containers = new LinkedHashSet<>(then.keySet());
      containers.addAll(now.keySet());
      for (String container : containers) {
        Set<String> old = then.getOrDefault(container, Set.of());
        Set<String> fresh = now.getOrDefault(container, Set.of());
        if (!old.equals(fresh)) {
          places.add(new Place(account, old, fresh));
          oldMarks.addAll(old);
          freshMarks.addAll(fresh);
        }
      }
    }
    if (places.isEmpty()) {
      return;
    }
    Map<String, List<Right>> then = before.rights(oldMarks);
    Map<String, List<Right>> now = after.rights(freshMarks);
    for (Place place : places) {
      String whose = person.apply(place.account());
      compare(place.account(), whose, byWhat(then, place.old()), byWhat(now, place.fresh()), sink);
    }
  }

  private static Map<Right.What, Set<Right>> byWhat(
      Map<String, List<Right>> rights, Set<String> marks) {
    Map<Right.What, Set<Right>> found = new LinkedHashMap<>();
    for (String mark : marks) {
      for (Right right : rights.getOrDefault(mark, List.of())) {
        found.computeIfAbsent(right.what(), none -> new HashSet<>()).add(right);
      }
    }
    return found;
  }

  private void compare(
      String account,
      @Nullable String person,
      Map<Right.What, Set<Right>> then,
      Map<Right.What, Set<Right>> now,
      Sink sink)
      throws IOException {
    Set<Right.What> all = new LinkedHashSet<>(then.keySet());
    all.addAll(now.keySet());
    for (Right.What what : all) {
      Set<Right> old = then.getOrDefault(what, Set.of());
      Set<Right> fresh = now.getOrDefault(what, Set.of());
      if (!old.equals(fresh)) {
        sink.row(
            Table.CHANGES,
            micros(after.surveyed()),
            micros(before.surveyed()),
            old.isEmpty() ? "opened" : fresh.isEmpty() ? "closed" : "altered",
            account,
            person,
            what.privilege(),
            what.kind(),
            what.object(),
            what.columns(),
            states(fresh),
            states(old));
      }
    }
  }

  private static @Nullable String states(Set<Right> rights) {
    List<String> states = rights.stream().map(Right::state).distinct().sorted().toList();
    return states.isEmpty() ? null : String.join(", ", states);
  }

  /** A moment as tables have it. */
  public static long micros(Instant time) {
    return ChronoUnit.MICROS.between(Instant.EPOCH, time);
  }
}
