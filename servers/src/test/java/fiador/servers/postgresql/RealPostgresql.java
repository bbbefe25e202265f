package fiador.servers.postgresql;

import fiador.servers.jdbc.Login;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;
import java.util.Properties;
import java.util.jar.JarFile;
import org.postgresql.Driver;
import org.postgresql.PGProperty;

/** Real PostgreSQL servers, one per version, started when first asked for and stopped at exit. */
public final class RealPostgresql {
  private static final Map<Integer, EmbeddedPostgres> RUNNING = new HashMap<>();

  private RealPostgresql() {}

  /** The login of the superuser of a server of that major version. */
  public static synchronized Login login(int major) {
    EmbeddedPostgres server = RUNNING.computeIfAbsent(major, RealPostgresql::start);
    String url = "jdbc:postgresql://127.0.0.1:" + server.getPort() + "/postgres";
    return new Login(url, "postgres", "");
  }

  /** A connection as anybody opens it, with the path and settings that the server gives. */
  public static Connection connect(Login login, String database) throws SQLException {
    Properties settings = Driver.parseURL(login.url(), new Properties());
    settings.setProperty("user", login.user());
    settings.setProperty("password", login.password());
    if (database != null) {
      settings.setProperty(PGProperty.PG_DBNAME.getName(), database);
    }
    return new Driver().connect("jdbc:postgresql://", settings);
  }

  /** A server of its own that writes every statement into logs of both kinds in a folder. */
  public static EmbeddedPostgres withLogs(int major, Path folder) {
    return start(
        major,
        Map.of(
            "logging_collector", "on",
            "log_destination", major < 15 ? "csvlog" : "csvlog,jsonlog",
            "log_statement", "all",
            "log_filename", "log",
            "log_file_mode", "0644",
            "log_directory", folder.toAbsolutePath().toString()));
  }

  private static EmbeddedPostgres start(int major) {
    EmbeddedPostgres server = start(major, Map.of());
    Runtime.getRuntime().addShutdownHook(new Thread(() -> stop(server)));
    return server;
  }

  private static EmbeddedPostgres start(int major, Map<String, String> more) {
    Path jar =
        Path.of(System.getProperty("fiador.postgresql", "target/postgresql"), major + ".jar");
    try {
      EmbeddedPostgres.Builder builder =
          EmbeddedPostgres.builder()
              .setPgBinaryResolver(
                  (system, machine) -> {
                    JarFile binaries = new JarFile(jar.toFile());
                    return binaries.getInputStream(
                        binaries.stream()
                            .filter(entry -> entry.getName().endsWith(".txz"))
                            .findFirst()
                            .orElseThrow());
                  })
              .setServerConfig("fsync", "off")
              .setServerConfig("max_connections", "40");
      more.forEach(builder::setServerConfig);
      return builder.start();
    } catch (IOException broken) {
      throw new UncheckedIOException(broken);
    }
  }

  private static void stop(EmbeddedPostgres server) {
    try {
      server.close();
    } catch (IOException ignored) {
      // the machine is shutting the test down anyway
    }
  }
}
