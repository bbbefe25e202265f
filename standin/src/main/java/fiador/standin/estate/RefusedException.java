package fiador.standin.estate;

import org.jspecify.annotations.Nullable;

/** Somebody may not do what they asked for; the message says what is missing and where. */
public final class RefusedException extends Exception {
  private static final long serialVersionUID = 1L;

  private final transient @Nullable String privilege;
  private final transient @Nullable Thing thing;

  /** With what is missing. */
  public RefusedException(String message) {
    super(message);
    this.privilege = null;
    this.thing = null;
  }

  /** With what is missing, and on what: that is noted. */
  public RefusedException(String message, String privilege, Thing thing) {
    super(message);
    this.privilege = privilege;
    this.thing = thing;
  }

  /** Which privilege it was about; null for none. */
  public @Nullable String privilege() {
    return privilege;
  }

  /** What it was about; null for nothing in particular. */
  public @Nullable Thing thing() {
    return thing;
  }
}
