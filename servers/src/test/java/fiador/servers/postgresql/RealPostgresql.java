package fiador.servers.postgresql;

import fiador.servers.Login;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.jar.JarFile;

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

  private static EmbeddedPostgres start(int major) {
    Path jar =
        Path.of(System.getProperty("fiador.postgresql", "target/postgresql"), major + ".jar");
    try {
      EmbeddedPostgres server =
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
              .setServerConfig("max_connections", "40")
              .start();
      Runtime.getRuntime().addShutdownHook(new Thread(() -> stop(server)));
      return server;
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
