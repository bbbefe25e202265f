package fiador.files.ready;

import fiador.columns.HeapColumns;
import fiador.files.WholeFile;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.grants.AccessColumns;
import fiador.grants.AccessColumns.Extents;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFileAttributes;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Objects;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Opens surveys: in their ready form where there is one that can be believed, else by reading all
 * of it, and then has the ready form made for the next question.
 */
public final class ReadySurveys {
  /** What the name of a survey is followed by in that of its ready form. */
  private static final String SUFFIX = ".ready";

  private static final Duration FORGOTTEN = Duration.ofDays(1);

  private final Consumer<String> notes;
  private final Consumer<Runnable> afterwards;

  /**
   * @param notes told why a ready form was not believed
   * @param afterwards takes the making of a ready form, to be done once the answer is given
   */
  public ReadySurveys(Consumer<String> notes, Consumer<Runnable> afterwards) {
    this.notes = notes;
    this.afterwards = afterwards;
  }

  /** Where the ready form of a survey is kept: beside it. */
  public static Path of(Path survey) {
    return survey.resolveSibling(survey.getFileName() + SUFFIX);
  }

  /** Takes away the ready form of a survey that is another now. */
  public static void forget(Path survey) throws IOException {
    Path ready = of(survey);
    if (Files.isRegularFile(ready, LinkOption.NOFOLLOW_LINKS)) {
      Files.delete(ready);
    }
  }

  /**
   * Opens a survey. Cost: the same for any size where there is a ready form; else reading it.
   *
   * @throws SurveyException when it cannot be used
   * @throws IOException when it cannot be read
   */
  public Access read(Path survey) throws SurveyException, IOException {
    Path ready = of(survey);
    if (!Files.isRegularFile(survey) || !Files.exists(ready, LinkOption.NOFOLLOW_LINKS)) {
      return fromSurvey(survey);
    }
    try {
      return fromReady(survey, ready);
    } catch (UnusableException unusable) {
      notes.accept(ready + " " + unusable.getMessage() + "; it is made anew from the survey");
      return fromSurvey(survey);
    } catch (AccessDeniedException notOurs) {
      return SurveyReader.read(survey);
    }
  }

  private Access fromReady(Path survey, Path ready)
      throws SurveyException, IOException, UnusableException {
    ReadyFile file = open(survey, ready, (damaged, why) -> elsewhere(survey, damaged, why));
    try {
      return AccessColumns.take(file);
    } catch (IllegalArgumentException | IndexOutOfBoundsException nonsense) {
      file.close();
      throw new UnusableException("does not hold an estate: " + nonsense.getMessage());
    }
  }

  private static ReadyFile open(Path survey, Path ready, ReadyFile.Elsewhere elsewhere)
      throws IOException, UnusableException {
    if (!Files.isRegularFile(ready, LinkOption.NOFOLLOW_LINKS)) {
      throw new UnusableException("is no ordinary file");
    }
    if (!Stamp.trusts(survey, ready)) {
      throw new UnusableException("is not from whoever may write the survey");
    }
    ReadyBytes bytes = ReadyBytes.open(ready);
    try {
      ReadyFile file = ReadyFile.open(bytes, elsewhere);
      if (!file.survey().equals(Stamp.of(survey))) {
        throw new UnusableException("is of an older survey");
      }
      return file;
    } catch (IOException | UnusableException unusable) {
      bytes.close();
      throw unusable;
    }
  }

  private Access fromSurvey(Path survey) throws SurveyException, IOException {
    Stamp before = Files.isRegularFile(survey) ? Stamp.of(survey) : null;
    boolean settled = before != null && before.settles();
    Access access = SurveyReader.read(survey);
    if (before != null && settled) {
      make(survey, before, access);
    }
    return access;
  }

  /**
   * All columns as they should be, where some of the ready form are damaged. What was taken from it
   * until then was right, so the rest must be exactly what once stood there too.
   */
  private HeapColumns elsewhere(Path survey, ReadyFile damaged, String why) {
    notes.accept(of(survey) + " " + why + "; it is made anew from the survey");
    HeapColumns columns = new HeapColumns();
    try {
      Access access = SurveyReader.read(survey);
      Extents extents = Extents.of(access);
      ReadyWriter again = new ReadyWriter(OutputStream.nullOutputStream());
      AccessColumns.put(access, extents, again);
      if (!damaged.has(again.columns())) {
        forget(survey);
        throw new IOException(of(survey) + " was damaged and is taken away; ask again");
      }
      AccessColumns.put(access, extents, columns);
      make(survey, damaged.survey(), access);
    } catch (SurveyException unreadable) {
      throw new UncheckedIOException(new IOException(unreadable.getMessage(), unreadable));
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
    return columns;
  }

  private void make(Path survey, Stamp before, Access access) {
    Extents extents = Extents.of(access);
    afterwards.accept(() -> tryToMake(survey, before, access, extents));
  }

  private void tryToMake(Path survey, Stamp before, Access access, Extents extents) {
    Path ready = of(survey);
    try {
      make(survey, before, access, extents, ready);
    } catch (UncheckedIOException failed) {
      notMade(ready, Objects.requireNonNull(failed.getCause()));
    } catch (IOException failed) {
      notMade(ready, failed);
    }
  }

  private void notMade(Path ready, IOException why) {
    // where nothing can be kept nothing is expected to be
    if (Files.isWritable(ready.toAbsolutePath().getParent())) {
      notes.accept(
          ready + " could not be written: " + why.getMessage() + "; the next answer takes as long");
    }
  }

  private static void make(Path survey, Stamp before, Access access, Extents extents, Path ready)
      throws IOException {
    if (!before.equals(Stamp.of(survey))) {
      return;
    }
    sweep(ready);
    byte[] digest = digest(survey);
    if (!before.equals(Stamp.of(survey))) {
      return;
    }
    WholeFile.write(
        ready,
        out -> {
          ReadyWriter writer = new ReadyWriter(out);
          AccessColumns.put(access, extents, writer);
          writer.end(before, digest);
        });
    PosixFileAttributeView view = Files.getFileAttributeView(ready, PosixFileAttributeView.class);
    if (view != null) {
      view.setPermissions(Files.readAttributes(survey, PosixFileAttributes.class).permissions());
    }
  }

  /** Takes away what somebody began to write who was stopped. */
  private static void sweep(Path ready) throws IOException {
    Path folder = ready.toAbsolutePath().getParent();
    try (DirectoryStream<Path> parts =
        Files.newDirectoryStream(
            folder,
            file -> isPart(file.getFileName().toString(), ready.getFileName().toString()))) {
      for (Path part : parts) {
        Instant written = Files.getLastModifiedTime(part, LinkOption.NOFOLLOW_LINKS).toInstant();
        if (written.isBefore(Instant.now().minus(FORGOTTEN))) {
          Files.deleteIfExists(part);
        }
      }
    }
  }

  private static boolean isPart(String file, String ready) {
    return file.startsWith("." + ready) && file.endsWith(".part");
  }

  private static byte[] digest(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      byte[] buffer = new byte[1 << 16];
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        digest.update(buffer, 0, read);
      }
      return digest.digest();
    } catch (NoSuchAlgorithmException never) {
      throw new IllegalStateException("every Java has SHA-256", never);
    }
  }

  /**
   * What came of checking a ready form.
   *
   * @param pieces how many pieces were checked; 0 where there is none
   * @param wrong what is the matter with it; null where it is right
   */
  public record Verified(int pieces, @Nullable String wrong) {}

  /** Reads and checks all of the ready form of a survey, and that it is of what the survey says. */
  public static Verified verify(Path survey) throws IOException {
    Path ready = of(survey);
    if (!Files.exists(ready, LinkOption.NOFOLLOW_LINKS)) {
      return new Verified(0, "is not there");
    }
    try {
      ReadyFile file =
          open(
              survey,
              ready,
              (damaged, why) -> {
                throw new IllegalStateException(why);
              });
      try {
        int pieces = file.verify();
        boolean same = Arrays.equals(file.digest(), digest(survey));
        return new Verified(pieces, same ? null : "is of another survey");
      } finally {
        file.close();
      }
    } catch (UnusableException unusable) {
      return new Verified(0, unusable.getMessage());
    }
  }
}
