package fiador.bench;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.jar.JarFile;

/** A real PostgreSQL, from the binaries that the tests unpack. */
final class RealServer {
  private RealServer() {}

  /** Starts one; run from the project's root, after a build with tests. */
  static EmbeddedPostgres start() throws IOException {
    return start("18");
  }

  /** Starts one of another version that the tests unpack. */
  static EmbeddedPostgres start(String version) throws IOException {
    Path jar = Path.of("servers/target/postgresql/" + version + ".jar");
    return EmbeddedPostgres.builder()
        .setPgBinaryResolver(
            (system, machine) -> {
              JarFile binaries = new JarFile(jar.toFile());
              return binaries.getInputStream(
                  binaries.stream()
                      .filter(entry -> entry.getName().endsWith(".txz"))
                      .findFirst()
                      .orElseThrow());
            })
        .setServerConfig("shared_buffers", "1GB")
        .setServerConfig("fsync", "off")
        .start();
  }

  /** Lets it work on one thing at a time, so that times can be compared. */
  static void oneAtATime(Connection admin) throws SQLException {
    try (Statement statement = admin.createStatement()) {
      statement.execute("ALTER SYSTEM SET max_parallel_workers_per_gather = 0");
      statement.execute("ALTER SYSTEM SET jit = off");
      statement.execute("SELECT pg_reload_conf()");
    }
  }

  /** Its address, without the account, which Fiador takes from the login alone. */
  static String url(EmbeddedPostgres postgres) {
    return "jdbc:postgresql://localhost:" + postgres.getPort() + "/postgres";
  }
}
