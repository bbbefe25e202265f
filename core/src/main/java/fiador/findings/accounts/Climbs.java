package fiador.findings.accounts;

import fiador.climb.Climb;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Users who could make themselves administrators. */
public final class Climbs implements Check {
  static final Asked ASKED =
      new Asked(
          "climbs-to-administrator",
          Severity.HIGH,
          "Who is no administrator and could make itself one, by its own means?",
          "Take the right it begins with; fiador climb shows each step.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    new Climb(facts.access)
        .administrators(facts::isUser)
        .forEach(
            (user, ladder) -> {
              Phrase said = Phrase.of("can make itself administrator: ");
              String then = "";
              for (Climb.Rung rung : ladder.rungs()) {
                say(said.say(then), rung);
                then = ", then ";
              }
              found.accept(
                  Finding.about(ASKED, user, said)
                      .concerns(IntArrayList.of(user))
                      .through(facts.reach.chain(user, ladder.rungs().get(0).by())));
            });
  }

  /** A rung in words. */
  static void say(Phrase said, Climb.Rung rung) {
    switch (rung.means()) {
      case GIVES_ITSELF -> said.say("gives itself ").who(rung.gained());
      case MANAGES_ROLES -> said.say("manages roles and takes ").who(rung.gained());
      case TAKES_THE_PLACE -> said.say("takes the place of ").who(rung.gained());
      case SETS_SECRETS -> said.say("sets an administrator's secret");
      case ACTS_IN_HIS_NAME -> said.say("makes a routine that acts as an administrator");
      case WRITES_ACCOUNTS -> said.say("writes the tables in which the server keeps accounts");
      case LEAVES_THE_SERVER -> said.say("reaches the server's own files and programs");
      case IS_SUPERUSER -> said.say("switches to a superuser");
    }
  }
}
