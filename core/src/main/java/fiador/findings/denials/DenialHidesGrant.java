package fiador.findings.denials;

import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import fiador.grants.Grants;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Denials that take from users what they were given by another way. */
public final class DenialHidesGrant implements Check {
  public static final Asked ASKED =
      new Asked(
          "denial-hides-grant",
          Severity.LOW,
          "From whom does a denial take what another role or a grant of their own gives them?",
          "Accept it where that is what the denial is for; else take the grant or the role, or lift the"
              + " denial.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    Grants denials = facts.access.denials();
    for (int denial = 0; denial < denials.size(); denial++) {
      int who = denials.grantee(denial);
      IntArrayList users = facts.users(facts.stops().by(denial));
      if (!users.isEmpty() && !isContradiction(facts, denial)) {
        Phrase said = Denials.said(facts, Phrase.of("is denied "), denial);
        said.say(", which takes it from ").whoOf(users);
        found.accept(
            Finding.about(ASKED, who, said)
                .on(denials.node(denial))
                .concerns(users)
                .apart(Denials.apart(facts, denial)));
      }
    }
  }

  /** What is said of it already, as a denial of what the same one was given. */
  private static boolean isContradiction(Facts facts, int denial) {
    for (int grant :
        facts.access.grants().byGrantee().run(facts.access.denials().grantee(denial))) {
      if (Denials.contradicted(facts, denial, grant) != 0) {
        return true;
      }
    }
    return false;
  }
}
