package fiador.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * What whole commands take on the demo, beside a Java that only starts and ends: {@code StartBench
 * LAUNCHER FOLDER [ROUNDS]}, with the folder of a tour. The commands take turns, so that a machine
 * that slows down slows all of them. Writes the table that stands in docs/performance.md.
 */
public final class StartBench {
  private static final int ROUNDS = 9;

  private static final List<String> COMMANDS =
      List.of(
          "trace ines.duarte select billing.customers.iban",
          "trace ines.duarte --statement @select i.amount from billing.invoices i",
          "holdings ines.duarte",
          "holders billing.customers",
          "draw ines.duarte",
          "draw ines.duarte --to ines.svg",
          "draw matrix --to matrix.svg",
          "draw roles --to roles.svg",
          "list grants --to leak_analyst",
          "climb night_watch",
          "bypass",
          "sever marta.vale select billing.invoices",
          "findings",
          "trim --usage usage.jsonl",
          "check",
          "gap",
          "prove --charter proofs",
          "history ines.duarte");

  private StartBench() {}

  /** Runs it. */
  public static void main(String[] args) throws IOException, InterruptedException {
    Path launcher = Path.of(args[0]).toAbsolutePath();
    Path folder = Path.of(args[1]);
    int rounds = args.length > 2 ? Integer.parseInt(args[2]) : ROUNDS;
    onlyProofsOfThePaper(folder);
    List<List<String>> lines = new ArrayList<>();
    lines.add(Processes.bareJava());
    COMMANDS.forEach(command -> lines.add(line(launcher, command)));
    double[][] millis = new double[lines.size()][rounds];
    for (int round = -2; round < rounds; round++) {
      for (int i = 0; i < lines.size(); i++) {
        double taken = Processes.run(lines.get(i), folder, null);
        if (round >= 0) {
          millis[i][round] = taken;
        }
      }
    }
    double bare = Processes.median(millis[0]);
    System.out.printf(Locale.ROOT, "A bare Java starts and ends in %.0f ms.%n%n", bare);
    System.out.println("| command | ms | times a bare Java |\n|---|---|---|");
    for (int i = 1; i < lines.size(); i++) {
      double[] ratios = new double[rounds];
      for (int round = 0; round < rounds; round++) {
        ratios[round] = millis[i][round] / millis[0][round];
      }
      System.out.printf(
          Locale.ROOT,
          "| `%s` | %.0f | %.1f |%n",
          COMMANDS.get(i - 1).replace("@", ""),
          Processes.median(millis[i]),
          Processes.median(ratios));
    }
  }

  /** A charter without proofs about rows, which open the server. */
  private static void onlyProofsOfThePaper(Path folder) throws IOException {
    Path proofs = folder.resolve("proofs");
    Files.createDirectories(proofs);
    for (String name : List.of("fiador.yaml", "roles.yaml", "users.yaml")) {
      Files.copy(folder.resolve(name), proofs.resolve(name), StandardCopyOption.REPLACE_EXISTING);
    }
    Path surveys = proofs.resolve(".fiador");
    Files.createDirectories(surveys);
    Path survey = folder.resolve(".fiador/waterworks.survey.jsonl");
    Files.copy(
        survey, surveys.resolve("waterworks.survey.jsonl"), StandardCopyOption.REPLACE_EXISTING);
  }

  /** What stands behind an at sign is one word. */
  private static List<String> line(Path launcher, String command) {
    List<String> line = new ArrayList<>(List.of(launcher.toString()));
    int at = command.indexOf('@');
    line.addAll(List.of((at < 0 ? command : command.substring(0, at)).strip().split(" ", -1)));
    if (at >= 0) {
      line.add(command.substring(at + 1));
    }
    return line;
  }
}
