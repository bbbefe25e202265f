package fiador.cli;

import picocli.AutoComplete;

final class CompletionCommand extends Common {
  @Override
  String[] description() {
    return new String[] {
      "Prints a script that lets bash and zsh complete fiador's commands and options.",
      "A release has it, and the man pages, ready in its folders."
    };
  }

  @Override
  String[] footer() {
    return new String[] {"", "Examples:", "  eval \"$(fiador completion)\"        in .bashrc"};
  }

  @Override
  int run() {
    out.print(AutoComplete.bash("fiador", Commands.tree()));
    return Exit.YES;
  }
}
