package fiador.cli.shell;

import fiador.report.shown.FileLink;
import fiador.report.shown.Palette;
import java.io.File;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;

/** The terminal that answers go to, where they go to one: its colours and its size. */
public final class Screen {
  /** No terminal: a file, a pipe, a test. */
  public static final Screen NONE = new Screen(Palette.NONE, Palette.NONE, false, false);

  private static final Pattern SIZE = Pattern.compile("\\d{1,4} \\d{1,4}");

  private final Palette answers;
  private final Palette messages;
  private final boolean terminal;
  private final boolean messagesToo;
  private int[] size;

  private Screen(Palette answers, Palette messages, boolean terminal, boolean messagesToo) {
    this.answers = answers;
    this.messages = messages;
    this.terminal = terminal;
    this.messagesToo = messagesToo;
  }

  /** The one this program runs on. */
  public static Screen here() {
    boolean out = isTerminal(1);
    boolean err = isTerminal(2);
    if (!out && !err) {
      return NONE;
    }
    Palette palette = Palette.of(System.getenv("TERM"), System.getenv("NO_COLOR"));
    return new Screen(out ? palette : Palette.NONE, err ? palette : Palette.NONE, out, err);
  }

  private static boolean isTerminal(int descriptor) {
    try {
      String to = Files.readSymbolicLink(Path.of("/proc/self/fd/" + descriptor)).toString();
      return to.startsWith("/dev/pts/") || to.startsWith("/dev/tty");
    } catch (IOException | UnsupportedOperationException elsewhere) {
      return Terminal.console() != null;
    }
  }

  /** The colours of answers. */
  public Palette answers() {
    return answers;
  }

  /** The colours of messages. */
  public Palette messages() {
    return messages;
  }

  /** Whether answers go to a terminal. */
  public boolean isTerminal() {
    return terminal;
  }

  /**
   * Whether links to files can be opened from there.
   *
   * @param descriptor 1 for answers, 2 for messages
   */
  public boolean links(int descriptor) {
    return (descriptor == 1 ? terminal : messagesToo)
        && FileLink.known(
            System.getenv("TERM"),
            System.getenv("TERM_PROGRAM"),
            System.getenv("VTE_VERSION"),
            System.getenv("KONSOLE_VERSION"),
            System.getenv("WT_SESSION"));
  }

  /** How many characters fit into a line; 0 where nobody knows. */
  public int columns() {
    return size()[1];
  }

  /** How many lines fit; 0 where nobody knows. */
  public int lines() {
    return size()[0];
  }

  private int[] size() {
    if (size == null) {
      size = terminal ? asked() : new int[2];
    }
    return size;
  }

  private static int[] asked() {
    // the launcher asks quicker than a Java that has just started
    String told = System.getProperty("fiador.screen");
    try {
      return size(told != null ? told.replace('x', ' ') : stty());
    } catch (IOException unknown) {
      return new int[2];
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      return new int[2];
    }
  }

  private static String stty() throws IOException, InterruptedException {
    Process stty =
        new ProcessBuilder("stty", "size")
            .redirectInput(new File("/dev/tty"))
            .redirectError(ProcessBuilder.Redirect.DISCARD)
            .start();
    String said = new String(stty.getInputStream().readAllBytes(), StandardCharsets.US_ASCII);
    stty.waitFor(1, TimeUnit.SECONDS);
    return said.strip();
  }

  /** Lines and columns out of "24 80"; zeros where it says nothing of the kind. */
  static int[] size(String said) {
    if (!SIZE.matcher(said).matches()) {
      return new int[2];
    }
    int space = said.indexOf(' ');
    return new int[] {
      Integer.parseInt(said.substring(0, space)), Integer.parseInt(said.substring(space + 1))
    };
  }
}
