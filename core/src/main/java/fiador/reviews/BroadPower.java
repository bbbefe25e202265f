package fiador.reviews;

import fiador.estate.Power;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Users that hold a power of the whole server. */
final class BroadPower implements Check {
  static final Asked ASKED =
      new Asked(
          "broad-power",
          Severity.HIGH,
          "Who has an administrator's power that reaches past every grant?",
          "Give a role with what the work needs instead, and take the power away.");

  @Override
  public Asked asked() {
    return ASKED;
  }

  @Override
  public void look(Facts facts, Consumer<Finding> found) {
    for (int i = 0; i < facts.people.powerful().size(); i++) {
      int holder = facts.people.powerful().getInt(i);
      for (Power power : Power.values()) {
        boolean counts = power != Power.CREATE_DATABASES && facts.people.has(holder, power);
        if (!counts) {
          continue;
        }
        for (int user : facts.usersOf(holder)) {
          Phrase said = Phrase.of("has the power " + power.text());
          said.say(user == holder ? " itself" : "");
          found.accept(
              Finding.about(ASKED, user, said)
                  .concerns(IntArrayList.of(user))
                  .through(user == holder ? new IntArrayList() : facts.reach.chain(user, holder)));
        }
      }
    }
  }
}
