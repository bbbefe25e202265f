package fiador.servers.sheet;

import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.grants.Sights.Doubt;
import fiador.grants.rules.HouseFact;
import fiador.houses.BadRowException;
import fiador.houses.FactSort;
import fiador.houses.FactSource;
import fiador.houses.HouseSheet;
import fiador.houses.SheetSurvey;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Dialect;
import fiador.servers.kind.Server;
import fiador.sqltext.lineage.SheetTexts;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** A server of a kind that a house sheet describes, asked over JDBC. */
public final class SheetServer implements Server {
  private static final int FETCH = 10_000;
  private static final Pattern ADDRESS = Pattern.compile("//([^/?;#@,\\s]+:\\d{1,5})(?:[/?;#]|$)");

  private final HouseSheet sheet;
  private final SheetDrivers drivers;

  /**
   * That kind.
   *
   * @param jars where its driver is, besides the class path
   */
  public SheetServer(HouseSheet sheet, List<Path> jars) {
    this.sheet = sheet;
    this.drivers = new SheetDrivers(sheet.kind(), sheet.reading().parameters(), jars);
  }

  @Override
  public String kind() {
    return sheet.kind();
  }

  @Override
  public String urlPrefix() {
    String url = sheet.reading().url();
    return url == null ? "jdbc:" : url;
  }

  @Override
  public Dialect dialect() {
    return new SheetDialect(sheet);
  }

  @Override
  public Connection connect(Login login, @Nullable String database) throws ServerException {
    if (sheet.reading().url() == null || login.url().isEmpty()) {
      throw new ServerException(
          "this server of kind "
              + kind()
              + " is known from extracts alone, and nothing is carried out there; fiador gap --script"
              + " FILE writes the statements for whoever can reach it",
          null);
    }
    if (!login.url().startsWith(urlPrefix())) {
      throw new ServerException(
          "an address of kind "
              + kind()
              + " begins with "
              + urlPrefix()
              + "; found "
              + login.where(),
          null);
    }
    return drivers.open(login);
  }

  @Override
  public String identityQuery() {
    String query = sheet.reading().identity();
    if (query == null) {
      throw new IllegalStateException("the sheet of " + kind() + " has no such query");
    }
    return query;
  }

  @Override
  public String identity(Connection connection) {
    return sheet.reading().identity() == null ? "" : Server.super.identity(connection);
  }

  /** No sheet keeps anything on a server. */
  @Override
  public Optional<Doubt> guardDoubt(Connection connection, Login login) {
    return Optional.empty();
  }

  @Override
  public List<String> hiddenCode(
      Connection connection, String schema, String name, boolean writing) {
    if (sheet.rules().has(HouseFact.RUNS_NOTHING_ELSE)) {
      return List.of();
    }
    return List.of("what else runs then on a server of kind " + kind() + " is not known");
  }

  @Override
  public Access survey(
      Login login, String name, List<String> databases, Instant now, Consumer<String> notes)
      throws ServerException {
    try (Connection connection = connect(login, null)) {
      connection.setReadOnly(true);
      connection.setAutoCommit(false);
      SheetSurvey survey = new SheetSurvey(sheet, name);
      for (FactSort sort : FactSort.values()) {
        for (FactSource source : sheet.reading().of(sort)) {
          if (source.query() != null) {
            read(connection, survey, source, login.transport().statementSeconds(), notes);
          }
        }
      }
      reachedAt(login, survey);
      survey.skipped().forEach(notes);
      survey.notKnown().forEach(notes);
      boolean asked = sheet.reading().version() != null;
      String version =
          asked
              ? one(connection, sheet.reading().version())
              : connection.getMetaData().getDatabaseProductVersion();
      String identity = one(connection, sheet.reading().identity());
      connection.rollback();
      return survey.build(new Origin(name, kind(), version, now, identity), new SheetTexts(sheet));
    } catch (SQLException broken) {
      throw new ServerException(
          "reading the catalog of "
              + login.where()
              + " failed: "
              + login.without(broken.getMessage()),
          broken);
    }
  }

  private static void reachedAt(Login login, SheetSurvey survey) {
    Matcher address = ADDRESS.matcher(login.url());
    if (address.find()) {
      survey.reachedAt(address.group(1));
    }
  }

  private static String one(Connection connection, @Nullable String query) throws SQLException {
    if (query == null) {
      return "";
    }
    try (Statement statement = connection.createStatement();
        ResultSet found = statement.executeQuery(query)) {
      String text = found.next() ? found.getString(1) : null;
      return text == null ? "" : text;
    }
  }

  private void read(
      Connection connection,
      SheetSurvey survey,
      FactSource source,
      int seconds,
      Consumer<String> notes)
      throws SQLException, ServerException {
    try {
      read(connection, survey, source, seconds);
    } catch (SQLException refused) {
      if (!source.optional()) {
        throw refused;
      }
      notes.accept(
          "the server could not tell the "
              + source.sort().word()
              + " ("
              + String.valueOf(refused.getMessage()).lines().findFirst().orElse("")
              + "); nothing is known of them");
    }
  }

  private void read(Connection connection, SheetSurvey survey, FactSource source, int seconds)
      throws SQLException, ServerException {
    String query = Objects.requireNonNull(source.query(), "only what is asked for is read here");
    List<String> header = new ArrayList<>();
    int number = 0;
    try (Statement statement = connection.createStatement()) {
      statement.setFetchSize(FETCH);
      statement.setQueryTimeout(seconds);
      try (ResultSet found = statement.executeQuery(query)) {
        ResultSetMetaData columns = found.getMetaData();
        for (int i = 1; i <= columns.getColumnCount(); i++) {
          header.add(columns.getColumnLabel(i));
        }
        SheetSurvey.Rows rows = survey.begin(source, header);
        String[] values = new String[header.size()];
        while (found.next()) {
          number++;
          for (int i = 0; i < values.length; i++) {
            values[i] = found.getString(i + 1);
          }
          rows.take(column -> values[column]);
        }
      }
    } catch (BadRowException bad) {
      String where = number == 0 ? "" : ", row " + number;
      String column = bad.column() < 0 ? "" : ", column " + header.get(bad.column());
      throw new ServerException(
          "the sheet of "
              + kind()
              + " does not fit this server: "
              + source.sort().word()
              + where
              + column
              + ": "
              + bad.getMessage()
              + "; the query was: "
              + query.strip(),
          bad);
    }
  }
}
