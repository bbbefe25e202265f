package fiador.sweep.spark;

import fiador.sweep.estate.Known;
import fiador.sweep.spark.ArrivalTask.Done;
import fiador.sweep.spark.ArrivalTask.Member;
import fiador.sweep.spark.Neighbourhoods.Neighbourhood;
import fiador.sweep.tables.Table;
import fiador.work.sweeping.Outcome;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.hadoop.fs.Path;
import org.apache.spark.api.java.JavaSparkContext;

/**
 * Works out who comes to servers over others, once each server is worked out for itself: servers
 * are worked out with those that lead to them, directly or over further ones, where one of these
 * changed.
 */
final class Arriving {
  private final JavaSparkContext spark;
  private final Store store;
  private final Known known;
  private final String inputs;
  private final String run;
  private final long together;

  /**
   * @param together as for {@link Neighbourhoods}
   */
  Arriving(
      JavaSparkContext spark, Store store, Known known, String inputs, String run, long together) {
    this.spark = spark;
    this.store = store;
    this.known = known;
    this.inputs = inputs;
    this.run = run;
    this.together = together;
  }

  /** Does it; what cannot be worked out is told and stays as nothing that is known. */
  void work(List<SurveyFile> surveys, List<Outcome.Failed> failed) throws IOException {
    List<ArrivalTask> tasks = new ArrayList<>();
    List<Member> members = members(surveys);
    Set<String> reached = new HashSet<>();
    for (Neighbourhood each : new Neighbourhoods(members, together).all()) {
      String digest = digest(each.members());
      each.targets().forEach(target -> reached.add(target.survey().server()));
      boolean open = each.targets().stream().anyMatch(one -> !one.state().around().equals(digest));
      if (open) {
        tasks.add(
            new ArrivalTask(
                new ArrayList<>(each.targets()), new ArrayList<>(each.members()), digest));
      }
    }
    for (Member each : members) {
      if (!reached.contains(each.survey().server()) && !each.state().around().isEmpty()) {
        // those that led to it are gone
        store.putArrivals(each.survey().server(), null, run, each.state().around(""));
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
    for (Member each : done.task().targets()) {
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

  private String digest(List<Member> group) {
    StringBuilder all = new StringBuilder(inputs);
    group.forEach(
        each -> all.append('\n').append(each.survey().server()).append(each.state().digest()));
    return Digests.of(all.toString());
  }
}
