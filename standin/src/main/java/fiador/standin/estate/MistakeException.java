package fiador.standin.estate;

/** A statement is none, or about something that is not there. */
public final class MistakeException extends Exception {
  private static final long serialVersionUID = 1L;

  /** With what is wrong. */
  public MistakeException(String message) {
    super(message);
  }
}
