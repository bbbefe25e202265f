package fiador.cli;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Common;
import fiador.refusal.Refusal;
import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine;

/** The steps of a tour: each says what it is about, names its command, and runs it. */
final class TourSteps {
  private final Common tour;
  private final Path folder;
  private int step;

  /**
   * @param tour whose output it is
   * @param folder the one of the tour, which the commands are said to be given in
   */
  TourSteps(Common tour, Path folder) {
    this.tour = tour;
    this.folder = folder;
  }

  void title(String what, String command) {
    tour.out.println();
    tour.out.println("--- " + ++step + ". " + what);
    tour.out.println("$ " + command);
    tour.out.println();
  }

  void show(String what, Common command, String... arguments) throws Refusal, IOException {
    String name = Commands.nameOf(command);
    List<String> said = new ArrayList<>(List.of("fiador", name));
    boolean here = List.of(arguments).contains("--charter");
    boolean ownFrom = List.of(arguments).contains("--from");
    for (String argument : arguments) {
      boolean place = argument.equals("--charter") || argument.equals(folder.toString());
      if (ownFrom && place) {
        said.add(argument.equals("--charter") ? argument : ".");
      } else if (!place) {
        said.add(argument.replace(folder + File.separator, ""));
      }
    }
    title(what, String.join(" ", said));
    boolean quiet = command.quiet;
    prepared(command, arguments);
    command.quiet = quiet;
    if (command instanceof Asking asking && !here && !ownFrom) {
      asking.from = folder.toString();
    } else if (!quiet) {
      command.err = tour.out;
    }
    command.run();
  }

  <C extends Common> C prepared(C command, String... arguments) {
    CommandLine line = Commands.line(Commands.nameOf(command), command);
    line.parseArgs(arguments);
    command.out = tour.out;
    command.err = tour.err;
    command.widthOption = tour.widthOption;
    return command;
  }
}
