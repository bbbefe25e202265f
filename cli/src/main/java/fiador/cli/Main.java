package fiador.cli;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Output;
import fiador.cli.shell.Pager;
import fiador.cli.shell.Screen;
import fiador.cli.shell.Version;
import fiador.files.charter.CharterException;
import fiador.files.ledger.LedgerException;
import fiador.refusal.Refusal;
import fiador.report.text.Columns;
import fiador.work.settling.UnmetDemands;
import java.io.BufferedOutputStream;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.ParameterException;

/** The program. */
public final class Main {
  private Main() {}

  /** Runs a command and exits with its code. */
  public static void main(String[] args) {
    Output answer = new Output(new BufferedOutputStream(new FileOutputStream(FileDescriptor.out)));
    Screen screen = Screen.here();
    Pager pager = new Pager(answer, screen.isTerminal() ? System.getenv("PAGER") : null);
    PrintStream err =
        new PrintStream(new FileOutputStream(FileDescriptor.err), true, StandardCharsets.UTF_8);
    List<Runnable> afterwards = new ArrayList<>();
    int code = run(new Place(pager, err, screen, afterwards), args);
    try {
      pager.end();
    } catch (IOException broken) {
      // the answer's own stream remembers it
    }
    if (answer.failure() != null) {
      err.println("fiador: the answer could not be written whole: " + answer.failure());
      System.exit(Exit.BAD_INPUT);
    }
    try {
      // whoever waits for the end of the answer has it then
      answer.close();
    } catch (IOException broken) {
      // all of it was written
    }
    runAll(afterwards);
    System.exit(code);
  }

  /**
   * Runs a command.
   *
   * @return the exit code
   */
  public static int run(PrintStream out, PrintStream err, String... args) {
    List<Runnable> afterwards = new ArrayList<>();
    int code = run(new Place(new Pager(out, null), err, Screen.NONE, afterwards), args);
    runAll(afterwards);
    return code;
  }

  private static void runAll(List<Runnable> afterwards) {
    // a lambda of the last line of all would cost each command what a whole library does
    for (Runnable left : afterwards) {
      left.run();
    }
  }

  private static int run(Place place, String... args) {
    Screen screen = place.screen();
    PrintStream answers = Output.visible(place.pager(), screen.answers(), screen.links(1), false);
    PrintStream messages =
        Output.visible(place.terminal(), screen.messages(), screen.links(2), true);
    try {
      return run(answers, messages, place, args);
    } finally {
      answers.flush();
      messages.flush();
    }
  }

  /**
   * Where a command runs.
   *
   * @param terminal standard error as it is
   * @param afterwards takes what the command leaves to do once its answer is given
   */
  private record Place(
      Pager pager, PrintStream terminal, Screen screen, List<Runnable> afterwards) {}

  private static int run(PrintStream out, PrintStream err, Place place, String... args) {
    // a few commands are of two words
    int words = args.length > 1 && Commands.NAMES.contains(args[0] + " " + args[1]) ? 2 : 1;
    String name = String.join(" ", List.of(args).subList(0, Math.min(words, args.length)));
    Ahead.begin(name, args);
    Common command = Commands.named(name);
    if (command == null) {
      return top(out, err, place.screen(), args);
    }
    command.terminal = place.terminal();
    command.screen = place.screen();
    String[] rest = Arrays.copyOfRange(args, words, args.length);
    int code = run(command, name, out, err, place.pager(), rest);
    place.afterwards().addAll(command.afterwards);
    return code;
  }

  /** Runs a command that is there already, with what stands behind its name. */
  static int run(Common command, String name, PrintStream out, PrintStream err, String... rest) {
    return run(command, name, out, err, null, rest);
  }

  private static int run(
      Common command, String name, PrintStream out, PrintStream err, Pager pager, String... rest) {
    command.out = out;
    command.err = err;
    CommandLine line = Commands.line("fiador " + name, command);
    try {
      line.parseArgs(rest);
      if (line.isUsageHelpRequested()) {
        line.setUsageHelpWidth(Math.min(Commands.MOST_READABLE, command.width()));
        // its colours are not ours, and would be shown as what they are made of
        line.usage(out, CommandLine.Help.Ansi.OFF);
        return Exit.YES;
      }
      command.given(List.of(rest));
      if (pager != null && command.isPaged()) {
        pager.begin(command.screen.lines());
      }
      return command.run();
    } catch (ParameterException usage) {
      err.println("fiador " + name + ": " + usage.getMessage());
      err.println("fiador " + name + " --help shows how it is used");
      return Exit.BAD_INPUT;
    } catch (CharterException wrong) {
      wrong.mistakes().forEach(err::println);
      int count = wrong.mistakes().size();
      err.println(count == 1 ? "1 mistake in the charter" : count + " mistakes in the charter");
      return Exit.BAD_INPUT;
    } catch (UnmetDemands unmet) {
      unmet.problems().forEach(err::println);
      return failed(command, name, unmet, Exit.BAD_INPUT);
    } catch (Refusal refused) {
      boolean server = refused.reason() == Refusal.Reason.SERVER;
      return failed(command, name, refused, server ? Exit.SERVER : Exit.BAD_INPUT);
    } catch (UncheckedIOException broken) {
      IOException told = new IOException(inWords(broken.getCause()), broken);
      return failed(command, name, told, Exit.BAD_INPUT);
    } catch (IOException broken) {
      IOException told = new IOException(inWords(broken), broken);
      return failed(command, name, told, Exit.BAD_INPUT);
    } catch (RuntimeException | StackOverflowError fault) {
      String what =
          "a fault of the program itself: %s\n  nothing you did wrong; --verbose shows where it is, please report it"
              .formatted(fault);
      return failed(command, name, new IllegalStateException(what, fault), Exit.FAULT);
    } catch (OutOfMemoryError full) {
      String what = "there is not enough memory for that; JAVA_TOOL_OPTIONS=-Xmx... gives more";
      return failed(command, name, new IllegalStateException(what), Exit.FAULT);
    }
  }

  private static String inWords(IOException broken) {
    if (broken instanceof NoSuchFileException missing) {
      return "there is no " + missing.getFile();
    } else if (broken instanceof AccessDeniedException denied) {
      return "this account may not read or write " + denied.getFile();
    } else if (broken instanceof FileSystemException file) {
      return file.getFile() + ": " + (file.getReason() == null ? "failed" : file.getReason());
    }
    return broken instanceof LedgerException
        ? broken.getMessage()
        : "reading or writing failed: " + broken.getMessage();
  }

  private static int failed(Common command, String name, Exception why, int code) {
    command.err.println("fiador " + name + ": " + why.getMessage());
    if (command.verbose) {
      why.printStackTrace(command.err);
    }
    return code;
  }

  private static boolean isPart(String word, String command) {
    return command.startsWith(word + " ");
  }

  /** The commands that begin with one word. */
  private static int group(String word, PrintStream to, boolean asked) {
    Columns lines = new Columns(100);
    for (String name : Commands.NAMES) {
      if (isPart(word, name)) {
        lines.line("fiador " + name, String.join(" ", Commands.named(name).description()));
      }
    }
    to.print(lines.text());
    return asked ? Exit.YES : Exit.BAD_INPUT;
  }

  private static int top(PrintStream out, PrintStream err, Screen screen, String... args) {
    int width = screen.columns() == 0 ? 100 : Math.max(40, screen.columns());
    if (args.length > 0 && args[0].equals("--version")) {
      out.println(Version.inWords());
      return Exit.YES;
    }
    if (args.length > 0 && Commands.NAMES.stream().anyMatch(key -> isPart(args[0], key))) {
      boolean helped = args.length > 1 && (args[1].equals("--help") || args[1].equals("-h"));
      return group(args[0], helped ? out : err, helped);
    }
    if (args.length > 0 && !args[0].equals("--help") && !args[0].equals("-h")) {
      err.println(
          "fiador: there is no command \""
              + args[0]
              + "\""
              + fiador.estate.Nearest.hint(args[0], Commands.NAMES.stream())
              + "\nfiador --help lists them");
      return Exit.BAD_INPUT;
    }
    (args.length == 0 ? err : out).print(TopHelp.text(width));
    return args.length == 0 ? Exit.BAD_INPUT : Exit.YES;
  }
}
