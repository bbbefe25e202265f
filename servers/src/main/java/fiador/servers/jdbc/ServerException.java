package fiador.servers.jdbc;

import fiador.refusal.Refusal;

/** A server could not be reached, or refused. The message says where and what to do. */
public class ServerException extends Refusal {
  private static final long serialVersionUID = 1L;

  /**
   * @param message what went wrong, where, and what to do next
   * @param cause the driver's own complaint, or null
   */
  public ServerException(String message, Throwable cause) {
    super(Reason.SERVER, message, cause);
  }
}
