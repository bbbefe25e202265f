package fiador.bench;

import fiador.effects.Holders;
import fiador.effects.Holdings;
import fiador.effects.Tracer;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.files.ready.ReadySurveys;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * A survey file in its ready form, in a fresh JVM: {@code ReadyBench make FILE} reads it and makes
 * the ready form; {@code ReadyBench generate FILE SIZE} writes an estate first; {@code ReadyBench
 * ask FILE} opens that and asks one question of each kind, the first ever asked.
 */
public final class ReadyBench {
  private ReadyBench() {}

  private interface Work<T> {
    T run() throws Exception;
  }

  private static <T> T timed(String what, Work<T> work) throws Exception {
    long start = System.nanoTime();
    T result = work.run();
    System.out.printf("%-40s %10.2f ms%n", what, (System.nanoTime() - start) / 1e6);
    return result;
  }

  /** Runs it. */
  public static void main(String[] args) throws Exception {
    Locale.setDefault(Locale.ROOT);
    Path file = Path.of(args[1]);
    if (args[0].equals("generate")) {
      Access access =
          timed(
              "generate",
              () -> new EstateGenerator(EstateGenerator.Size.valueOf(args[2]), 1).generate());
      timed(
          "write",
          () -> {
            SurveyWriter.write(access, file);
            return null;
          });
    } else if (args[0].equals("make")) {
      boolean twice = args.length < 3;
      Files.deleteIfExists(ReadySurveys.of(file));
      if (twice) {
        timed("load", () -> SurveyReader.read(file));
      }
      List<Runnable> afterwards = new ArrayList<>();
      ReadySurveys surveys = new ReadySurveys(System.out::println, afterwards::add);
      timed("load, and see whether it changes", () -> surveys.read(file));
      timed(
          "make the ready form",
          () -> {
            afterwards.forEach(Runnable::run);
            return null;
          });
      System.out.printf(
          "%d MB of %d MB%n", Files.size(ReadySurveys.of(file)) >> 20, Files.size(file) >> 20);
    } else {
      ReadySurveys surveys = new ReadySurveys(System.out::println, later -> {});
      Clock clock = Clock.systemUTC();
      Access access = timed("open", () -> surveys.read(file));
      int user = access.principals().size() / 2;
      int table = access.tree().size() / 2;
      timed(
          "trace",
          () -> new Tracer(access, clock).trace(user, Privilege.SELECT, table, None.COLUMN, 100));
      timed("holdings, counted", () -> new Holdings(access, clock, false).count(user));
      timed("holdings, counted again", () -> new Holdings(access, clock, false).count(user));
      timed("holders", () -> new Holders(access, clock).of(table).size());
      Runtime memory = Runtime.getRuntime();
      System.out.printf("%d MB in use%n", (memory.totalMemory() - memory.freeMemory()) >> 20);
    }
  }
}
