package fiador.estate;

import java.util.Locale;

/** Who can be given something. An account that cannot log in counts as a role. */
public enum PrincipalKind {
  PUBLIC,
  USER,
  ROLE;

  /** The name in lower case. */
  public String text() {
    return name().toLowerCase(Locale.ROOT);
  }
}
