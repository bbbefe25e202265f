package fiador.work.settling;

import fiador.changes.Gap;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import fiador.files.Kept;
import fiador.files.charter.Charter;
import fiador.files.charter.Charter.ServerEntry;
import fiador.grants.Access;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import fiador.work.charters.Surveys;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;

/**
 * What is to be settled: a server of a charter.
 *
 * @param folder the charter's folder
 * @param drop whether users and roles that the charter governs and does not list go
 * @param onlyEnded whether only that is taken whose time is over
 */
public record Task(
    Path folder, Charter charter, ServerEntry entry, boolean drop, boolean onlyEnded, Clock clock) {

  /** What the charter says of this server. */
  public Task {
    charter = charter.on(entry.name());
  }

  /** Of all that the charter says. */
  public Task(Path folder, Charter charter, ServerEntry entry, boolean drop, Clock clock) {
    this(folder, charter, entry, drop, false, clock);
  }

  /** The kind of server. */
  public Server kind() {
    return Surveys.kind(entry);
  }

  /** Where the journal of the server's last change is kept. */
  public Path journal() {
    return folder.resolve(".fiador").resolve(Kept.name(entry.name()) + ".journal.jsonl");
  }

  /**
   * What is to be done on the server as it is. Cost: the charter and the survey.
   *
   * @throws UnmetDemands when some of what the charter demands cannot be done there
   */
  public Gap gap(Access before) throws UnmetDemands {
    Gap gap =
        onlyEnded
            ? Gap.ended(before, charter.wanted(), untouchable(), clock)
            : Gap.between(before, charter.wanted(), drop, untouchable(), clock);
    List<Problem> problems = new ArrayList<>(gap.plan().problems());
    if (entry.house() != null) {
      problems.addAll(withoutStatement(gap.plan().steps()));
    }
    if (!problems.isEmpty()) {
      throw new UnmetDemands(problems);
    }
    return gap;
  }

  /** What a house sheet has no statement for cannot be done there. */
  private List<Problem> withoutStatement(List<Step> steps) {
    Set<String> missing = new LinkedHashSet<>();
    Dialect dialect = kind().dialect();
    for (Step step : steps) {
      try {
        dialect.statements(step);
      } catch (IllegalArgumentException none) {
        missing.add(String.valueOf(none.getMessage()));
      }
    }
    return missing.stream().map(message -> new Problem(null, message)).toList();
  }

  /** Whoever carries it out must not take from themselves what they need for it. */
  private Set<String> untouchable() {
    Set<String> names = new TreeSet<>();
    charter.servers().values().forEach(any -> names.add(any.login()));
    names.add(entry.login());
    names.add(entry.login().toUpperCase(Locale.ROOT));
    return names;
  }
}
