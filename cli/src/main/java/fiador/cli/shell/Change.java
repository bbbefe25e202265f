package fiador.cli.shell;

import fiador.changes.Gap;
import fiador.changes.planning.Plan;
import fiador.changes.steps.Step;
import fiador.files.Kept;
import fiador.files.charter.Charter;
import fiador.grants.Access;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

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

  /** The gap; its problems are shown. */
  public Gap gap(Access before, Charter charter, Charter.ServerEntry entry) throws BadInput {
    Gap gap = Gap.between(before, charter.wanted(), drop, untouchable(charter, entry), clock);
    Plan plan = gap.plan();
    if (!plan.problems().isEmpty()) {
      plan.problems().forEach(err::println);
      throw new BadInput(
          (plan.problems().size() == 1
                  ? "1 demand cannot be met"
                  : plan.problems().size() + " demands cannot be met")
              + "; nothing was changed");
    }
    return gap;
  }

  /** What was left out, behind the answer. */
  public void sayNotes(Gap gap) {
    out.flush();
    gap.plan().notes().forEach(this::note);
  }

  /** Whoever carries it out must not cut off the branch he sits on. */
  private static Set<String> untouchable(Charter charter, Charter.ServerEntry entry) {
    Set<String> names = new TreeSet<>();
    for (Charter.ServerEntry any : charter.servers().values()) {
      names.add(any.login());
    }
    names.add(entry.login());
    names.add(entry.login().toUpperCase(java.util.Locale.ROOT));
    return names;
  }

  /** The statements of some steps, grouped as they are sent. */
  public static List<String> statements(Server kind, List<Step> steps) {
    return kind.dialect().batches(steps).stream().map(Dialect.Batch::sql).toList();
  }

  /** What takes the steps back, the last one first. */
  public static List<Step> inverse(List<Step> steps) {
    List<Step> back = new ArrayList<>();
    steps.stream().filter(step -> !step.takesOver()).forEach(step -> back.add(step.inverse()));
    Collections.reverse(back);
    return back;
  }

  /** Where the journal of a server's last change is kept. */
  public static Path journal(Path charterFolder, String server) {
    return charterFolder.resolve(".fiador").resolve(Kept.name(server) + ".journal.jsonl");
  }
}
