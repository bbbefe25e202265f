package fiador.work.charters;

import fiador.changes.steps.Step;
import fiador.files.WholeFile;
import fiador.grants.Access;
import fiador.refusal.Refusal;
import fiador.servers.kind.Script;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Files with statements, for somebody else to run. */
public final class Scripts {
  private Scripts() {}

  /**
   * Writes one.
   *
   * @param folder where the server's house sheet may be; null for here
   * @param access what the steps were worked out from
   */
  public static void write(Path file, @Nullable Path folder, Access access, List<Step> steps)
      throws Refusal, IOException {
    String text = Script.of(Dialects.of(folder, access), access.about(), steps);
    WholeFile.write(file, text);
  }
}
