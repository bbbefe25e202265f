package fiador.cli.shell;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Properties;

/** Which Fiador this is. */
public final class Version {
  private Version() {}

  /** The number of the release. */
  public static String number() {
    return properties().getProperty("version");
  }

  /** Number and commit: {@code fiador 0.1.0 (commit 1a2b3c4)}. */
  public static String inWords() {
    Properties properties = properties();
    String commit = properties.getProperty("commit", "");
    // where there was no repository the placeholder is left as it is
    boolean known = commit.matches("[0-9a-f]{6,40}");
    return "fiador "
        + properties.getProperty("version")
        + (known ? " (commit " + commit + ")" : "");
  }

  private static Properties properties() {
    Properties properties = new Properties();
    try (InputStream in = Version.class.getResourceAsStream("/fiador/cli/version.properties")) {
      properties.load(in);
      return properties;
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
  }
}
