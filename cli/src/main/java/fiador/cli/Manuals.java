package fiador.cli;

import fiador.files.WholeFile;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import picocli.AutoComplete;
import picocli.CommandLine;
import picocli.CommandLine.Help;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Model.PositionalParamSpec;

/**
 * Writes the man pages and the completion script of a release out of what the commands say of
 * themselves.
 */
public final class Manuals {
  private Manuals() {}

  /** Takes the folder of the release, which gets {@code man/man1} and {@code completion}. */
  public static void main(String[] args) throws IOException {
    Path release = Path.of(args[0]);
    CommandLine all = Commands.tree();
    write(release.resolve("completion/fiador.bash"), AutoComplete.bash("fiador", all));
    pages(all, release.resolve("man/man1"));
  }

  private static void pages(CommandLine command, Path folder) throws IOException {
    String name = command.getCommandSpec().qualifiedName("-");
    write(folder.resolve(name + ".1"), page(command));
    for (CommandLine sub : command.getSubcommands().values()) {
      pages(sub, folder);
    }
  }

  private static void write(Path file, String text) throws IOException {
    Files.createDirectories(file.getParent());
    WholeFile.write(file, to -> to.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  /** One page in the language of man. */
  static String page(CommandLine command) {
    CommandSpec spec = command.getCommandSpec();
    String name = spec.qualifiedName("-");
    List<String> lines = new ArrayList<>();
    lines.add(".TH " + name.toUpperCase(java.util.Locale.ROOT) + " 1");
    lines.add(".SH NAME");
    String[] about = spec.usageMessage().description();
    lines.add(escaped(name) + " \\- " + (about.length == 0 ? "" : escaped(about[0])));
    lines.add(".SH SYNOPSIS");
    lines.add(escaped(new Help(spec, Help.Ansi.OFF).synopsis(0).strip()));
    lines.add(".SH DESCRIPTION");
    for (String line : about) {
      lines.add(escaped(line));
      lines.add(".br");
    }
    List<String> options = new ArrayList<>();
    for (PositionalParamSpec each : spec.positionalParameters()) {
      add(options, each.paramLabel(), each.description());
    }
    for (OptionSpec each : spec.options()) {
      String label = each.arity().max() == 0 ? "" : " " + each.paramLabel();
      add(options, String.join(", ", each.names()) + label, each.description());
    }
    section(lines, "OPTIONS", options);
    List<String> below = new ArrayList<>();
    command
        .getSubcommands()
        .forEach(
            (word, sub) ->
                add(
                    below,
                    sub.getCommandSpec().qualifiedName("-") + "(1)",
                    sub.getCommandSpec().usageMessage().description()));
    section(lines, "COMMANDS", below);
    List<String> notes = new ArrayList<>();
    for (String line : spec.usageMessage().footer()) {
      if (!line.isEmpty()) {
        notes.add(escaped(line));
        notes.add(".br");
      }
    }
    section(lines, "NOTES", notes);
    return String.join("\n", lines) + "\n";
  }

  private static void section(List<String> lines, String title, List<String> body) {
    if (!body.isEmpty()) {
      lines.add(".SH " + title);
      lines.addAll(body);
    }
  }

  private static void add(List<String> lines, String term, String[] description) {
    lines.add(".TP");
    lines.add(".B " + escaped(term));
    lines.add(escaped(String.join(" ", description)));
  }

  /** What stands there and means nothing to man. */
  private static String escaped(String text) {
    String plain = text.replace("\\", "\\e").replace("-", "\\-");
    return plain.startsWith(".") || plain.startsWith("'") ? "\\&" + plain : plain;
  }
}
