package fiador.cli;

import fiador.cli.ask.BypassCommand;
import fiador.cli.ask.CheckCommand;
import fiador.cli.ask.ClimbCommand;
import fiador.cli.ask.HistoryCommand;
import fiador.cli.ask.HoldersCommand;
import fiador.cli.ask.HoldingsCommand;
import fiador.cli.ask.ListCommand;
import fiador.cli.ask.PreviewCommand;
import fiador.cli.ask.ProveCommand;
import fiador.cli.ask.TraceCommand;
import fiador.cli.change.AdoptCommand;
import fiador.cli.change.GapCommand;
import fiador.cli.change.NewCommand;
import fiador.cli.change.SecretCommand;
import fiador.cli.change.SettleCommand;
import fiador.cli.change.StandInCommand;
import fiador.cli.change.SurveyCommand;
import fiador.cli.draw.DrawCommand;
import fiador.cli.draw.PageCommand;
import fiador.cli.review.ReviewCloseCommand;
import fiador.cli.review.ReviewDecideCommand;
import fiador.cli.review.ReviewKeyCommand;
import fiador.cli.review.ReviewOpenCommand;
import fiador.cli.review.ReviewRefreshCommand;
import fiador.cli.review.ReviewSheetsCommand;
import fiador.cli.review.ReviewStatusCommand;
import fiador.cli.review.ReviewVerifyCommand;
import fiador.cli.shell.Common;
import fiador.cli.shell.Options;
import fiador.cli.sweep.SweepChangedCommand;
import fiador.cli.sweep.SweepCommand;
import fiador.cli.sweep.SweepPersonCommand;
import fiador.cli.sweep.SweepWhoCommand;
import fiador.cli.tidy.FindingsCommand;
import fiador.cli.tidy.SeverCommand;
import fiador.cli.tidy.TrimCommand;
import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;

/**
 * The commands there are. Only the one that was asked for is made: reading what a command says of
 * itself is most of a short answer's time, and so is linking a constructor for each.
 */
public final class Commands {
  /** Their names, in the order in which they are of use; some are of two words. */
  static final List<String> NAMES =
      List.of(
          "tour",
          "stand-in",
          "new",
          "survey",
          "adopt",
          "holdings",
          "holders",
          "trace",
          "list",
          "draw",
          "page",
          "preview",
          "bypass",
          "climb",
          "history",
          "check",
          "prove",
          "gap",
          "settle",
          "secret",
          "findings",
          "trim",
          "sever",
          "sweep",
          "sweep who",
          "sweep person",
          "sweep changed",
          "review open",
          "review sheets",
          "review decide",
          "review status",
          "review refresh",
          "review close",
          "review verify",
          "review key",
          "completion");

  static final String PURPOSE =
      "Who can do what on your database servers, through what, and why not.";

  private static final int HELP_WIDTH = 100;

  /** Longer lines of running text are hard to read. */
  static final int MOST_READABLE = 110;

  private Commands() {}

  @Command(
      name = "fiador",
      mixinStandardHelpOptions = true,
      description = PURPOSE,
      footer = {"", "Begin with: fiador tour"})
  static final class Top implements Runnable {
    @Override
    public void run() {
      // only its help is ever shown
    }
  }

  /** The command of that name, null where there is none. */
  static Common named(String name) {
    return switch (name) {
      case "tour" -> new TourCommand();
      case "stand-in" -> new StandInCommand();
      case "new" -> new NewCommand();
      case "check" -> new CheckCommand();
      case "survey" -> new SurveyCommand();
      case "adopt" -> new AdoptCommand();
      case "gap" -> new GapCommand();
      case "settle" -> new SettleCommand();
      case "secret" -> new SecretCommand();
      case "prove" -> new ProveCommand();
      case "holdings" -> new HoldingsCommand();
      case "holders" -> new HoldersCommand();
      case "list" -> new ListCommand();
      case "draw" -> new DrawCommand();
      case "page" -> new PageCommand();
      case "trace" -> new TraceCommand();
      case "preview" -> new PreviewCommand();
      case "bypass" -> new BypassCommand();
      case "findings" -> new FindingsCommand();
      case "trim" -> new TrimCommand();
      case "sever" -> new SeverCommand();
      case "climb" -> new ClimbCommand();
      case "history" -> new HistoryCommand();
      case "sweep" -> new SweepCommand();
      case "sweep who" -> new SweepWhoCommand();
      case "sweep person" -> new SweepPersonCommand();
      case "sweep changed" -> new SweepChangedCommand();
      case "review open" -> new ReviewOpenCommand();
      case "review sheets" -> new ReviewSheetsCommand();
      case "review decide" -> new ReviewDecideCommand();
      case "review status" -> new ReviewStatusCommand();
      case "review refresh" -> new ReviewRefreshCommand();
      case "review close" -> new ReviewCloseCommand();
      case "review verify" -> new ReviewVerifyCommand();
      case "review key" -> new ReviewKeyCommand();
      case "completion" -> new CompletionCommand();
      default -> null;
    };
  }

  /** The name of a command. */
  static String nameOf(Common command) {
    return NAMES.stream()
        .filter(name -> named(name).getClass() == command.getClass())
        .findFirst()
        .orElseThrow();
  }

  /** What reads the command line of a command. */
  static CommandLine line(String name, Common command) {
    CommandSpec spec = CommandSpec.create().name(name);
    command.options(new Options(spec));
    spec.usageMessage()
        .description(String.join(" ", command.description()))
        .footer(command.footer());
    CommandLine line = new CommandLine(spec);
    line.setCaseInsensitiveEnumValuesAllowed(true);
    line.setUsageHelpWidth(HELP_WIDTH);
    return line;
  }

  /** All of them below one, those of two words each below its first. */
  static CommandLine tree() {
    CommandLine top = new CommandLine(new Top());
    for (String name : NAMES) {
      String[] words = name.split(" ", 2);
      CommandLine above = top;
      if (words.length > 1) {
        above = top.getSubcommands().get(words[0]);
        if (above == null) {
          CommandSpec group = CommandSpec.create();
          group.usageMessage().description("Several commands: fiador " + words[0] + " --help");
          above = new CommandLine(group);
          top.addSubcommand(words[0], above);
        }
      }
      String last = words[words.length - 1];
      above.addSubcommand(last, line(last, named(name)));
    }
    top.setUsageHelpWidth(100);
    return top;
  }
}
