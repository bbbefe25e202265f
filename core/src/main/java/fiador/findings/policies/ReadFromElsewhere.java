package fiador.findings.policies;

import fiador.across.Inflows;
import fiador.across.Inflows.Hop;
import fiador.across.Inflows.Inflow;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.policies.Sealing;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** Guarded tables that others read over another server, as a login that stands for all of them. */
public final class ReadFromElsewhere implements Check {
  public static final Asked ASKED =
      new Asked(
          "read-from-elsewhere",
          Severity.HIGH,
          "Which tables with policies or seals are read from other servers?",
          "Close the table to that login, or the foreign table to the people there: policies see only the login.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    if (facts.atlas.all().isEmpty()) {
      return;
    }
    Inflows inflows = new Inflows(facts.atlas, facts.clock);
    for (int table : new Sealing(facts.access, facts.clock).guarded()) {
      for (Inflow inflow : inflows.to(facts.access, table)) {
        found.accept(finding(table, inflow));
      }
    }
  }

  private static Finding finding(int table, Inflow inflow) {
    String through = through(inflow);
    int readers = inflow.readers().size();
    Phrase said = Phrase.of("is read from " + through);
    if (inflow.login() >= 0) {
      said.say(" as ").who(inflow.login());
    }
    said.say(" by " + (readers == 1 ? "1 user" : readers + " users") + " there");
    // a waiver is for this way, and for no other one that may come
    Finding finding = Finding.at(ASKED, table, said).apart(through);
    return inflow.login() < 0 ? finding : finding.concerns(IntArrayList.of(inflow.login()));
  }

  /** The foreign tables on the way, each with its server. */
  private static String through(Inflow inflow) {
    List<String> names = new ArrayList<>();
    for (Hop hop : inflow.hops()) {
      names.add(hop.at().about().server() + " through " + hop.at().tree().path(hop.path().get(0)));
    }
    return String.join(", ", names);
  }
}
