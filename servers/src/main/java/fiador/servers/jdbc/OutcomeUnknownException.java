package fiador.servers.jdbc;

/** The line to a server broke at a moment when it may have carried something out, or not. */
public final class OutcomeUnknownException extends ServerException {
  private static final long serialVersionUID = 1L;

  public OutcomeUnknownException(String message, Throwable cause) {
    super(message, cause);
  }
}
