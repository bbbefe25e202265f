package fiador.standin.driver;

import com.fasterxml.jackson.databind.JsonNode;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.util.Map;
import org.h2.tools.SimpleResultSet;
import org.jspecify.annotations.Nullable;

/** Connections and statements, as far as they are there. */
final class Sessions {
  private static final Map<String, Integer> TYPES =
      Map.of(
          "integer", Types.INTEGER,
          "bigint", Types.BIGINT,
          "boolean", Types.BOOLEAN,
          "numeric", Types.NUMERIC,
          "decfloat", Types.NUMERIC,
          "double precision", Types.DOUBLE);

  private final Remote remote;
  private boolean closed;
  private boolean each = true;
  private boolean changed;

  private Sessions(Remote remote) {
    this.remote = remote;
  }

  static Connection connection(Remote remote) {
    Sessions session = new Sessions(remote);
    Calls calls = new Calls("a connection to a stand-in");
    Connection connection = calls.as(Connection.class);
    DatabaseMetaData about =
        new Calls("what a stand-in says of itself")
            .always("stand-in", "getDatabaseProductName")
            .always("1 (" + remote.house() + ")", "getDatabaseProductVersion")
            .always(1, "getDatabaseMajorVersion", "getDriverMajorVersion")
            .always(0, "getDatabaseMinorVersion", "getDriverMinorVersion")
            .always("\"", "getIdentifierQuoteString")
            .always(false, "supportsTransactions")
            .always(connection, "getConnection")
            .as(DatabaseMetaData.class);
    calls
        .with("createStatement", arguments -> session.statement(connection))
        .always(about, "getMetaData")
        .always(null, "commit", "setReadOnly", "clearWarnings", "getWarnings")
        .always(null, "getCatalog", "getSchema", "setNetworkTimeout")
        .always(false, "isReadOnly")
        .always(Connection.TRANSACTION_NONE, "getTransactionIsolation")
        .always(0, "getNetworkTimeout")
        .with("rollback", arguments -> session.back())
        .with("setAutoCommit", arguments -> session.each((Boolean) arguments[0]))
        .with("getAutoCommit", arguments -> session.each)
        .with("isClosed", arguments -> session.closed)
        .with("isValid", arguments -> !session.closed)
        .with("abort", arguments -> session.close())
        .with("close", arguments -> session.close());
    return connection;
  }

  private @Nullable Object each(boolean alone) {
    each = alone;
    changed = false;
    return null;
  }

  /** Nothing is taken back: who asks for it where there is something must hear so. */
  private @Nullable Object back() throws SQLException {
    if (changed) {
      throw new SQLException("each statement on a stand-in takes effect by itself", "0A000");
    }
    return null;
  }

  private @Nullable Object close() throws SQLException {
    if (!closed) {
      closed = true;
      remote.close();
    }
    return null;
  }

  /** What the last statement of one object gave. */
  private static final class Last {
    private @Nullable ResultSet rows;
    private long changed = -1;
    private int seconds;
    private boolean closed;
  }

  private Statement statement(Connection connection) throws SQLException {
    if (closed) {
      throw new SQLException("the connection is closed", "08003");
    }
    Last last = new Last();
    return new Calls("a statement on a stand-in")
        .with("execute", arguments -> run(last, arguments) != null)
        .with("executeQuery", arguments -> rows(last, arguments))
        .with("executeUpdate", arguments -> (int) changed(last, arguments))
        .with("executeLargeUpdate", arguments -> changed(last, arguments))
        .with("getResultSet", arguments -> last.rows)
        .with("getUpdateCount", arguments -> (int) last.changed)
        .with("getLargeUpdateCount", arguments -> last.changed)
        .with(
            "getMoreResults",
            arguments -> {
              last.rows = null;
              last.changed = -1;
              return false;
            })
        .with(
            "setQueryTimeout",
            arguments -> {
              last.seconds = (Integer) arguments[0];
              return null;
            })
        .with("getQueryTimeout", arguments -> last.seconds)
        .with("isClosed", arguments -> last.closed)
        .with(
            "close",
            arguments -> {
              last.closed = true;
              return null;
            })
        .always(null, "setFetchSize", "setMaxRows", "setLargeMaxRows", "setEscapeProcessing")
        .always(null, "getWarnings", "clearWarnings", "cancel", "setFetchDirection")
        .always(0, "getFetchSize", "getMaxRows")
        .always(connection, "getConnection")
        .as(Statement.class);
  }

  private @Nullable ResultSet run(Last last, Object[] arguments) throws SQLException {
    if (closed || last.closed) {
      throw new SQLException("this is closed", "08003");
    }
    JsonNode said = remote.run((String) arguments[0], last.seconds);
    if (!said.path("complete").asBoolean()) {
      throw new SQLException("the answer was cut off", "08006");
    }
    last.rows = said.has("columns") ? rows(said) : null;
    last.changed = said.path("changed").asLong(last.rows == null ? 0 : -1);
    changed |= last.rows == null && !each;
    return last.rows;
  }

  private ResultSet rows(Last last, Object[] arguments) throws SQLException {
    ResultSet rows = run(last, arguments);
    if (rows == null) {
      throw new SQLException("this gives no rows", "02000");
    }
    return rows;
  }

  private long changed(Last last, Object[] arguments) throws SQLException {
    run(last, arguments);
    return Math.max(0, last.changed);
  }

  private static ResultSet rows(JsonNode said) {
    SimpleResultSet rows = new SimpleResultSet();
    JsonNode columns = said.path("columns");
    int[] types = new int[columns.size()];
    for (int i = 0; i < types.length; i++) {
      types[i] = TYPES.getOrDefault(columns.get(i).path("type").asText(), Types.VARCHAR);
      rows.addColumn(columns.get(i).path("name").asText(), types[i], 0, 0);
    }
    for (JsonNode row : said.path("rows")) {
      @Nullable Object[] values = new Object[types.length];
      for (int i = 0; i < types.length; i++) {
        values[i] = value(row.get(i), types[i]);
      }
      rows.addRow(values);
    }
    return rows;
  }

  private static @Nullable Object value(JsonNode value, int type) {
    if (value.isNull()) {
      return null;
    }
    return switch (type) {
      case Types.INTEGER -> value.asInt();
      case Types.BIGINT -> value.asLong();
      case Types.BOOLEAN -> value.asBoolean();
      case Types.NUMERIC -> new BigDecimal(value.asText());
      case Types.DOUBLE -> Double.valueOf(value.asText());
      default -> value.asText();
    };
  }
}
