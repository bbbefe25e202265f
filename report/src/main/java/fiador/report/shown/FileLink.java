package fiador.report.shown;

import java.net.URI;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * A file that an answer names. On terminals that know such links it can be opened from there; the
 * door before the terminal ({@link ToneStream}) makes the link, as it makes colours of a {@link
 * Tone}. Where a link leads is kept here and never read back from a text, so that no name on a
 * server leads anywhere.
 */
public final class FileLink {
  /** Behind those that marks are drawn from. */
  static final char FIRST = '\ue800';

  static final char END = '\ue09f';

  /**
   * So many that no buffer holds as many before its door is reached; then the oldest is given up.
   */
  private static final int MOST = 4000;

  private static final List<String> TARGETS = new ArrayList<>();
  private static int next;

  private FileLink() {}

  /** The file's name as it was given, as a link to it. */
  public static String to(Path file) {
    return to(file, file.toString());
  }

  /**
   * A link to a file.
   *
   * @param shown what stands there
   */
  public static synchronized String to(Path file, String shown) {
    String target = file.toAbsolutePath().normalize().toUri().toASCIIString();
    int place = next++ % MOST;
    if (place < TARGETS.size()) {
      TARGETS.set(place, target);
    } else {
      TARGETS.add(target);
    }
    return Tone.BEGIN + (char) (FIRST + place) + shown + Tone.BEGIN + END;
  }

  /** Whether a code behind a mark is one of a link's. */
  static boolean is(char code) {
    return code == END || code >= FIRST && code < FIRST + MOST;
  }

  /** What a terminal that knows links takes for the code: the link, or its end. */
  static synchronized String control(char code) {
    boolean known = code >= FIRST && code - FIRST < TARGETS.size();
    // an ASCII text of a URI holds no control characters
    String target = known ? URI.create(TARGETS.get(code - FIRST)).toASCIIString() : "";
    return "\u001b]8;;" + target + "\u001b\\";
  }

  /**
   * Whether a terminal that describes itself like this knows links.
   *
   * @param term the variable TERM; null where nobody set it
   * @param others values of the variables by which newer terminals make themselves known, nulls for
   *     those that are not set
   */
  public static boolean known(String term, String... others) {
    if (term == null || term.equals("dumb") || term.equals("linux")) {
      return false;
    }
    for (String value : others) {
      if (value != null && !value.isEmpty()) {
        return true;
      }
    }
    return false;
  }
}
