package fiador.cli.tidy;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Options;
import fiador.cli.shell.People;
import fiador.evidence.Evidence;
import fiador.evidence.Identities;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.files.usage.UsageReader;
import fiador.findings.check.Expected;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.work.charters.Charters;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Commands that review an estate, with what a charter expects of it where there is one. */
public abstract class Reviewing extends Asking {
  protected Path charterFolder;
  protected List<Path> usage = List.of();
  protected People people = new People();

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--charter",
        "DIR",
        Path.class,
        value -> charterFolder = value,
        "The charter that says what is expected; else the one asked, if any.");
    options.list(
        "--usage",
        "LOG",
        Path.class,
        value -> usage = value,
        "A server's log of what was used; can be given several times.");
    people.options(options);
  }

  /** What was used, or null where no log was given. */
  public Evidence evidence(Access access) throws Refusal, IOException {
    if (usage.isEmpty()) {
      return null;
    }
    Evidence evidence = UsageReader.read(access, usage, this::say);
    if (evidence == null) {
      throw new BadInput("the logs hold nothing");
    }
    evidence.examples().forEach(example -> say("note: not understood: " + example));
    return evidence;
  }

  /** The people there are, or null where no list was given. */
  public Identities identities() throws Refusal, IOException {
    return people.read();
  }

  /** The folder of the charter that goes with what is asked; null for a survey alone. */
  public Path charterFolder() {
    boolean survey = from != null && Files.isRegularFile(Path.of(from));
    if (charterFolder != null || survey) {
      return charterFolder;
    }
    return folderOf(from);
  }

  /** The folder asked about, or this one. */
  static Path folderOf(String from) {
    return from != null && Files.isDirectory(Path.of(from)) ? Path.of(from) : Path.of("");
  }

  /** What the charter expects of the server that is asked; nothing without a charter. */
  protected static Expected expected(@Nullable Charter charter, Access access) {
    return charter == null ? Expected.NOTHING : charter.on(access.about().server()).expected();
  }

  /** The charter that goes with what is asked, or null. */
  public Charter charter() throws CharterException, IOException {
    Path folder = charterFolder();
    boolean there = folder != null && Files.isRegularFile(folder.resolve(CharterReader.ROOT));
    return there || charterFolder != null ? Charters.read(folder) : null;
  }
}
