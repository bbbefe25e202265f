package fiador.findings.accounts;

import fiador.estate.Power;
import fiador.findings.check.Asked;
import fiador.findings.check.Check;
import fiador.findings.check.Facts;
import fiador.findings.check.Finding;
import fiador.findings.check.Phrase;
import fiador.findings.check.Severity;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.function.Consumer;

/** Users that hold a power of the whole server. */
public final class BroadPower implements Check {
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
      StringBuilder powers = new StringBuilder();
      for (Power power : Power.values()) {
        if (power != Power.CREATE_DATABASES && facts.people.has(holder, power)) {
          powers.append(powers.isEmpty() ? "" : ", ").append(power.text());
        }
      }
      for (int user : powers.isEmpty() ? new IntArrayList() : facts.usersOf(holder)) {
        boolean own = user == holder;
        found.accept(
            Finding.about(ASKED, user, Phrase.of("has administrator's powers: " + powers))
                .concerns(IntArrayList.of(user))
                .through(own ? new IntArrayList() : facts.reach.chain(user, holder)));
      }
    }
  }
}
