package fiador.reviews;

import java.util.Locale;

/** What a reviewer says to a line. */
public enum Answer {
  /** It is needed. */
  KEEP,
  /** It has to go. */
  REVOKE,
  /** Somebody else has to say; it stays until then. */
  UNSURE;

  /** As people write it. */
  public String text() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The answer that is written so, or begun so; null for anything else. */
  public static Answer named(String text) {
    String asked = text.strip().toLowerCase(Locale.ROOT);
    for (Answer answer : values()) {
      if (!asked.isEmpty() && answer.text().startsWith(asked)) {
        return answer;
      }
    }
    return null;
  }
}
