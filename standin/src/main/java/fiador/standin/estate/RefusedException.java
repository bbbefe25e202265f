package fiador.standin.estate;

/** Somebody may not do what they asked for; the message says what is missing and where. */
public final class RefusedException extends Exception {
  private static final long serialVersionUID = 1L;

  /** With what is missing. */
  public RefusedException(String message) {
    super(message);
  }
}
