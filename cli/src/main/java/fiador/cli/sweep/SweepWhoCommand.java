package fiador.cli.sweep;

import fiador.cli.shell.Options;
import fiador.estate.Nearest;
import fiador.estate.Privilege;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.work.sweeping.Sweeps;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Who may do something on any server. */
public final class SweepWhoCommand extends SweepQuestion {
  String label = "";
  String object = "";
  String server = "";
  String may = "select";
  boolean all;

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--label", "LABEL", value -> label = value, "With things that carry this label.");
    options.option(
        "--object",
        "NAME",
        value -> object = value,
        "With things of this dotted name, which may have * and ?.");
    options.option("--may", "PRIVILEGE", value -> may = value, "What may be done; else select.");
    options.option(
        "--server", "NAME", value -> server = value, "On these servers; may have * and ?.");
    options.flag(
        "--every-state",
        given -> all = given,
        "Also what does not work now, and whose account cannot log in.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Who, on all servers of a sweep, may read what carries a label, or do something else."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Exit code 1 when it is nobody.",
      "",
      "Examples:",
      "  fiador sweep who swept --label secret",
      "  fiador sweep who swept --object \"*.billing.invoices\" --may update --format csv"
    };
  }

  @Override
  String name() {
    return "sweep who";
  }

  @Override
  Sweeps.Question question() throws Refusal {
    if (label.isEmpty() && object.isEmpty()) {
      throw new BadInput("name a label (--label) or a thing (--object)");
    }
    String privilege = may.toLowerCase(Locale.ROOT);
    List<String> known = Arrays.stream(Privilege.values()).map(Privilege::text).toList();
    if (!known.contains(privilege)) {
      throw new BadInput("there is no privilege " + may + Nearest.hint(privilege, known.stream()));
    }
    return new Sweeps.Question.Who(label, object, privilege, server, all);
  }

  @Override
  Said said(Iterator<Map<String, Object>> rows) {
    HeldRows held = new HeldRows(width());
    held.take(rows);
    String what =
        may.toLowerCase(Locale.ROOT)
            + (label.isEmpty() ? "" : " what is labelled " + label)
            + (object.isEmpty() ? "" : label.isEmpty() ? " on " + object : ", on " + object);
    String answer =
        held.accounts() == 0
            ? "nobody may " + what
            : Counted.of(held.accounts(), "account")
                + " of "
                + (held.people() == 1 ? "1 person" : held.people() + " people")
                + " on "
                + Counted.of(held.servers(), "server")
                + " may "
                + what;
    return new Said(answer, held.text(), held.accounts() > 0);
  }
}
