package fiador.work.secrets;

import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.AccountName;
import fiador.grants.rules.HouseFact;
import fiador.refusal.BadInput;
import fiador.servers.live.Preview;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Collection;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * The variables of the environment in which users' secrets stand. Where a name without its odd
 * letters would be that of several users, each gets a mark of its own, so that none is given
 * another's secret.
 */
public final class UserSecrets {
  private static final String PREFIX = "FIADOR_SECRET_";
  private static final int MARK = 3;

  /** What a letter becomes that the environment's encoding could not say. */
  private static final char REPLACED = '\ufffd';

  private final boolean byHost;
  private final Map<String, Set<String>> sharing = new HashMap<>();

  /** For those users, by their names as the server stores them. */
  UserSecrets(Collection<String> users, boolean byHost) {
    this.byHost = byHost;
    for (String user : users) {
      String name = account(user);
      sharing.computeIfAbsent(plain(name), fresh -> new TreeSet<>()).add(name);
    }
  }

  /** For all users of a survey, and some more; accounts of one name share its secret. */
  public static UserSecrets of(Access access, Collection<String> more) {
    Principals people = access.principals();
    boolean byHost = access.rules().has(HouseFact.ACCOUNTS_BY_HOST);
    Set<String> names = new TreeSet<>(more);
    for (int id = 1; id < people.size(); id++) {
      if (people.isUser(id)) {
        names.add(people.name(id));
      }
    }
    return new UserSecrets(names, byHost);
  }

  /** An account is known by its name alone, wherever it comes from. */
  private String account(String user) {
    return byHost ? AccountName.of(user).user() : user;
  }

  private static String plain(String name) {
    return PREFIX + name.toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "_");
  }

  /** The variable in which a user's secret stands. */
  public String variable(String user) {
    String name = account(user);
    String plain = plain(name);
    return sharing.getOrDefault(plain, Set.of(name)).size() < 2
            && sharing.getOrDefault(plain, Set.of(name)).contains(name)
        ? plain
        : plain + "_" + mark(name);
  }

  private static String mark(String name) {
    try {
      byte[] digest =
          MessageDigest.getInstance("SHA-256").digest(name.getBytes(StandardCharsets.UTF_8));
      return HexFormat.of().withUpperCase().formatHex(digest, 0, MARK);
    } catch (NoSuchAlgorithmException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /**
   * A user's secret; null where the environment has none.
   *
   * @throws BadInput when letters of it did not arrive
   */
  public @Nullable String of(String user) throws BadInput {
    String variable = variable(user);
    String secret = System.getenv(variable);
    if (secret != null) {
      whole(variable, secret);
    }
    return secret == null || secret.isEmpty() ? null : secret;
  }

  /** A secret that is not what was written would lock its user out. */
  public static void whole(String where, CharSequence secret) throws BadInput {
    if (secret.chars().anyMatch(letter -> letter == REPLACED)) {
      throw new BadInput(
          "letters of the secret in "
              + where
              + " were lost, because this session's locale cannot say them; set LC_ALL to one with"
              + " UTF-8 (C.UTF-8) and try again");
    }
  }

  /**
   * A user's secret to act as that user; null where none is needed.
   *
   * @throws BadInput when one is needed and the environment has none
   */
  public static @Nullable String of(Preview preview, int user) throws BadInput {
    if (preview.canAct()) {
      return null;
    }
    String name = preview.access().principals().name(user);
    UserSecrets secrets = of(preview.access(), Set.of());
    String secret = secrets.of(name);
    if (secret == null) {
      throw new BadInput(
          "on this server nobody can act as somebody else: put the secret of "
              + name
              + " into "
              + secrets.variable(name)
              + " for --live");
    }
    return secret;
  }
}
