package fiador.sweep.spark;

import fiador.refusal.BadInput;
import fiador.sweep.estate.Changes;
import fiador.sweep.estate.EstateRows;
import fiador.sweep.estate.Known;
import fiador.sweep.spark.PartTask.Done;
import fiador.sweep.tables.Table;
import fiador.sweep.tables.TableFiles;
import fiador.work.sweeping.Order;
import fiador.work.sweeping.Outcome;
import java.io.Closeable;
import java.io.FileNotFoundException;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.function.Consumer;
import org.apache.hadoop.fs.Path;
import org.apache.spark.api.java.JavaRDD;
import org.apache.spark.api.java.JavaSparkContext;
import org.jspecify.annotations.Nullable;

/**
 * One sweep, on the machine that leads it: finds what changed, has it worked out, and puts each
 * server's rows in their place as soon as all its parts are there.
 */
final class Sweeping {
  /** What a row depends on beside survey and lists; a change here works all out again. */
  private static final String FORM = "2";

  /** More tasks than this only cost. */
  static final int MOST_TASKS = 10_000;

  private final JavaSparkContext spark;
  private final Order order;
  private final Store store;
  private final Known known;
  private final String inputs;
  private final String run = UUID.randomUUID().toString();
  private final Consumer<String> progress;
  private final long together;

  private final Map<String, List<Done>> waiting = new HashMap<>();
  private final List<Outcome.Failed> failed = new ArrayList<>();
  private long worked;
  private long accounts;
  private long holdings;
  private long findings;
  private @Nullable IOException broken;

  /**
   * @param together as for {@link Neighbourhoods}
   */
  Sweeping(JavaSparkContext spark, Order order, Consumer<String> progress, long together)
      throws IOException {
    this.spark = spark;
    this.order = order;
    this.progress = progress;
    this.together = together;
    this.store = new Store(order.into(), spark.hadoopConfiguration());
    this.known = Known.of(order.people(), order.labels(), order.now().getEpochSecond());
    this.inputs = Digests.of(FORM + known.people() + known.labels());
  }

  Outcome run() throws BadInput, IOException {
    List<SurveyFile> surveys = surveys();
    if (surveys.isEmpty()) {
      throw new BadInput(
          order.surveys() + " has no surveys; they are files that end with .survey.jsonl");
    }
    for (int at = 1; at < surveys.size(); at++) {
      if (surveys.get(at).server().equals(surveys.get(at - 1).server())) {
        throw new BadInput(
            "two surveys are of "
                + surveys.get(at).server()
                + ": "
                + surveys.get(at - 1).address()
                + " and "
                + surveys.get(at).address());
      }
    }
    Closeable alone = store.lock();
    try {
      return run(surveys);
    } finally {
      alone.close();
    }
  }

  private Outcome run(List<SurveyFile> surveys) throws IOException {
    store.tidy();
    List<SurveyFile> changed = changed(surveys);
    progress.accept(changed.size() + " of " + surveys.size() + " surveys are to be worked out");
    List<String> gone = store.gone(surveys);
    for (String server : gone) {
      store.remove(server);
    }
    work(changed);
    new Arriving(spark, store, known, inputs, run, together).work(surveys, failed);
    store.tidy();
    failed.sort(Comparator.comparing(Outcome.Failed::server));
    return new Outcome(
        worked, surveys.size() - changed.size(), gone, failed, accounts, holdings, findings);
  }

  private List<SurveyFile> surveys() throws BadInput, IOException {
    try {
      return SurveyFile.in(new Path(order.surveys()), spark.hadoopConfiguration());
    } catch (FileNotFoundException missing) {
      throw new BadInput("there is no folder " + order.surveys());
    }
  }

  /** Those that are not as they were, or whose rows would not be. */
  private List<SurveyFile> changed(List<SurveyFile> surveys) {
    if (order.again()) {
      return surveys;
    }
    Store shared = store;
    String expected = inputs;
    long now = known.now();
    return spark
        .parallelize(surveys, Math.min(surveys.size(), MOST_TASKS / 10))
        .filter(survey -> isChanged(survey, shared, expected, now))
        .collect();
  }

  private static boolean isChanged(SurveyFile survey, Store store, String inputs, long now)
      throws IOException {
    Store.State state = store.remembered(survey.server());
    if (state == null || !state.inputs().equals(inputs) || state.until() <= now) {
      return true;
    }
    Path file = new Path(survey.address());
    try {
      return !Digests.of(file, store.configuration()).equals(state.digest());
    } catch (IOException unreadable) {
      // what is the matter is told when it is worked out
      return true;
    }
  }

  private void work(List<SurveyFile> surveys) throws IOException {
    if (surveys.isEmpty()) {
      return;
    }
    List<PartTask> tasks = new ArrayList<>();
    // the largest first, so that none is left over when all else is done
    surveys.stream()
        .sorted(Comparator.comparingLong(SurveyFile::weight).reversed())
        .forEach(
            survey -> {
              int parts = PartTask.parts(survey);
              for (int part = 0; part < parts; part++) {
                tasks.add(new PartTask(survey, part, parts));
              }
            });
    Store shared = store;
    Known told = known;
    String name = run;
    JavaRDD<Done> done =
        spark
            .parallelize(tasks, Math.min(tasks.size(), MOST_TASKS))
            .map(task -> task.run(shared, told, name));
    Jobs.each(done, this::take);
    if (broken != null) {
      throw broken;
    }
  }

  /** Takes what came of a part; called by one thread at a time. */
  private void take(Done part) {
    String server = part.task().survey().server();
    List<Done> parts = waiting.computeIfAbsent(server, none -> new ArrayList<>());
    parts.add(part);
    if (parts.size() < part.task().parts()) {
      return;
    }
    waiting.remove(server);
    parts.sort(Comparator.comparingInt(each -> each.task().part()));
    try {
      whole(server, parts);
    } catch (IOException wrong) {
      broken = broken == null ? wrong : broken;
    }
    long ready = worked + failed.size();
    if (ready % 50 == 0) {
      progress.accept(ready + " servers are worked out");
    }
  }

  private void whole(String server, List<Done> parts) throws IOException {
    String why = parts.stream().map(Done::failed).filter(Objects::nonNull).findFirst().orElse(null);
    Done first = parts.get(0);
    if (why == null
        && parts.stream().anyMatch(each -> !Objects.equals(each.digest(), first.digest()))) {
      why = "the survey was changed while it was read";
    }
    SurveyFile survey = first.task().survey();
    if (why != null) {
      failed.add(new Outcome.Failed(server, survey.address(), why));
      failed(survey, why);
      return;
    }
    long users = 0;
    long rows = 0;
    long found = 0;
    List<Store.Written> written = new ArrayList<>();
    for (Done each : parts) {
      EstateRows.Counts counts = Objects.requireNonNull(each.counts());
      users += counts.accounts();
      rows += counts.holdings();
      found += counts.findings();
      Path folder = new Path(Objects.requireNonNull(each.folder()));
      written.add(new Store.Written(folder, each.tables()));
    }
    EstateRows.Sum sum = Objects.requireNonNull(first.sum());
    try (TableFiles files = new TableFiles(newFolder(server, written), store.configuration())) {
      files.row(
          Table.SERVERS,
          sum.name(),
          sum.kind(),
          sum.version(),
          sum.surveyed(),
          Changes.micros(order.now()),
          survey.address(),
          first.digest(),
          users,
          sum.roles(),
          sum.objects(),
          sum.grants(),
          rows,
          found,
          sum.unread(),
          null);
    }
    String digest = Objects.requireNonNull(first.digest());
    Store.State state =
        new Store.State(digest, inputs, sum.until(), sum.addresses(), sum.leads(), "");
    store.put(server, written, run, state);
    worked++;
    accounts += users;
    holdings += rows;
    findings += found;
  }

  private Path newFolder(String server, List<Store.Written> written) {
    Path own = store.fresh(run, server, "server");
    written.add(new Store.Written(own, Set.of(Table.SERVERS)));
    return own;
  }

  /** What was known of the server stays, with why nothing newer is. */
  private void failed(SurveyFile survey, String why) throws IOException {
    List<Store.Written> written = new ArrayList<>();
    Object[] row = new Object[Table.SERVERS.fields().size()];
    ServerRow before = ServerRow.of(store, survey.server());
    if (before != null) {
      System.arraycopy(before.values(), 0, row, 0, row.length);
    }
    row[ServerRow.at("swept")] = Changes.micros(order.now());
    row[ServerRow.at("survey_file")] = survey.address();
    row[ServerRow.at("failed")] = why;
    try (TableFiles files =
        new TableFiles(newFolder(survey.server(), written), store.configuration())) {
      files.row(Table.SERVERS, row);
    }
    store.putServerRow(survey.server(), written.get(0), run);
  }
}
