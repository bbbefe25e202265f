package fiador.cli.shell;

import fiador.files.charter.Charter;
import fiador.files.ready.ReadySurveys;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.function.Consumer;

/** What a charter is compared with: a survey file, a server surveyed afresh, or what was kept. */
public final class Compared {
  private final Charter charter;
  private final Path folder;
  private final String from;
  private final Charter.ServerEntry entry;

  /**
   * @param folder the charter's
   * @param from a survey file or a server of the charter; null for the newest survey, or else the
   *     server
   * @param server the server that is meant; null where there is one, or {@code from} names it
   */
  public Compared(Charter charter, Path folder, String from, String server) throws BadInput {
    this.charter = charter;
    this.folder = folder;
    this.from = from;
    this.entry = Charters.server(charter, server == null && isServer() ? from : server);
  }

  /** The server. */
  public Charter.ServerEntry entry() {
    return entry;
  }

  private boolean isServer() {
    return from != null && charter.servers().containsKey(from);
  }

  /** The estate as it is. */
  public Access before(ReadySurveys surveys, Clock clock, Consumer<String> notes)
      throws Refusal, IOException {
    if (from != null && !isServer()) {
      Path file = Path.of(from);
      if (!Files.isRegularFile(file)) {
        throw new BadInput("--from " + from + " is no survey file and no server of the charter");
      }
      Access survey = surveys.read(file);
      if (!survey.about().kind().equals(entry.kind())) {
        throw new BadInput(
            from
                + " is the survey of a "
                + survey.about().kind()
                + ", and "
                + entry.name()
                + " is a "
                + entry.kind());
      }
      return survey;
    }
    Path kept = Surveys.file(folder, entry.name());
    if (from == null && Files.isRegularFile(kept)) {
      return surveys.read(kept);
    }
    return Surveys.take(charter, entry, clock.instant(), notes);
  }
}
