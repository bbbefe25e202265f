package fiador.estate;

import java.util.Locale;

/** What is known of how an account proves who it is; never the secret itself. */
public enum Secret {
  /** Whoever surveyed could not see. */
  UNKNOWN,
  /** There is none: whoever knows the name is in, where the server lets such accounts log in. */
  NONE,
  /** Kept in a way that is easily found out. */
  OUTDATED,
  /** Kept as the server does best. */
  SOUND;

  /** The name in the survey file. */
  public String text() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The one of that {@link #text()}, or null. */
  public static Secret named(String text) {
    for (Secret secret : values()) {
      if (secret.text().equals(text)) {
        return secret;
      }
    }
    return null;
  }
}
