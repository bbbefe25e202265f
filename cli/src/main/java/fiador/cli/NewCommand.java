package fiador.cli;

import fiador.files.WholeFile;
import fiador.files.charter.CharterReader;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

final class NewCommand extends Common {
  Path folder;

  @Override
  void options(Options options) {
    super.options(options);
    options.parameter(
        "DIR", Path.class, value -> folder = value, "The folder to make; must not hold a charter.");
  }

  @Override
  String[] description() {
    return new String[] {"Writes a commented starting charter."};
  }

  @Override
  String[] footer() {
    return new String[] {"", "Examples:", "  fiador new our-estate"};
  }

  @Override
  int run() throws BadInput, IOException {
    Path root = folder.resolve(CharterReader.ROOT);
    if (Files.exists(root)) {
      throw new BadInput(root + " is already there; nothing was written");
    }
    for (String name : new String[] {"fiador.yaml", "roles.yaml", "users.yaml"}) {
      Path file = folder.resolve(name);
      if (Files.exists(file)) {
        throw new BadInput(file + " is already there; nothing was written over it");
      }
      try (InputStream in = NewCommand.class.getResourceAsStream("/new/" + name)) {
        WholeFile.write(file, in::transferTo);
      }
    }
    say("a charter to start from is in " + folder + "; next: edit it, then fiador check " + folder);
    return Exit.YES;
  }
}
