package fiador.bench;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * One load of a survey file, or one bare scan of its tokens, in a fresh JVM: {@code LoadBench load
 * FILE} or {@code LoadBench scan FILE}.
 */
public final class LoadBench {
  private LoadBench() {}

  /** Runs it. */
  public static void main(String[] args) throws Exception {
    Path file = Path.of(args[1]);
    long start = System.nanoTime();
    long count = 0;
    if (args[0].equals("scan")) {
      try (InputStream in = Files.newInputStream(file);
          JsonParser json = new JsonFactory().createParser(in)) {
        while (json.nextToken() != null) {
          count++;
        }
      }
    } else {
      Access access = SurveyReader.read(file);
      count = access.grants().size();
    }
    System.out.printf(
        "%s: %.2f s, %d MB file, %d%n",
        args[0], (System.nanoTime() - start) / 1e9, Files.size(file) >> 20, count);
  }
}
