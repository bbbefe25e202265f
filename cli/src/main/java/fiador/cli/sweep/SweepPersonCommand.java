package fiador.cli.sweep;

import fiador.cli.shell.Options;
import fiador.work.sweeping.Sweeps;
import java.util.Iterator;
import java.util.Map;

/** All that a person holds anywhere. */
public final class SweepPersonCommand extends SweepQuestion {
  String person;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter(
        "PERSON",
        value -> person = value,
        "The name or key that the list of people has; or one of their accounts.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "All that a person holds, on all servers of a sweep, by any of their accounts."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Exit code 1 when it is nothing.",
      "",
      "Examples:",
      "  fiador sweep person swept ines.duarte",
      "  fiador sweep person swept ines.duarte --format csv"
    };
  }

  @Override
  String name() {
    return "sweep person";
  }

  @Override
  Sweeps.Question question() {
    return new Sweeps.Question.Person(person);
  }

  @Override
  Said said(Iterator<Map<String, Object>> rows) {
    HeldRows held = new HeldRows(width());
    held.take(rows);
    String answer =
        held.accounts() == 0
            ? person + " holds nothing, or is not known"
            : person
                + " has "
                + Counted.of(held.accounts(), "account")
                + " on "
                + Counted.of(held.servers(), "server")
                + " and "
                + Counted.of(held.rows(), "holding");
    return new Said(answer, held.text(), held.accounts() > 0);
  }
}
