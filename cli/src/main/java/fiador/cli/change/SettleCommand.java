package fiador.cli.change;

import fiador.changes.steps.Step;
import fiador.cli.shell.Change;
import fiador.cli.shell.Options;
import fiador.cli.shell.Spoken;
import fiador.cli.shell.Terminal;
import fiador.files.charter.Charter;
import fiador.files.journal.SavedGap;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.servers.live.SettleRun;
import fiador.work.charters.Charters;
import fiador.work.secrets.NewSecrets;
import fiador.work.settling.Approved;
import fiador.work.settling.SecretSource;
import fiador.work.settling.Task;
import java.io.Console;
import java.io.IOException;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

public final class SettleCommand extends Change {
  private static final Pattern HOST = Pattern.compile("//([^/?;]+)");

  boolean dryRun;
  boolean resume;
  boolean undo;
  boolean anew;
  boolean skipGone;
  boolean onlyEnded;
  boolean every;
  Integer atATime;
  Path saved;
  String approvedBy;

  @Override
  public void options(Options options) {
    super.options(options);
    options.flag("--dry-run", given -> dryRun = given, "Shows the SQL and runs nothing.");
    options.flag(
        "--resume",
        given -> resume = given,
        "Goes on with the last settle, which was stopped half-way.");
    options.flag("--undo", given -> undo = given, "Takes back what the last settle did.");
    options.flag(
        "--skip-gone",
        given -> skipGone = given,
        "With --resume or --undo: leaves out what is about things that somebody dropped since.");
    options.option(
        "--saved",
        "FILE",
        Path.class,
        value -> saved = value,
        "Settles exactly what fiador gap --save wrote there, or nothing if charter or server have",
        "changed since.");
    options.option(
        "--approved-by",
        "NAME",
        value -> approvedBy = value,
        "With --saved: who approved it; the ledger keeps that.");
    options.flag(
        "--only-ended",
        given -> onlyEnded = given,
        "Only takes what the charter gave for a time that is over; for a timer to run.");
    options.flag(
        "--every-server",
        given -> every = given,
        "All servers of the charter; one that fails stops only itself.");
    options.option(
        "--at-a-time",
        "N",
        Integer.class,
        value -> atATime = value,
        "With --every-server: how many are settled at the same time; else 4.");
    options.flag(
        "--anew",
        given -> anew = given,
        "Lays aside what a settle that was stopped half-way had still to do.");
  }

  /** Where secrets come from when it is not the environment or a terminal; the tour has its own. */
  public SettleRun.Secrets otherSecrets;

  @Override
  public String[] description() {
    return new String[] {
      "Makes a server what the charter says: creates, gives, changes owners, then takes what the charter",
      "governs and does not list. Surveys again afterwards. Running it again does nothing."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "Every step is written into a journal beside the survey before it is carried out. After a stop",
      "half-way --resume goes on, and --undo takes back whatever took effect; --anew forgets it and",
      "settles from what the server is now.",
      "",
      "The secret of a new user comes from the environment, FIADOR_SECRET_ and the name in capitals with",
      "_ for all but letters and digits (FIADOR_SECRET_INES_DUARTE), or is asked for on a terminal.",
      "",
      "Examples:",
      "  fiador gap                  first look at what it would do, to people too",
      "  fiador settle --dry-run     shows the SQL; exit code 1 when there is something to do",
      "  fiador settle waterworks",
      "  fiador settle --every-server",
      "  fiador settle --only-ended  what was given until a day that is over, and nothing else",
      "  fiador settle --saved change.json --approved-by lia.prado",
      "  fiador settle --undo        back to what it was before the last settle"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    if (skipGone && !resume && !undo) {
      throw new BadInput("--skip-gone goes with --resume or --undo");
    }
    if (saved == null != (approvedBy == null)) {
      throw new BadInput("--saved FILE and --approved-by NAME go together");
    } else if (saved != null && (resume || undo)) {
      throw new BadInput("--saved is for a new settle, not for --resume or --undo");
    }
    if (onlyEnded && (drop || saved != null || resume || undo)) {
      throw new BadInput("--only-ended goes with neither --drop, --saved, --resume nor --undo");
    }
    if (atATime != null && (!every || atATime < 1)) {
      throw new BadInput("--at-a-time is a number from 1 on and goes with --every-server");
    }
    if (every && (server != null || saved != null)) {
      throw new BadInput("--every-server goes with neither a server's name nor --saved");
    }
    Approved approved = saved == null ? null : new Approved(SavedGap.read(saved), approvedBy);
    Charter charter = Charters.read(folder);
    Spoken spoken = Spoken.by(this);
    if (every) {
      EveryServer all = new EveryServer(spoken, dryRun, atATime);
      Map<String, String> addresses = new LinkedHashMap<>();
      charter.servers().forEach((name, entry) -> addresses.put(name, address(entry.url())));
      return all.each(addresses, (name, kept) -> one(kept).settle(task(charter, name), null));
    }
    return one(spoken).settle(task(charter, server), approved);
  }

  /** The host and port of a server, or all of the address where there is none in it. */
  private static String address(String url) {
    Matcher host = HOST.matcher(url);
    return host.find() ? host.group(1).toLowerCase(Locale.ROOT) : url;
  }

  /** One server of the charter; its only one where none is named. */
  private Task task(Charter charter, String name) throws BadInput {
    return new Task(folder, charter, Charters.server(charter, name), drop, onlyEnded, clock);
  }

  private OneServer one(Spoken spoken) {
    SecretSource secrets = otherSecrets == null ? this::secrets : (before, steps) -> otherSecrets;
    OneServer.Order order = new OneServer.Order(dryRun, resume, undo, anew, skipGone);
    return new OneServer(order, secrets, spoken);
  }

  private SettleRun.Secrets secrets(Access before, List<Step> steps) throws BadInput {
    Console console = Terminal.console();
    NewSecrets.Ask ask = console == null ? null : user -> asked(console, user, before);
    return NewSecrets.of(before, steps, ask);
  }

  /** Several servers may have to ask at the same time, and there is one who answers. */
  private synchronized char[] asked(Console console, String user, Access before) {
    String where = every ? " on " + before.about().server() : "";
    return console.readPassword("secret of the new user %s%s: ", user, where);
  }
}
