package fiador.files.ready;

import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.function.Consumer;

/**
 * The ready forms of surveys that a ledger keeps, in a folder beside it, each under the digest of
 * what it was made of. A history reads many surveys, so each is made at once, not when the answer
 * is given: else all of them had to be held until then. Together they may take up some room; when
 * that is full, those that were not used for a day go.
 */
public final class ReadyStates {
  private static final String SUFFIX = ".ready";
  private static final Duration UNUSED = Duration.ofDays(1);

  private final Path ledger;
  private final long room;
  private final Consumer<String> notes;

  /**
   * @param ledger the ledger's file
   * @param room how many bytes all of them may have together, before those not used for a day go
   * @param notes told why a ready form was not believed
   */
  public ReadyStates(Path ledger, long room, Consumer<String> notes) {
    this.ledger = ledger;
    this.room = room;
    this.notes = notes;
  }

  /** Where all that is kept beside a ledger's file is. */
  static Path folder(Path ledger) {
    return ledger.resolveSibling(ledger.getFileName() + SUFFIX);
  }

  /** Reads a survey from the ledger. */
  public interface Reading {
    /** All of it. */
    Access read() throws SurveyException, IOException;
  }

  /**
   * A survey of the ledger.
   *
   * @param digest names what it says, to the last letter: a SHA-256
   * @param whole reads it where there is no ready form
   */
  public Access read(byte[] digest, Reading whole) throws SurveyException, IOException {
    Path folder = folder(ledger);
    Path file = folder.resolve(HexFormat.of().formatHex(digest) + SUFFIX);
    Consumer<Runnable> atOnce =
        making -> {
          if (isRoom(folder)) {
            making.run();
          }
        };
    StateWhole state = new StateWhole(ledger, digest, whole);
    Access access = new ReadyForm(file, state, notes, atOnce).open();
    used(file);
    return access;
  }

  private static void used(Path file) {
    try {
      Files.setLastModifiedTime(file, FileTime.from(Instant.now()));
    } catch (IOException notOurs) {
      // there is none, or another account decides how long it stays
    }
  }

  private boolean isRoom(Path folder) {
    List<File> forms = new ArrayList<>();
    File[] found = folder.toFile().listFiles((place, name) -> name.endsWith(SUFFIX));
    forms.addAll(found == null ? List.of() : List.of(found));
    forms.sort(Comparator.comparing(File::lastModified));
    long taken = forms.stream().mapToLong(File::length).sum();
    Instant used = Instant.now().minus(UNUSED);
    for (File form : forms) {
      boolean old = Instant.ofEpochMilli(form.lastModified()).isBefore(used);
      if (taken >= room && old) {
        long length = form.length();
        taken -= form.delete() ? length : 0;
      }
    }
    return taken < room;
  }

  private record StateWhole(Path ledger, byte[] digest, Reading whole) implements Whole {
    @Override
    public String called() {
      return "the ledger";
    }

    @Override
    public Path keeper() {
      return ledger;
    }

    @Override
    public void check(ReadyFile form) throws UnusableException {
      if (!Arrays.equals(form.digest(), digest)) {
        throw new UnusableException("is of another survey");
      }
    }

    @Override
    public Read read() throws SurveyException, IOException {
      Access access = whole.read();
      return new Read(access, () -> new Label(Stamp.NONE, digest));
    }
  }
}
