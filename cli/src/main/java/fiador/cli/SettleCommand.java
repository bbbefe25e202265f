package fiador.cli;

import fiador.changes.Plan;
import fiador.changes.Planner;
import fiador.changes.Step;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.grants.Access;
import fiador.servers.Server;
import fiador.servers.ServerException;
import fiador.servers.SettleRun;
import java.io.Console;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
    name = "settle",
    description = {
      "Creates on a server what the charter demands and it lacks.",
      "Roles, users, memberships, grants; nothing is taken away. Running it again does nothing."
    },
    footer = {
      "",
      "The secret of a new user comes from the environment, FIADOR_SECRET_ and the name in capitals with",
      "_ for all but letters and digits (FIADOR_SECRET_INES_DUARTE), or is asked for on a terminal.",
      "",
      "Examples:",
      "  fiador settle --dry-run     shows the SQL; exit code 1 when there is something to do",
      "  fiador settle waterworks"
    })
final class SettleCommand extends Common {
  @Parameters(arity = "0..1", paramLabel = "SERVER", description = "A server of the charter.")
  String server;

  @Option(
      names = "--charter",
      paramLabel = "DIR",
      description = "The charter's folder; else this one.",
      defaultValue = "")
  Path folder;

  @Option(names = "--dry-run", description = "Shows the SQL and runs nothing.")
  boolean dryRun;

  /** Where secrets come from when it is not the environment or a terminal; the tour has its own. */
  SettleRun.Secrets otherSecrets;

  @Override
  int run() throws BadInput, CharterException, ServerException, IOException {
    Charter charter = Charters.read(folder);
    Charter.ServerEntry entry = Charters.server(charter, server);
    Server kind = Surveys.kind(entry);
    Access before = Surveys.take(entry, clock.instant(), note -> err.println("note: " + note));
    Plan plan = plan(before, charter);
    if (dryRun) {
      plan.steps().forEach(step -> out.println(kind.dialect().sql(step) + ";"));
      say(plan.isEmpty() ? "nothing to do" : plan.steps().size() + " statements; nothing was run");
      return plan.isEmpty() ? Exit.YES : Exit.NO;
    }
    if (plan.isEmpty()) {
      Surveys.write(before, Surveys.file(folder, entry.name()));
      out.println("nothing to do: " + entry.name() + " is as the charter says");
      return Exit.YES;
    }
    SettleRun.Secrets secrets = otherSecrets == null ? secretsFor(plan.steps()) : otherSecrets;
    new SettleRun(kind, Surveys.login(entry), secrets)
        .carryOut(plan.steps(), sql -> sayIfVerbose(sql));
    Access after = Surveys.take(entry, clock.instant(), note -> {});
    Surveys.write(after, Surveys.file(folder, entry.name()));
    Plan left = new Planner(after).plan(charter.wanted());
    out.println("settled " + entry.name() + ": " + summary(plan.steps()));
    if (!left.isEmpty()) {
      err.println("surveyed again, and " + left.steps().size() + " things are still missing:");
      left.steps().forEach(step -> err.println("  " + kind.dialect().sql(step)));
      return Exit.NO;
    }
    out.println("surveyed again: nothing is missing");
    return Exit.YES;
  }

  private void sayIfVerbose(String sql) {
    if (verbose) {
      err.println(sql);
    }
  }

  private Plan plan(Access before, Charter charter) throws BadInput {
    Plan plan = new Planner(before).plan(charter.wanted());
    plan.notes().forEach(note -> say("note: " + note));
    if (!plan.problems().isEmpty()) {
      plan.problems().forEach(err::println);
      throw new BadInput(
          (plan.problems().size() == 1
                  ? "1 demand cannot be met"
                  : plan.problems().size() + " demands cannot be met")
              + "; nothing was changed");
    }
    return plan;
  }

  private static String summary(List<Step> steps) {
    int[] counts = new int[4];
    for (Step step : steps) {
      if (step instanceof Step.CreateRole) {
        counts[0]++;
      } else if (step instanceof Step.CreateUser) {
        counts[1]++;
      } else if (step instanceof Step.GiveRole) {
        counts[2]++;
      } else {
        counts[3]++;
      }
    }
    return counts[0]
        + " roles, "
        + counts[1]
        + " users, "
        + counts[2]
        + " memberships and "
        + counts[3]
        + " grants created";
  }

  static String variable(String user) {
    return "FIADOR_SECRET_" + user.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "_");
  }

  /** All secrets before the first statement, so that none is missed half-way. */
  private static SettleRun.Secrets secretsFor(List<Step> steps) throws BadInput {
    Map<String, char[]> secrets = new HashMap<>();
    List<String> missing = new ArrayList<>();
    Console console = System.console();
    for (Step step : steps) {
      if (step instanceof Step.CreateUser user) {
        String value = System.getenv(variable(user.user()));
        if (value != null && !value.isEmpty()) {
          secrets.put(user.user(), value.toCharArray());
        } else if (console != null) {
          char[] typed = console.readPassword("secret of the new user %s: ", user.user());
          if (typed == null || typed.length == 0) {
            throw new BadInput("no secret for " + user.user() + "; nothing was changed");
          }
          secrets.put(user.user(), typed);
        } else {
          missing.add(variable(user.user()));
        }
      }
    }
    if (!missing.isEmpty()) {
      throw new BadInput(
          "new users need secrets, and the environment does not have them: "
              + String.join(", ", missing)
              + "; nothing was changed");
    }
    return secrets::get;
  }
}
