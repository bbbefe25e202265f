package fiador.grants.rules;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** The kinds of server that are known, and the rules of each. */
public final class KnownHouses {
  private KnownHouses() {}

  /** The kinds, in the order of the alphabet. */
  public static List<String> kinds() {
    return List.of(HsqldbRules.KIND, MariadbRules.KIND, PostgresqlRules.KIND);
  }

  /**
   * The rules for a kind of server, or null where the kind is not known.
   *
   * @param version the server's version as it says itself, which begins with the major one
   */
  public static @Nullable HouseRules of(String kind, String version) {
    return switch (kind) {
      case PostgresqlRules.KIND -> PostgresqlRules.of(major(version));
      case HsqldbRules.KIND -> HsqldbRules.rules();
      case MariadbRules.KIND -> MariadbRules.of(major(version), minor(version));
      default -> null;
    };
  }

  /**
   * The rules of the newest version that is known, for a server nobody has looked at yet; null for
   * a kind that is not known.
   */
  public static @Nullable HouseRules newest(String kind) {
    return switch (kind) {
      case PostgresqlRules.KIND -> PostgresqlRules.of(18);
      case HsqldbRules.KIND -> HsqldbRules.rules();
      case MariadbRules.KIND -> MariadbRules.of(11, 8);
      default -> null;
    };
  }

  private static int minor(String version) {
    int dot = version.indexOf('.');
    return dot < 0 ? 0 : major(version.substring(dot + 1));
  }

  private static int major(String version) {
    int end = 0;
    while (end < version.length() && end < 4 && Character.isDigit(version.charAt(end))) {
      end++;
    }
    return end == 0 ? 0 : Integer.parseInt(version.substring(0, end));
  }
}
