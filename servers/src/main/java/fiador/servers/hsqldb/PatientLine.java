package fiador.servers.hsqldb;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.CallableStatement;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.Statement;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ThreadFactory;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/**
 * A connection over the network that is given up when no answer comes: the driver itself would wait
 * for ever on a line that is dead. Whatever may go over the line is done by a thread of its own,
 * and somebody else waits for it. Rows come whole with their statement and are read directly.
 *
 * <p>Cost: a change of threads for each call.
 */
final class PatientLine {
  private static final ThreadFactory DAEMONS =
      work -> {
        Thread thread = new Thread(work, "hsqldb line");
        thread.setDaemon(true);
        return thread;
      };

  private final String where;
  private final int seconds;
  private final ExecutorService caller = Executors.newSingleThreadExecutor(DAEMONS);
  private volatile boolean dead;

  private PatientLine(String where, int seconds) {
    this.where = where;
    this.seconds = seconds;
  }

  /**
   * Watches over a connection.
   *
   * @param where the server, for messages
   * @param seconds how long to wait for any one answer
   */
  static Connection of(Connection connection, String where, int seconds) {
    return new PatientLine(where, seconds).watched(connection, Connection.class);
  }

  private <T> T watched(T real, Class<T> as) {
    InvocationHandler handler = (proxy, method, values) -> call(real, method, values);
    return as.cast(Proxy.newProxyInstance(as.getClassLoader(), new Class<?>[] {as}, handler));
  }

  private Object call(Object real, Method method, Object[] values) throws Throwable {
    boolean ends = method.getName().equals("close");
    if (dead) {
      if (ends) {
        return null;
      }
      throw silent(null);
    }
    // a statement is called off while the thread of the line still waits for it
    boolean callsOff = method.getName().equals("cancel");
    ExecutorService by = callsOff ? Executors.newSingleThreadExecutor(DAEMONS) : caller;
    Future<Object> answer = by.submit(() -> method.invoke(real, values));
    try {
      Object result = answer.get(seconds, TimeUnit.SECONDS);
      if (ends && real instanceof Connection) {
        caller.shutdown();
      }
      return watched(result);
    } catch (ExecutionException failed) {
      Throwable cause = failed.getCause();
      throw cause instanceof InvocationTargetException thrown ? thrown.getCause() : cause;
    } catch (TimeoutException late) {
      dead = true;
      caller.shutdownNow();
      if (ends) {
        return null;
      }
      throw silent(late);
    } finally {
      if (callsOff) {
        by.shutdown();
      }
    }
  }

  private Object watched(Object result) {
    if (result instanceof CallableStatement statement) {
      return watched(statement, CallableStatement.class);
    } else if (result instanceof PreparedStatement statement) {
      return watched(statement, PreparedStatement.class);
    } else if (result instanceof Statement statement) {
      return watched(statement, Statement.class);
    }
    return result;
  }

  private SQLException silent(Exception cause) {
    return new SQLNonTransientConnectionException(
        "the server at " + where + " did not answer within " + seconds + " s", "08S01", cause);
  }
}
