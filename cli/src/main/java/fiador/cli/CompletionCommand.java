package fiador.cli;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import picocli.AutoComplete;

final class CompletionCommand extends Common {
  @Override
  public String[] description() {
    return new String[] {
      "Prints a script that lets bash and zsh complete fiador's commands and options.",
      "A release has it, and the man pages, ready in its folders."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {"", "Examples:", "  eval \"$(fiador completion)\"        in .bashrc"};
  }

  @Override
  public int run() {
    out.print(AutoComplete.bash("fiador", Commands.tree()));
    return Exit.YES;
  }
}
