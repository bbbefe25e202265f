package fiador.servers.jdbc;

import java.sql.SQLException;
import java.sql.Statement;

/** Has the server give up a statement when the program is told to stop; else it would go on. */
public final class Cancelled {
  private Cancelled() {}

  /**
   * Looks after a statement.
   *
   * @return to be run when the statement is over
   */
  public static Runnable whenStopped(Statement statement) {
    Thread hook = new Thread(() -> cancel(statement));
    try {
      Runtime.getRuntime().addShutdownHook(hook);
    } catch (IllegalStateException stopping) {
      return () -> {};
    }
    return () -> {
      try {
        Runtime.getRuntime().removeShutdownHook(hook);
      } catch (IllegalStateException stopping) {
        // the hook is running or has run
      }
    };
  }

  private static void cancel(Statement statement) {
    try {
      statement.cancel();
    } catch (SQLException over) {
      // it came to its end by itself
    }
  }
}
