package fiador.cli.draw;

import fiador.cli.shell.Options;
import fiador.files.WholeFile;
import fiador.refusal.BadInput;
import fiador.report.pictures.Picture;
import fiador.report.pictures.Theme;
import fiador.report.shown.FileLink;
import java.awt.Dimension;
import java.io.IOException;
import java.nio.file.Path;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Where a picture goes, how large it is and in which colours. */
final class Canvas {
  private static final Pattern SIZE = Pattern.compile("(\\d{2,5})x(\\d{2,5})");
  private static final int LARGEST = 20_000;

  private @Nullable Path file;
  private @Nullable String size;
  private boolean dark;
  private boolean print;
  private boolean full;
  private boolean terminal;

  void options(Options options) {
    options.option(
        "--to",
        "FILE",
        Path.class,
        value -> file = value,
        "Writes it there; the name ends in .svg, .png or .pdf.");
    options.option(
        "--size", "WxH", value -> size = value, "How large, in pixels; else as large as it comes.");
    options.flag("--dark", given -> dark = given, "For a dark ground.");
    options.flag("--print", given -> print = given, "For paper, in black.");
    options.flag("--full", given -> full = given, "Draws each by itself, however many there are.");
    options.flag(
        "--terminal", given -> terminal = given, "As text, here; so it is without --to, too.");
  }

  /** Says what does not go together, before anything is worked out. */
  void check() throws BadInput {
    if (terminal && file != null) {
      throw new BadInput("--terminal writes here, --to into a file; only one of them");
    }
    if (dark && print) {
      throw new BadInput("--dark is for a screen, --print for paper; only one of them");
    }
    if (file != null) {
      kind(file);
      size();
    } else if (size != null || dark || print) {
      throw new BadInput("--size, --dark and --print are for a file: --to FILE.svg");
    }
  }

  @Nullable Path file() {
    return file;
  }

  boolean full() {
    return full;
  }

  Theme theme() {
    return dark ? Theme.DARK : print ? Theme.PRINT : Theme.LIGHT;
  }

  @Nullable Dimension size() throws BadInput {
    if (size == null) {
      return null;
    }
    Matcher read = SIZE.matcher(size);
    if (!read.matches()
        || Integer.parseInt(read.group(1)) > LARGEST
        || Integer.parseInt(read.group(2)) > LARGEST) {
      throw new BadInput(
          "--size \""
              + size
              + "\" is no size; say it like 1280x800, at most "
              + LARGEST
              + " each way");
    }
    return new Dimension(Integer.parseInt(read.group(1)), Integer.parseInt(read.group(2)));
  }

  private static Picture.Kind kind(Path file) throws BadInput {
    Picture.Kind kind = Picture.Kind.ofFile(file.toString());
    if (kind == null) {
      throw new BadInput(
          "--to "
              + file
              + ": the name has to end in .svg, .png or .pdf, which says what is written");
    }
    return kind;
  }

  /** Writes a picture, and says so. */
  String write(Picture picture) throws BadInput, IOException {
    if (file == null) {
      throw new BadInput("where the picture goes is not said: --to FILE.svg");
    }
    Picture.Kind kind = kind(file);
    WholeFile.write(file, to -> picture.write(kind, to));
    return "drawn to " + FileLink.to(file);
  }
}
