package fiador.houses;

import fiador.grants.rules.HouseRules;

/**
 * All that is known of a kind of server that no code knows.
 *
 * @param name the sheet's name
 * @param about one sentence for whoever chooses among sheets
 * @param rules how privileges are worked out there
 * @param reading where its facts come from
 * @param writing how its statements are written
 */
public record HouseSheet(
    String name, String about, HouseRules rules, Reading reading, Writing writing) {
  /** What the kind of a server begins with that a sheet describes. */
  public static final String PREFIX = "house/";

  /** The kind of server, as a charter names it. */
  public String kind() {
    return PREFIX + name;
  }

  /** Whether a kind is one that a sheet describes. */
  public static boolean describes(String kind) {
    return kind.startsWith(PREFIX);
  }
}
