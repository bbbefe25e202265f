package fiador.bench;

import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.sweep.estate.EstateRows;
import fiador.sweep.estate.Known;
import fiador.sweep.tables.Sink;
import fiador.sweep.tables.TableFiles;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;
import org.apache.hadoop.conf.Configuration;

/** What a sweep does, in one loop and without Spark. */
public final class SweepLoop {
  private SweepLoop() {}

  /** Takes the folder of the surveys, and where to write; without that nothing is kept. */
  public static void main(String[] args) throws Exception {
    Configuration configuration = new Configuration();
    Known known = Known.of(null, List.of(), System.currentTimeMillis() / 1000);
    List<Path> surveys;
    try (var files = Files.list(Path.of(args[0]))) {
      surveys = files.filter(file -> file.toString().endsWith(".survey.jsonl")).sorted().toList();
    }
    long holdings = 0;
    for (Path survey : surveys) {
      Access access = SurveyReader.read(survey);
      EstateRows rows = new EstateRows(access, known);
      if (args.length == 1) {
        Sink nowhere = (table, values) -> {};
        holdings += rows.write("server", 0, 1, nowhere).holdings();
      } else {
        var folder = new org.apache.hadoop.fs.Path(args[1], UUID.randomUUID().toString());
        try (TableFiles files = new TableFiles(folder, configuration)) {
          holdings += rows.write("server", 0, 1, files).holdings();
        }
      }
    }
    System.out.println(holdings + " holdings of " + surveys.size() + " servers");
  }
}
