package fiador.sweep.spark;

import fiador.sweep.estate.Known;
import fiador.sweep.spark.ArrivalTask.Done;
import fiador.sweep.spark.ArrivalTask.Member;
import fiador.sweep.tables.Table;
import fiador.work.sweeping.Outcome;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.hadoop.fs.Path;
import org.apache.spark.api.java.JavaSparkContext;

/**
 * Works out who comes to servers over others, once each server is worked out for itself: servers
 * that lead to each other, directly or over further ones, belong together, and are worked out
 * together where one of them changed.
 */
final class Arriving {
  private final JavaSparkContext spark;
  private final Store store;
  private final Known known;
  private final String inputs;
  private final String run;

  Arriving(JavaSparkContext spark, Store store, Known known, String inputs, String run) {
    this.spark = spark;
    this.store = store;
    this.known = known;
    this.inputs = inputs;
    this.run = run;
  }

  /** Does it; what cannot be worked out is told and stays as nothing that is known. */
  void work(List<SurveyFile> surveys, List<Outcome.Failed> failed) throws IOException {
    List<ArrivalTask> tasks = new ArrayList<>();
    for (List<Member> group : groups(members(surveys))) {
      boolean linked = isLinked(group);
      String digest = linked ? digest(group) : "";
      List<Member> open = new ArrayList<>();
      for (Member each : group) {
        if (!each.state().around().equals(digest)) {
          open.add(each);
        }
      }
      if (linked && !open.isEmpty()) {
        tasks.add(new ArrivalTask(new ArrayList<>(group), digest));
      } else {
        // those it led to, or that led to it, are gone
        for (Member alone : open) {
          store.putArrivals(alone.survey().server(), null, run, alone.state().around(digest));
        }
      }
    }
    if (tasks.isEmpty()) {
      return;
    }
    Store shared = store;
    Known told = known;
    String name = run;
    List<Done> done =
        spark
            .parallelize(tasks, Math.min(tasks.size(), Sweeping.MOST_TASKS))
            .map(task -> task.run(shared, told, name))
            .collect();
    for (Done each : done) {
      take(each, failed);
    }
  }

  private void take(Done done, List<Outcome.Failed> failed) throws IOException {
    for (Member each : done.task().members()) {
      String server = each.survey().server();
      if (done.failed() != null) {
        failed.add(
            new Outcome.Failed(
                server,
                each.survey().address(),
                "who reads it over other servers is not known: " + done.failed()));
        store.putArrivals(server, null, run, each.state().around(""));
        continue;
      }
      String folder = done.folders().get(server);
      Store.Written part =
          folder == null ? null : new Store.Written(new Path(folder), Set.of(Table.ARRIVALS));
      store.putArrivals(server, part, run, each.state().around(done.task().digest()));
    }
  }

  /** All that are worked out, but for those that neither lead anywhere nor are led to. */
  private List<Member> members(List<SurveyFile> surveys) {
    Store shared = store;
    String expected = inputs;
    return spark
        .parallelize(surveys, Math.min(surveys.size(), Sweeping.MOST_TASKS / 10))
        .flatMap(survey -> member(survey, shared, expected).iterator())
        .collect();
  }

  private static List<Member> member(SurveyFile survey, Store store, String inputs)
      throws IOException {
    Store.State state = store.remembered(survey.server());
    return state == null || !state.inputs().equals(inputs) || state.addresses().isEmpty()
        ? List.of()
        : List.of(new Member(survey, state));
  }

  /** Whether one of them leads to another, or back to itself. */
  private static boolean isLinked(List<Member> group) {
    if (group.size() > 1) {
      return true;
    }
    Store.State alone = group.get(0).state();
    return alone.leads().stream().anyMatch(alone.addresses()::contains);
  }

  private String digest(List<Member> group) {
    StringBuilder all = new StringBuilder(inputs);
    group.forEach(
        each -> all.append('\n').append(each.survey().server()).append(each.state().digest()));
    return Digests.of(all.toString());
  }

  /** Those that lead to each other, together. Cost: their addresses. */
  static List<List<Member>> groups(List<Member> members) {
    Map<String, List<Integer>> at = new HashMap<>();
    for (int one = 0; one < members.size(); one++) {
      for (String address : new HashSet<>(members.get(one).state().addresses())) {
        at.computeIfAbsent(address, none -> new ArrayList<>()).add(one);
      }
    }
    int[] head = new int[members.size()];
    for (int one = 0; one < head.length; one++) {
      head[one] = one;
    }
    for (int one = 0; one < head.length; one++) {
      for (String lead : members.get(one).state().leads()) {
        for (int other : at.getOrDefault(lead, List.of())) {
          head[headOf(head, other)] = headOf(head, one);
        }
      }
    }
    Map<Integer, List<Member>> groups = new LinkedHashMap<>();
    for (int one = 0; one < head.length; one++) {
      groups.computeIfAbsent(headOf(head, one), none -> new ArrayList<>()).add(members.get(one));
    }
    return List.copyOf(groups.values());
  }

  private static int headOf(int[] head, int one) {
    int at = one;
    while (head[at] != at) {
      head[at] = head[head[at]];
      at = head[at];
    }
    return at;
  }
}
