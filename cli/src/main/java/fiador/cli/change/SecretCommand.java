package fiador.cli.change;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.Typist;
import fiador.files.charter.Charter;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.shown.Shown;
import fiador.servers.live.SecretRun;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import fiador.work.secrets.RandomSecret;
import fiador.work.secrets.SecretChange;
import fiador.work.secrets.UserSecrets;
import java.io.IOException;
import java.nio.CharBuffer;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

public final class SecretCommand extends Common {
  List<String> users = List.of();
  String server;
  Path folder = Path.of("");
  boolean generate;
  boolean expire;
  boolean keepOld;
  boolean dropOld;

  /** Whoever sits there; tests have their own. */
  public Typist typist = Typist.atTerminal();

  @Override
  public void options(Options options) {
    super.options(options);
    options.rest(
        "USER",
        String.class,
        value -> users = value,
        "One or more users; * and ? stand for any letters.");
    options.option(
        "--server", "NAME", value -> server = value, "A server of the charter, if there are more.");
    options.charter(value -> folder = value);
    options.flag(
        "--generate",
        given -> generate = given,
        "Makes one up and shows it once, on a terminal only.");
    options.flag(
        "--expire-now",
        given -> expire = given,
        "Puts one in its place that nobody knows: from now on the old one opens nothing.");
    options.flag(
        "--keep-old",
        given -> keepOld = given,
        "Lets the old one go on being good beside the new one, where the server can (MariaDB).");
    options.flag(
        "--drop-old",
        given -> dropOld = given,
        "Ends the older of two, once everything uses the newer one.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "Sets a new secret for accounts of a server. It is asked for, or comes from the environment, or is",
      "made up; it is never an argument, and stands in no log, journal or ledger."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "The variable is FIADOR_SECRET_ and the name in capitals with _ for all but letters and digits. All",
      "accounts of one name (app@10.1.0.7 and app@localhost) get the same secret. What is set cannot be",
      "undone; the ledger keeps that it was changed. The finding old-secret names those unchanged for long.",
      "",
      "Examples:",
      "  fiador secret telemetry                  asks for it, twice",
      "  fiador secret 'app_*' --generate         one each, shown once",
      "  fiador secret telemetry --keep-old       then change the application, then",
      "  fiador secret telemetry --drop-old",
      "  fiador secret joao.serra --expire-now    the old one is known to somebody"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    checkOptions();
    Charter charter = Charters.read(folder);
    Charter.ServerEntry entry = Charters.server(charter, server);
    Access access = Surveys.take(charter, entry, clock.instant(), this::note);
    SecretChange change = new SecretChange(folder, charter, entry, access, clock);
    Map<String, List<String>> accounts = change.accounts(users);
    Shown shown = new Shown(access, true);
    Map<String, char[]> secrets = new LinkedHashMap<>();
    Set<String> good = new LinkedHashSet<>();
    try {
      if (!dropOld) {
        for (String user : accounts.keySet()) {
          secrets.put(user, secret(user, access));
        }
      }
      change.run(
          accounts,
          dropOld
              ? SecretRun.Way.DROPS_OLDER
              : keepOld ? SecretRun.Way.KEEPS_NEWEST : SecretRun.Way.REPLACES,
          user -> secrets.get(user).clone(),
          account -> {
            out.println(done(shown.name(account)));
            accounts.forEach(
                (user, of) -> good.addAll(of.contains(account) ? Set.of(user) : Set.of()));
          });
    } finally {
      if (generate) {
        // those that are good for something, also where the server refused the next one
        good.forEach(user -> typist.show(user, secrets.get(user)));
      }
      secrets.values().forEach(secret -> Arrays.fill(secret, '\0'));
    }
    if (accounts.keySet().stream().anyMatch(entry.login()::equalsIgnoreCase)) {
      note(
          entry.login()
              + " is the login of the charter itself: put its new secret where the charter reads it");
    }
    return Exit.YES;
  }

  private void checkOptions() throws BadInput {
    if (users.isEmpty()) {
      throw new BadInput("name a user: fiador secret USER");
    }
    List<String> given = new ArrayList<>();
    if (generate) {
      given.add("--generate");
    }
    if (expire) {
      given.add("--expire-now");
    }
    if (dropOld) {
      given.add("--drop-old");
    }
    if (given.size() > 1) {
      throw new BadInput(String.join(" and ", given) + " do not go together");
    }
    if (keepOld && (expire || dropOld)) {
      throw new BadInput("--keep-old goes with neither --expire-now nor --drop-old");
    }
    if (generate && typist == null) {
      throw new BadInput(
          "--generate shows the secret on a terminal only, and there is none: put one into the"
              + " environment instead");
    }
  }

  private char[] secret(String user, Access access) throws BadInput {
    if (generate || expire) {
      return RandomSecret.fresh();
    }
    UserSecrets variables = UserSecrets.of(access, Set.of());
    String value = variables.of(user);
    if (value != null) {
      return value.toCharArray();
    } else if (typist == null) {
      throw new BadInput(
          "the environment has no " + variables.variable(user) + "; nothing was changed");
    }
    return typed(user);
  }

  private char[] typed(String user) throws BadInput {
    char[] once = typist.secret("new secret of " + user + ": ");
    if (once == null || once.length == 0) {
      throw new BadInput("no secret for " + user + "; nothing was changed");
    }
    char[] twice = typist.secret("once more: ");
    boolean same = Arrays.equals(once, twice);
    if (twice != null) {
      Arrays.fill(twice, '\0');
    }
    if (!same) {
      Arrays.fill(once, '\0');
      throw new BadInput("these were not the same; nothing was changed");
    }
    UserSecrets.whole("what was typed", CharBuffer.wrap(once));
    return once;
  }

  private String done(String account) {
    if (dropOld) {
      return account + ": only the newer secret is good now";
    } else if (expire) {
      return account + ": the old secret opens nothing any more, and nobody knows the new one";
    }
    return account + (keepOld ? ": a new secret, and the old one is good too" : ": a new secret");
  }
}
