package fiador.effects;

import java.util.Locale;

/** The state of a holding, the best one first. */
public enum State {
  /** Works right after login. */
  LIVE,
  /** Works after switching a role on. */
  ON_REQUEST,
  /** Given, but something needed on the way is missing. */
  BLOCKED,
  /** Given, and taken back by a denial. */
  DENIED,
  /** Its time is over. */
  LAPSED;

  private static final State[] ALL = values();

  /** The name in the machine contract. */
  public String text() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** Whether it can be used, at once or after switching a role on. */
  public boolean works() {
    return this == LIVE || this == ON_REQUEST;
  }

  /** The state with that ordinal. */
  public static State at(int ordinal) {
    return ALL[ordinal];
  }
}
