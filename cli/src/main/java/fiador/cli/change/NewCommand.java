package fiador.cli.change;

import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.files.WholeFile;
import fiador.files.charter.CharterReader;
import fiador.refusal.BadInput;
import fiador.report.shown.FileLink;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;

public final class NewCommand extends Common {
  Path folder;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter(
        "DIR", Path.class, value -> folder = value, "The folder to make; must not hold a charter.");
  }

  @Override
  public String[] description() {
    return new String[] {"Writes a commented starting charter."};
  }

  @Override
  public String[] footer() {
    return new String[] {"", "Examples:", "  fiador new our-estate"};
  }

  @Override
  public int run() throws BadInput, IOException {
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
    say(
        "a charter to start from is in "
            + FileLink.to(folder)
            + "; next: edit it, then fiador check "
            + folder);
    return Exit.YES;
  }
}
