package fiador.cli;

import picocli.AutoComplete;
import picocli.CommandLine.Command;

@Command(
    name = "completion",
    description = {
      "Prints a script that lets bash and zsh complete fiador's commands and options.",
      "A release has it, and the man pages, ready in its folders."
    },
    footer = {"", "Examples:", "  eval \"$(fiador completion)\"        in .bashrc"})
final class CompletionCommand extends Common {
  @Override
  int run() {
    out.print(AutoComplete.bash("fiador", Commands.tree()));
    return Exit.YES;
  }
}
