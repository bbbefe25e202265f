package fiador.servers;

/** The line to a server broke at a moment when it may have carried something out, or not. */
public final class OutcomeUnknownException extends ServerException {
  private static final long serialVersionUID = 1L;

  OutcomeUnknownException(String message, Throwable cause) {
    super(message, cause);
  }
}
