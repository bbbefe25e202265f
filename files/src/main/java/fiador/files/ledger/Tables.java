package fiador.files.ledger;

import java.io.IOException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.apache.commons.dbutils.QueryRunner;

/** The tables of a ledger over one connection. Cost of each: what the statement costs there. */
final class Tables implements AutoCloseable {
  /** No server is asked what it takes for a value; the drivers know. */
  private static final QueryRunner RUNNER = new QueryRunner(true);

  private final Connection connection;

  /** Over that connection, which is closed with it. */
  Tables(Connection connection) {
    this.connection = connection;
  }

  /** What is made of one row. */
  @FunctionalInterface
  interface Row<T> {
    T of(ResultSet row) throws SQLException;
  }

  /** What is done with the tables. */
  @FunctionalInterface
  interface Work<T> {
    T with(Tables tables) throws IOException;
  }

  /** The rows of a query, in its order. */
  <T> List<T> list(Row<T> each, String sql, Object... values) throws StatementException {
    try {
      return RUNNER.query(connection, sql, rows -> all(rows, each), values);
    } catch (SQLException refused) {
      throw new StatementException(refused);
    }
  }

  private static <T> List<T> all(ResultSet rows, Row<T> each) throws SQLException {
    List<T> found = new ArrayList<>();
    while (rows.next()) {
      found.add(each.of(rows));
    }
    return found;
  }

  /** The first columns of a query's rows. */
  List<String> texts(String sql, Object... values) throws StatementException {
    return list(row -> row.getString(1), sql, values);
  }

  /**
   * The only row of a query.
   *
   * @throws StatementException also when there is none, or more than one
   */
  <T> T one(Row<T> only, String sql, Object... values) throws StatementException {
    List<T> found = list(only, sql, values);
    if (found.size() != 1) {
      throw new StatementException(
          new SQLException("there are " + found.size() + " rows, and not one, for: " + sql));
    }
    return found.get(0);
  }

  /** The number that a query's only row is. */
  long number(String sql, Object... values) throws StatementException {
    return one(row -> row.getLong(1), sql, values);
  }

  /** Carries a statement out; gives how many rows it changed. */
  int execute(String sql, Object... values) throws StatementException {
    try {
      return RUNNER.update(connection, sql, values);
    } catch (SQLException refused) {
      throw new StatementException(refused);
    }
  }

  /** Does all of it or, when it fails, nothing. */
  <T> T inTransaction(Work<T> work) throws IOException {
    try {
      connection.setAutoCommit(false);
      T result = work.with(this);
      connection.commit();
      return result;
    } catch (SQLException refused) {
      rollBack(refused);
      throw new StatementException(refused);
    } catch (IOException | RuntimeException | Error failed) {
      rollBack(failed);
      throw failed;
    } finally {
      endTransaction();
    }
  }

  private void rollBack(Throwable failed) {
    try {
      connection.rollback();
    } catch (SQLException also) {
      failed.addSuppressed(also);
    }
  }

  private void endTransaction() {
    try {
      connection.setAutoCommit(true);
    } catch (SQLException gone) {
      // what was done is done; whoever uses the connection next is told that it is gone
    }
  }

  @Override
  public void close() throws SQLException {
    connection.close();
  }
}
