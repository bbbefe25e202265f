package fiador.cli.shell;

import fiador.changes.Gap;
import fiador.changes.steps.Step;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/** Commands that compare a charter with one of its servers. */
public abstract class Change extends Common {
  protected String server;
  public Path folder = Path.of("");
  protected boolean drop;

  @Override
  public void options(Options options) {
    super.options(options);
    options.optional("SERVER", value -> server = value, "A server of the charter.");
    options.charter(value -> folder = value);
    options.flag(
        "--drop",
        given -> drop = given,
        "Also drops users and roles that the charter governs and does not list.");
  }

  /** What was left out, behind the answer. */
  public void sayNotes(Gap gap) {
    out.flush();
    gap.plan().notes().forEach(this::note);
  }

  /** What takes the steps back, the last one first. */
  public static List<Step> inverse(List<Step> steps) {
    List<Step> back = new ArrayList<>();
    steps.stream().filter(step -> !step.takesOver()).forEach(step -> back.add(step.inverse()));
    Collections.reverse(back);
    return back;
  }
}
