package fiador.work.charters;

import fiador.changes.steps.Step;
import fiador.files.WholeFile;
import fiador.grants.Access;
import fiador.servers.Servers;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Script;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** Files with statements, for somebody else to run. */
public final class Scripts {
  private Scripts() {}

  /** Writes one; {@code access} is what the steps were worked out from. */
  public static void write(Path file, Access access, List<Step> steps)
      throws ServerException, IOException {
    String text =
        Script.of(Servers.named(access.about().kind()).orElseThrow(), access.about(), steps);
    WholeFile.write(file, text);
  }
}
