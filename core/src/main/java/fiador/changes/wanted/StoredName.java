package fiador.changes.wanted;

import fiador.grants.rules.HouseRules;

/** The names of a charter as servers store them. */
public final class StoredName {
  private StoredName() {}

  /** Exactly as it is written where it stands in quotes, else folded as the server folds names. */
  public static String of(String name, HouseRules rules) {
    boolean quoted = name.length() > 2 && name.startsWith("\"") && name.endsWith("\"");
    return quoted ? name.substring(1, name.length() - 1).replace("\"\"", "\"") : rules.fold(name);
  }
}
