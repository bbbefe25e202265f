package fiador.files.ready;

import fiador.columns.HeapColumns;
import fiador.files.Kept;
import fiador.files.WholeFile;
import fiador.files.survey.SurveyException;
import fiador.grants.Access;
import fiador.grants.AccessColumns;
import fiador.grants.AccessColumns.Extents;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFileAttributes;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import java.util.function.Consumer;

/** One ready form: opening it where it can be believed, and making it where not. */
final class ReadyForm {
  private static final Duration FORGOTTEN = Duration.ofDays(1);

  private final Path file;
  private final Whole whole;
  private final Consumer<String> notes;
  private final Consumer<Runnable> afterwards;

  ReadyForm(Path file, Whole whole, Consumer<String> notes, Consumer<Runnable> afterwards) {
    this.file = file;
    this.whole = whole;
    this.notes = notes;
    this.afterwards = afterwards;
  }

  /** The estate; from the ready form, else from all of what that is made of. */
  Access open() throws SurveyException, IOException {
    if (!Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
      return fromWhole();
    }
    try {
      return fromFile();
    } catch (UnusableException unusable) {
      notes.accept(file + " " + unusable.getMessage() + madeAnew());
      return fromWhole();
    } catch (AccessDeniedException notOurs) {
      return whole.read().access();
    } catch (NoSuchFileException gone) {
      return fromWhole();
    } catch (IOException unreadable) {
      notes.accept(file + " cannot be read (" + unreadable.getMessage() + ")" + madeAnew());
      return fromWhole();
    }
  }

  private String madeAnew() {
    return "; it is made anew from " + whole.called();
  }

  private Access fromFile() throws IOException, UnusableException {
    ReadyFile form = file(file, whole, this::elsewhere);
    try {
      return AccessColumns.take(form);
    } catch (IllegalArgumentException | IndexOutOfBoundsException nonsense) {
      form.close();
      throw new UnusableException("does not hold an estate: " + nonsense.getMessage());
    }
  }

  /**
   * Opens the file.
   *
   * @throws UnusableException when it cannot be believed
   */
  static ReadyFile file(Path file, Whole whole, ReadyFile.Elsewhere elsewhere)
      throws IOException, UnusableException {
    if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
      throw new UnusableException("is no ordinary file");
    }
    if (!Kept.trusts(whole.keeper(), file)) {
      throw new UnusableException("is not from whoever may write " + whole.called());
    }
    ReadyBytes bytes = ReadyBytes.open(file);
    try {
      ReadyFile form = ReadyFile.open(bytes, elsewhere);
      whole.check(form);
      return form;
    } catch (IOException | UnusableException unusable) {
      bytes.close();
      throw unusable;
    }
  }

  private Access fromWhole() throws SurveyException, IOException {
    Whole.Read read = whole.read();
    make(read);
    return read.access();
  }

  /**
   * All columns as they should be, where some are damaged. What was taken from the file until then
   * was right, so the rest must be exactly what once stood there too.
   */
  private HeapColumns elsewhere(ReadyFile damaged, String why) {
    notes.accept(file + " " + why + madeAnew());
    HeapColumns columns = new HeapColumns();
    try {
      Whole.Read read = whole.read();
      Extents extents = Extents.of(read.access());
      ReadyWriter again = new ReadyWriter(OutputStream.nullOutputStream());
      AccessColumns.put(read.access(), extents, again);
      if (!damaged.has(again.columns())) {
        Files.deleteIfExists(file);
        throw new IOException(file + " was damaged and is taken away; ask again");
      }
      AccessColumns.put(read.access(), extents, columns);
      make(read);
    } catch (SurveyException unreadable) {
      throw new UncheckedIOException(new IOException(unreadable.getMessage(), unreadable));
    } catch (IOException failed) {
      throw new UncheckedIOException(failed);
    }
    return columns;
  }

  private void make(Whole.Read read) {
    Extents extents = Extents.of(read.access());
    afterwards.accept(
        () -> {
          try {
            make(read, extents);
          } catch (IOException | RuntimeException | OutOfMemoryError failed) {
            // the answer is given, and stays right
            notMade(failed);
          }
        });
  }

  private void notMade(Throwable failed) {
    // where nothing can be kept nothing is expected to be
    if (Files.isWritable(folder())) {
      String why =
          failed instanceof UncheckedIOException wrapped && wrapped.getCause() != null
              ? wrapped.getCause().getMessage()
              : failed.getMessage();
      notes.accept(file + " could not be written: " + why + "; the next answer takes as long");
    }
  }

  private Path folder() {
    return Objects.requireNonNull(file.toAbsolutePath().getParent(), "a file is in a folder");
  }

  private void make(Whole.Read read, Extents extents) throws IOException {
    Whole.Label label = read.label().now();
    if (label == null) {
      return;
    }
    WholeFile.write(
        file,
        out -> {
          ReadyWriter writer = new ReadyWriter(out);
          AccessColumns.put(read.access(), extents, writer);
          writer.end(label.stamp(), label.digest());
        });
    PosixFileAttributeView view = Files.getFileAttributeView(file, PosixFileAttributeView.class);
    if (view != null) {
      Path keeper = whole.keeper();
      view.setPermissions(Files.readAttributes(keeper, PosixFileAttributes.class).permissions());
    }
    sweep();
  }

  /** Takes away what somebody began to write who was stopped. */
  private void sweep() throws IOException {
    String begun = "." + file.getFileName();
    try (DirectoryStream<Path> parts =
        Files.newDirectoryStream(
            folder(),
            each -> {
              String name = each.getFileName().toString();
              return name.startsWith(begun) && name.endsWith(".part");
            })) {
      for (Path part : parts) {
        if (isForgotten(part)) {
          Files.deleteIfExists(part);
        }
      }
    }
  }

  private static boolean isForgotten(Path part) throws IOException {
    try {
      Instant written = Files.getLastModifiedTime(part, LinkOption.NOFOLLOW_LINKS).toInstant();
      return written.isBefore(Instant.now().minus(FORGOTTEN));
    } catch (NoSuchFileException done) {
      // whoever was writing it has just finished
      return false;
    }
  }
}
