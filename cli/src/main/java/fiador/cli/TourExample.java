package fiador.cli;

import fiador.cli.change.SurveyCommand;
import fiador.files.WholeFile;
import fiador.files.charter.Charter;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.ServerException;
import fiador.servers.kind.Server;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.stream.Stream;

/**
 * The made-up waterworks of the tour.
 *
 * @param folder where its charter is
 * @param url the server to build it on; null for an embedded one
 * @param login whom to log in as there
 * @param passwordEnv the variable that holds the secret; null for the usual one
 */
record TourExample(Path folder, String url, String login, String passwordEnv) {

  /** Writes its charter. */
  void write() throws Refusal, IOException {
    for (String name : new String[] {"fiador.yaml", "roles.yaml", "users.yaml", "tables.sql"}) {
      String text = text(name);
      String adapted = name.equals("fiador.yaml") && url != null ? onThatServer(text) : text;
      WholeFile.write(
          folder.resolve(name), file -> file.write(adapted.getBytes(StandardCharsets.UTF_8)));
    }
  }

  Charter.ServerEntry entry() throws Refusal, IOException {
    return Charters.server(Charters.read(folder), null);
  }

  static boolean isEmpty(Path folder) throws IOException {
    try (Stream<Path> inside = Files.list(folder)) {
      return inside.findAny().isEmpty();
    }
  }

  /** A file of the example. */
  static String text(String name) throws IOException {
    try (InputStream in = TourExample.class.getResourceAsStream("/aguarela/" + name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  /** The charter of the example with the embedded server replaced by the one asked for. */
  private String onThatServer(String charter) throws BadInput {
    String servers =
        """
        servers:
          waterworks:
            kind: %s
            url: %s
            login: %s
            password: ${%s:-}

        """
            .formatted(
                SurveyCommand.kindOf(url).kind(),
                quoted(url),
                quoted(login),
                passwordEnv == null ? "WATERWORKS_PASSWORD" : passwordEnv);
    return charter.replaceFirst(
        "(?s)servers:\\n.*?\\n\\n", java.util.regex.Matcher.quoteReplacement(servers));
  }

  private static String quoted(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  /** Makes its tables on its server. */
  void buildTables() throws Refusal, IOException {
    Charter.ServerEntry entry = entry();
    Server kind = Surveys.kind(entry);
    Login as = Surveys.login(entry);
    try (Connection connection = kind.connect(as, null);
        Statement statement = connection.createStatement()) {
      connection.setAutoCommit(!kind.dialect().transactional());
      for (String sql : text("tables.sql").replaceAll("(?m)^--.*$", "").split(";\\s*\\n", -1)) {
        if (!sql.isBlank()) {
          statement.execute(sql);
        }
      }
      if (kind.dialect().transactional()) {
        connection.commit();
      }
    } catch (SQLException refused) {
      throw new ServerException(
          "the tables could not be made on "
              + as.url()
              + ": "
              + refused.getMessage()
              + "; the tour wants a database without these schemas",
          refused);
    }
  }
}
