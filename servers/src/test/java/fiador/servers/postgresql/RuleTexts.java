package fiador.servers.postgresql;

/** Lets tests elsewhere read row rules. */
public final class RuleTexts {
  private RuleTexts() {}

  /** The predicate of a rule; null where it is beyond the language. */
  public static String read(String sql) {
    return RuleText.predicate(sql);
  }
}
