package fiador.cli.sweep;

import fiador.cli.shell.Common;
import fiador.cli.shell.Options;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.work.sweeping.Sweeps;
import java.io.IOException;
import java.util.List;
import java.util.Optional;

/** What commands of a sweep share: the engine is large and runs in a process of its own. */
abstract class Sweeping extends Common {
  int cores = Runtime.getRuntime().availableProcessors();
  String memory = "2g";

  /** What was given on the command line, to be given on. */
  protected List<String> given = List.of();

  @Override
  public void options(Options options) {
    super.options(options);
    options.option(
        "--cores",
        "N",
        Integer.class,
        value -> cores = value,
        "How many threads work; else one for each processor of this machine.");
    options.option(
        "--memory",
        "SIZE",
        value -> memory = value,
        "How much memory it may take, such as 500m or 4g; else 2g.");
  }

  @Override
  public void given(List<String> arguments) {
    given = arguments;
  }

  /** The name of the command. */
  abstract String name();

  @Override
  public final int run() throws Refusal, IOException {
    if (cores < 1) {
      throw new BadInput("--cores " + cores + " is too few; one is the least");
    }
    if (!memory.matches("[1-9]\\d{0,5}[mgMG]")) {
      throw new BadInput("--memory " + memory + " is no size; write 500m or 4g");
    }
    Optional<Sweeps> engine = Sweeps.here();
    return engine.isPresent() ? run(engine.get()) : new Elsewhere(memory).run(name(), given);
  }

  /** Does the work where the engine is. */
  abstract int run(Sweeps engine) throws Refusal, IOException;
}
