package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Guard;
import fiador.changes.steps.On;
import fiador.changes.steps.SafeView;
import fiador.changes.steps.ShowSafely;
import fiador.estate.ColumnType;
import fiador.estate.NodeKind;
import fiador.policies.ColumnMask;
import fiador.policies.Mask;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLWarning;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/**
 * Tries to get at a hidden row or a clear value, and looks whether either comes up in results,
 * warnings or errors.
 */
public final class LeakAttempts {
  /** Stands in a row that the spy must not see. */
  public static final String HIDDEN = "hidden-row";

  /** Stands in a column that is masked for the spy. */
  public static final String CLEAR = "clear-value";

  private static final List<SafeColumn> COLUMNS =
      List.of(
          new SafeColumn("id", ColumnType.INTEGER),
          new SafeColumn("district", ColumnType.TEXT),
          new SafeColumn("phone", ColumnType.TEXT));

  private LeakAttempts() {}

  /** The table, its rows and its policies: rows of the north only, phones starred. */
  public static List<String> make(Server server, String database, boolean natively) {
    List<String> statements = new ArrayList<>();
    statements.add("CREATE TABLE vault.t (id integer, district varchar(40), phone varchar(40))");
    statements.add("INSERT INTO vault.t VALUES (1, 'north', '" + CLEAR + "')");
    statements.add("INSERT INTO vault.t VALUES (2, '" + HIDDEN + "', '" + CLEAR + "')");
    statements.add("CREATE TABLE vault.f (id integer, district varchar(40), phone varchar(40))");
    statements.add("INSERT INTO vault.f SELECT id, district, 'x' FROM vault.t");
    Dialect dialect = server.dialect();
    statements.addAll(dialect.statements(new Guard(database, true)));
    RowPolicy north =
        new RowPolicy(
            "north",
            true,
            Expression.TRUE,
            Expression.FALSE,
            new Compare(
                Comparison.EQUAL,
                new Column("district", 1, ColumnType.TEXT),
                Expression.text("north")));
    ColumnMask stars = new ColumnMask("phones", "phone", Expression.TRUE, new Mask.Stars());
    On table = new On(NodeKind.TABLE, database, List.of("vault", "t"));
    On view = new On(NodeKind.VIEW, database, List.of("vault", "t_safe"));
    String both = SightText.of(new TableSight(List.of(north), List.of(stars)));
    statements.addAll(
        dialect.statements(
            new ShowSafely(null, new SafeView(view, table, COLUMNS, both, false, null))));
    if (natively) {
      On filtered = new On(NodeKind.TABLE, database, List.of("vault", "f"));
      String rows = SightText.of(new TableSight(List.of(north), List.of()));
      statements.addAll(dialect.statements(new FilterRows(filtered, COLUMNS, "", rows)));
    }
    return statements;
  }

  /** Runs attempts in one session of the spy. */
  public static void run(Connection spy, List<String> attempts) throws SQLException {
    for (String attempt : attempts) {
      String came = outcome(spy, attempt);
      assertThat(came).as(attempt).doesNotContain(HIDDEN).doesNotContain(CLEAR);
    }
  }

  /** All that a statement gives back: rows, warnings, the error's message. */
  public static String outcome(Connection spy, String sql) throws SQLException {
    StringBuilder came = new StringBuilder();
    try (Statement statement = spy.createStatement()) {
      boolean rows = statement.execute(sql);
      if (rows) {
        ResultSet found = statement.getResultSet();
        while (found.next()) {
          for (int i = 1; i <= found.getMetaData().getColumnCount(); i++) {
            came.append(found.getString(i)).append('|');
          }
          came.append('\n');
        }
      }
      for (SQLWarning one = statement.getWarnings(); one != null; one = one.getNextWarning()) {
        came.append(one.getMessage()).append('\n');
      }
    } catch (SQLException refused) {
      came.append(refused.getMessage());
    }
    return came.toString();
  }
}
