package fiador.findings.denials;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import java.util.function.Consumer;

/** Denials that take nothing from anybody. */
public final class DenialOutlived implements Check {
  public static final Asked ASKED =
      new Asked(
          "denial-outlived",
          Severity.LOW,
          "Which denials stop nobody, because nobody they speak to was given it?",
          "Keep it where it is a safeguard, by a waiver that says so; else lift it.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants denials = facts.access.denials();
    for (int denial = 0; denial < denials.size(); denial++) {
      if (facts.stops().by(denial).isEmpty()) {
        Phrase said = Denials.said(facts, Phrase.of("is denied "), denial);
        found.accept(
            Finding.about(
                    ASKED, denials.grantee(denial), said.say(", and nobody there was given it"))
                .on(denials.node(denial))
                .apart(Denials.apart(facts, denial)));
      }
    }
  }
}
