package fiador.sweep.spark;

import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import fiador.sweep.estate.Arrivals;
import fiador.sweep.estate.Known;
import fiador.sweep.tables.TableFiles;
import java.io.IOException;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.UUID;
import org.apache.hadoop.fs.Path;
import org.jspecify.annotations.Nullable;

/**
 * Works out who comes to some servers over others.
 *
 * @param targets to which somebody may come
 * @param members those whose surveys have to be at hand, the targets among them
 * @param digest of all their surveys
 */
record ArrivalTask(ArrayList<Member> targets, ArrayList<Member> members, String digest)
    implements Serializable {
  /**
   * One of them.
   *
   * @param state what is remembered of it
   */
  record Member(SurveyFile survey, Store.State state) implements Serializable {}

  /**
   * What came of it.
   *
   * @param folders where the rows of each are that has some
   * @param failed why there are none; null where all went well
   */
  record Done(ArrivalTask task, HashMap<String, String> folders, @Nullable String failed)
      implements Serializable {}

  Done run(Store store, Known known, String run) {
    try {
      return new Done(this, work(store, known, run), null);
    } catch (SurveyException
        | IOException
        | RuntimeException
        | OutOfMemoryError
        | StackOverflowError fault) {
      return failed(Faults.why(fault));
    }
  }

  private Done failed(String why) {
    return new Done(this, new HashMap<>(), why);
  }

  private HashMap<String, String> work(Store store, Known known, String run)
      throws IOException, SurveyException {
    Map<String, Access> servers = new LinkedHashMap<>();
    for (Member each : members) {
      String[] digest = new String[1];
      servers.put(
          each.survey().server(), PartTask.read(each.survey(), store.configuration(), digest));
      if (!each.state().digest().equals(digest[0])) {
        throw new IOException(each.survey().address() + " was changed while it was read");
      }
    }
    Arrivals arrivals = new Arrivals(servers, known);
    HashMap<String, String> folders = new HashMap<>();
    for (Member target : targets) {
      String server = target.survey().server();
      Path folder = store.fresh(run, server, "arrivals-" + UUID.randomUUID());
      try (TableFiles files = new TableFiles(folder, store.configuration())) {
        arrivals.write(server, files);
        if (!files.written().isEmpty()) {
          folders.put(server, folder.toString());
        }
      }
    }
    return folders;
  }
}
