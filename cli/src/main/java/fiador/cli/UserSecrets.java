package fiador.cli;

import fiador.servers.Preview;
import java.util.Locale;

/** The secrets of users, for servers on which nobody can act as somebody else. */
final class UserSecrets {
  private UserSecrets() {}

  /** The variable of the environment in which a user's secret stands. */
  static String variable(String user) {
    return "FIADOR_SECRET_" + user.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "_");
  }

  /**
   * A user's secret; null where none is needed.
   *
   * @throws BadInput when one is needed and the environment has none
   */
  static String of(Preview preview, int user) throws BadInput {
    if (preview.canAct()) {
      return null;
    }
    String name = preview.key(user);
    String secret = System.getenv(variable(name));
    if (secret == null) {
      throw new BadInput(
          "on this server nobody can act as somebody else: put the secret of "
              + name
              + " into "
              + variable(name)
              + " for --live");
    }
    return secret;
  }
}
