package fiador.work.charters;

import fiador.changes.wanted.Accounts;
import fiador.estate.Nearest;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.files.charter.CharterReader;
import fiador.refusal.BadInput;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;

/** Charters and their servers, by what the user typed. */
public final class Charters {
  private Charters() {}

  public static Charter read(Path folder) throws CharterException, IOException {
    return CharterReader.read(folder, Environment::variable);
  }

  /** What users are called on the servers of the charter in a folder, if there is one. */
  public static Accounts accounts(Path folder) throws CharterException, IOException {
    return Files.isRegularFile(folder.resolve(CharterReader.ROOT))
        ? read(folder).expected().accounts()
        : Accounts.SAME;
  }

  /** The server of that name, or the only one. */
  public static Charter.ServerEntry server(Charter charter, @Nullable String name) throws BadInput {
    if (charter.servers().isEmpty()) {
      throw new BadInput("the charter names no server; add one under \"servers\"");
    }
    if (name == null) {
      if (charter.servers().size() > 1) {
        throw new BadInput(
            "the charter has several servers; name one of "
                + String.join(", ", charter.servers().keySet()));
      }
      return charter.servers().values().iterator().next();
    }
    Charter.ServerEntry server = charter.servers().get(name);
    if (server == null) {
      throw new BadInput(
          "the charter has no server "
              + name
              + Nearest.hint(name, charter.servers().keySet().stream())
              + " (it has "
              + String.join(", ", charter.servers().keySet())
              + ")");
    }
    return server;
  }
}
