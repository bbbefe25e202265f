package fiador.findings.grants;

import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import fiador.grants.rules.Gate;
import java.util.List;
import java.util.function.Consumer;

/** Rights on things inside schemas, or to create, that PUBLIC has. */
public final class OpenToEverybody implements Check {
  static final Asked ASKED =
      new Asked(
          "open-to-everybody",
          Severity.HIGH,
          "What can everybody do who has an account at all?",
          "Take it from PUBLIC and give it to the role of those who need it.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants grants = facts.access.grants();
    for (int row : grants.byGrantee().run(Principals.PUBLIC)) {
      int node = grants.node(row);
      if (facts.tree.isSystem(node)) {
        continue;
      }
      long bits = grants.terms(row).privileges() & telling(facts, facts.tree.kind(node));
      if (bits != 0) {
        found.accept(
            Finding.at(ASKED, node, Phrase.of("is open to everybody: ").privileges(bits))
                .mendedBy(List.of(facts.taking.revoke(row, bits))));
      }
    }
  }

  /** What servers give to everybody by themselves, to connect and to call, is no finding. */
  private static long telling(Facts facts, NodeKind kind) {
    return switch (kind) {
      case DATABASE, SERVER -> Privilege.CREATE.bit();
      case SCHEMA ->
          facts.access.rules().gates().stream().allMatch(Gate::sealedOnly)
              ? -1L
              : Privilege.CREATE.bit();
      case ROUTINE -> 0;
      default -> -1L;
    };
  }
}
