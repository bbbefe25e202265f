package fiador.predicates;

import java.util.Locale;

/** What a server tells of the session in which somebody asks. */
public enum SessionFact {
  /** What the program says it is called. Anybody can say anything: it protects nothing alone. */
  APPLICATION,
  /** The address the session comes from, in letters; empty where it comes by no network. */
  ADDRESS;

  /** The name behind {@code session.} in predicates. */
  public String text() {
    return name().toLowerCase(Locale.ROOT);
  }
}
