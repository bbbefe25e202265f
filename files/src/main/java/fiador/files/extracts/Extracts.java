package fiador.files.extracts;

import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.houses.BadRowException;
import fiador.houses.FactSource;
import fiador.houses.HouseSheet;
import fiador.houses.SheetSurvey;
import fiador.sqltext.lineage.SheetTexts;
import io.airlift.compress.MalformedInputException;
import java.io.EOFException;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.zip.ZipException;
import org.jspecify.annotations.Nullable;

/**
 * Makes an estate of files that were exported from a server's catalog. Cost: their size; memory:
 * the estate.
 */
public final class Extracts {
  private static final int MOST_PROBLEMS = 100;
  private static final Duration FAR_APART = Duration.ofDays(1);

  private final HouseSheet sheet;
  private final ExtractFiles files;
  private final SheetSurvey survey;
  private final Consumer<String> notes;
  private final List<String> problems = new ArrayList<>();
  private @Nullable Path oldest;
  private @Nullable Path newest;

  private Extracts(HouseSheet sheet, Path folder, String server, Consumer<String> notes) {
    this.sheet = sheet;
    this.files = new ExtractFiles(folder);
    this.survey = new SheetSurvey(sheet, server);
    this.notes = notes;
  }

  /**
   * Reads them.
   *
   * @param server what the survey calls the server
   * @param notes told what is not known, and what was left out
   * @return as of when the oldest of the files was written
   * @throws ExtractException naming file, line and column of all that is wrong, up to a hundred
   */
  public static Access read(HouseSheet sheet, Path folder, String server, Consumer<String> notes)
      throws ExtractException, IOException {
    if (!Files.isDirectory(folder)) {
      throw new ExtractException("there is no folder " + folder + " with extracts");
    }
    return new Extracts(sheet, folder, server, notes).read();
  }

  private Access read() throws ExtractException, IOException {
    for (List<FactSource> sources : SheetSurvey.together(sheet.reading())) {
      read(sources);
    }
    if (!problems.isEmpty()) {
      String more = problems.size() >= MOST_PROBLEMS ? "\nand perhaps more" : "";
      throw new ExtractException(String.join("\n", problems) + more);
    }
    survey.skipped().forEach(notes);
    survey.notKnown().forEach(notes);
    Origin about = new Origin(server(), sheet.kind(), "", taken());
    return survey.build(about, new SheetTexts(sheet));
  }

  private String server() {
    return survey.server();
  }

  private Instant taken() throws IOException {
    if (oldest == null || newest == null) {
      return Instant.EPOCH;
    }
    Instant first = ExtractFiles.written(oldest);
    Instant last = ExtractFiles.written(newest);
    if (Duration.between(first, last).compareTo(FAR_APART) > 0) {
      notes.accept(
          oldest.getFileName()
              + " was written "
              + Duration.between(first, last).toDays()
              + " day(s) before "
              + newest.getFileName()
              + ": what is answered may never have been so at one time");
    }
    return first;
  }

  private void read(List<FactSource> sources) throws IOException {
    FactSource first = sources.get(0);
    String what = first.sort().word().replace('_', ' ');
    if (first.extract() == null) {
      notes.accept("the sheet knows no extract with these " + what + "; nothing is known of them");
      return;
    }
    List<Path> found = files.named(first.extract());
    if (found.isEmpty()) {
      String missing = "there is no file " + first.extract() + " with the " + what;
      if (first.optional()) {
        notes.accept(missing + "; nothing is known of them");
      } else {
        problem(missing);
      }
    }
    for (Path file : found) {
      seen(file);
      read(sources, file);
    }
  }

  private void seen(Path file) throws IOException {
    Instant written = ExtractFiles.written(file);
    oldest = oldest == null || written.isBefore(ExtractFiles.written(oldest)) ? file : oldest;
    newest = newest == null || written.isAfter(ExtractFiles.written(newest)) ? file : newest;
  }

  private void problem(String what) {
    if (problems.size() < MOST_PROBLEMS) {
      problems.add(what);
    }
  }

  private void read(List<FactSource> sources, Path file) throws IOException {
    Path name = file.getFileName();
    long line = 1;
    try (Table table = ExtractFiles.open(file)) {
      List<SheetSurvey.Rows> takers = new ArrayList<>();
      for (FactSource source : sources) {
        try {
          takers.add(survey.begin(source, table.header()));
        } catch (BadRowException missing) {
          problem(name + ":1: " + missing.getMessage());
          return;
        }
      }
      boolean more = true;
      while (more && problems.size() < MOST_PROBLEMS) {
        try {
          more = table.next();
          for (int i = 0; more && i < takers.size(); i++) {
            takers.get(i).take(table);
          }
        } catch (BadRowException bad) {
          String column = bad.column() < 0 ? "" : ":" + table.header().get(bad.column());
          problem(name + ":" + table.line() + column + ": " + bad.getMessage());
        } catch (BrokenRowException broken) {
          problem(name + ":" + broken.line() + ": " + broken.getMessage());
          more = !broken.last();
        }
        line = table.line();
      }
    } catch (BrokenRowException broken) {
      problem(name + ":" + broken.line() + ": " + broken.getMessage());
    } catch (CharacterCodingException wrong) {
      problem(name + ":" + line + ": behind this line something is not in UTF-8");
    } catch (ZipException | EOFException | MalformedInputException damaged) {
      problem(name + ":" + line + ": behind this line the file is damaged, or cut off");
    }
  }
}
