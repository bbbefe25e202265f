package fiador.sqltext;

/**
 * A piece of SQL text: a name, a text, a number or a sign.
 *
 * @param kind what it is
 * @param text a name without its quotes, what a text says, or the sign
 * @param quote what it stood in: 0 for nothing, {@code $} for tags of dollar signs
 * @param start where it begins
 * @param end behind its end
 */
public record SqlToken(Kind kind, String text, char quote, int start, int end) {
  /** What a piece is. */
  public enum Kind {
    /** A name or keyword. */
    NAME,
    TEXT,
    NUMBER,
    /** One character that is none of these. */
    SIGN
  }

  /** Whether it is a name or keyword. */
  public boolean isName() {
    return kind == Kind.NAME;
  }

  /** Whether it is a text. */
  public boolean isText() {
    return kind == Kind.TEXT;
  }

  /** Whether it is a name in quotes, which keep its letters. */
  public boolean isQuoted() {
    return isName() && quote != 0;
  }

  /** Whether it is this keyword or sign; what stands in quotes is neither. */
  public boolean is(String word) {
    return quote == 0 && text.equalsIgnoreCase(word);
  }
}
