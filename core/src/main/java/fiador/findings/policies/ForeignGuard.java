package fiador.findings.policies;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import java.util.TreeMap;
import java.util.function.Consumer;

/** Guarded schemas that somebody else made or changed, so that theirs would decide on rows. */
public final class ForeignGuard implements Check {
  static final Asked ASKED =
      new Asked(
          "foreign-guard",
          Severity.HIGH,
          "Which guarded schemas are not Fiador's own?",
          "Find out who made it and what it holds; then drop it, and settle again.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    new TreeMap<>(facts.access.sights().doubts())
        .forEach(
            (database, doubt) -> {
              if (doubt.foreign()) {
                String why = String.join("; ", doubt.why());
                found.accept(
                    Finding.at(
                        ASKED,
                        database,
                        Phrase.of("has a schema fiador_guard that is not believed: " + why)));
              }
            });
  }
}
