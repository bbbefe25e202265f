package fiador.findings.denials;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import java.util.Arrays;
import java.util.function.Consumer;

/** Grants that the same one is denied, so that they never do anything. */
public final class DeniedAndGranted implements Check {
  public static final Asked ASKED =
      new Asked(
          "denied-and-granted",
          Severity.MEDIUM,
          "Who was given what they are denied themselves?",
          "Decide which of the two is meant: take the grant, or lift the denial.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants denials = facts.access.denials();
    for (int denial = 0; denial < denials.size(); denial++) {
      int who = denials.grantee(denial);
      for (int grant : facts.access.grants().byGrantee().run(who)) {
        long never = Denials.contradicted(facts, denial, grant);
        if (never != 0) {
          int node = facts.access.grants().node(grant);
          Phrase said = Phrase.of("was given ").privileges(never).say(" on ").kindAndWhere(node);
          said.say(", and is denied ");
          found.accept(
              Finding.about(ASKED, who, Denials.said(facts, said, denial))
                  .on(node)
                  .concerns(facts.usersOf(who))
                  .apart(Denials.apart(facts, denial))
                  .mendedBy(() -> Arrays.asList(facts.plainRevoke(grant, never))));
        }
      }
    }
  }
}
