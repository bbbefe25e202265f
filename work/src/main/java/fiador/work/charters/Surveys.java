package fiador.work.charters;

import fiador.changes.Seals;
import fiador.files.Kept;
import fiador.files.charter.Charter;
import fiador.files.charter.Charter.ServerEntry;
import fiador.files.charter.CharterReader;
import fiador.files.extracts.Extracts;
import fiador.files.ready.ReadySurveys;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.refusal.Refusal;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.jdbc.Transport;
import fiador.servers.kind.Server;
import fiador.servers.sheet.SheetServer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Where surveys of a charter's servers are kept, and how they are taken. */
public final class Surveys {
  private Surveys() {}

  /** The newest survey of a server. */
  public static Path file(Path charterFolder, String server) {
    return charterFolder.resolve(".fiador").resolve(Kept.name(server) + ".survey.jsonl");
  }

  /** The only survey there is, so that the charter need not be read; null when there are others. */
  public static @Nullable Path only(Path charterFolder) throws IOException {
    Path kept = charterFolder.resolve(".fiador");
    if (!Files.isRegularFile(charterFolder.resolve(CharterReader.ROOT))
        || !Files.isDirectory(kept)) {
      return null;
    }
    try (Stream<Path> files = Files.list(kept)) {
      List<Path> surveys = files.filter(file -> file.toString().endsWith(".survey.jsonl")).toList();
      return surveys.size() == 1 ? surveys.get(0) : null;
    }
  }

  public static Server kind(ServerEntry entry) {
    return entry.house() == null
        ? Servers.named(entry.kind()).orElseThrow()
        : new SheetServer(entry.house(), entry.drivers().stream().map(Path::of).toList());
  }

  public static Login login(ServerEntry entry) {
    Charter.Line line = entry.line();
    Transport usual = Transport.USUAL;
    Transport transport =
        new Transport(
            Transport.Tls.of(line.tls()),
            line.authority(),
            or(line.connectSeconds(), usual.connectSeconds()),
            or(line.statementSeconds(), usual.statementSeconds()),
            or(line.lockSeconds(), usual.lockSeconds()));
    String keeper = entry.keeper().isEmpty() ? entry.login() : entry.keeper();
    return new Login(entry.url(), entry.login(), entry.password(), transport, keeper);
  }

  private static int or(int said, int usual) {
    return said == 0 ? usual : said;
  }

  public static Access take(Charter charter, ServerEntry entry, Instant now, Consumer<String> notes)
      throws Refusal, IOException {
    return take(charter, entry, List.of(), now, notes);
  }

  /** Surveys a server, some of its databases or all, and notes what the charter seals there. */
  public static Access take(
      Charter charter,
      ServerEntry entry,
      List<String> databases,
      Instant now,
      Consumer<String> notes)
      throws Refusal, IOException {
    if (entry.extracts().isEmpty()) {
      return live(charter, entry, databases, now, notes);
    }
    Path folder = Path.of(entry.extracts());
    return sealed(charter, Extracts.read(entry.house(), folder, entry.name(), notes));
  }

  /**
   * The same, of a server that is asked itself.
   *
   * @throws ServerException also where there are only extracts of it
   */
  public static Access live(
      Charter charter,
      ServerEntry entry,
      List<String> databases,
      Instant now,
      Consumer<String> notes)
      throws ServerException {
    if (!entry.extracts().isEmpty()) {
      throw new ServerException(
          entry.name()
              + " is known from extracts alone, and nothing is carried out there: fiador gap"
              + " --script FILE writes the statements for whoever can reach it",
          null);
    }
    return sealed(charter, kind(entry).survey(login(entry), entry.name(), databases, now, notes));
  }

  private static Access sealed(Charter charter, Access access) {
    return Seals.noted(access, charter.on(access.about().server()).wanted().sight().seals());
  }

  /** Writes a survey; the ready form of what was there before goes. */
  public static void write(Access access, Path file) throws IOException {
    SurveyWriter.write(access, file);
    ReadySurveys.forget(file);
  }
}
