package fiador.servers.mariadb;

import fiador.servers.jdbc.Login;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** A real MariaDB server, started when first asked for and stopped at exit. */
public final class RealMariadb {
  private static final int WAIT_SECONDS = 60;
  private static RealMariadb running;

  private final Path folder;
  private final Process process;
  private final int port;

  private RealMariadb(Path folder, Process process, int port) {
    this.folder = folder;
    this.process = process;
    this.port = port;
  }

  /** The login of an administrator; the server knows its clients by address only. */
  public static synchronized Login login() {
    if (running == null) {
      running = start("--skip-name-resolve");
      Runtime.getRuntime().addShutdownHook(new Thread(running::stop));
    }
    return new Login("jdbc:mariadb://127.0.0.1:" + running.port + "/", "root", "");
  }

  private static Path home() throws IOException {
    Path unpacked = Path.of(System.getProperty("fiador.mariadb", "target/mariadb"));
    try (Stream<Path> found = Files.walk(unpacked)) {
      return found
          .filter(path -> path.endsWith("bin/mariadbd"))
          .findFirst()
          .orElseThrow()
          .getParent()
          .getParent()
          .toAbsolutePath();
    }
  }

  private static RealMariadb start(String... more) {
    try {
      Path home = home();
      Path folder = Files.createTempDirectory("mariadb");
      home.resolve("bin/mariadbd").toFile().setExecutable(true);
      int port;
      try (ServerSocket free = new ServerSocket(0)) {
        port = free.getLocalPort();
      }
      bootstrap(home, folder);
      List<String> command = command(home, folder);
      command.addAll(List.of("--port=" + port, "--bind-address=127.0.0.1"));
      command.addAll(
          List.of("--socket=" + folder.resolve("s"), "--pid-file=" + folder.resolve("p")));
      command.addAll(List.of(more));
      Process process =
          new ProcessBuilder(command)
              .redirectErrorStream(true)
              .redirectOutput(folder.resolve("log").toFile())
              .start();
      RealMariadb server = new RealMariadb(folder, process, port);
      server.await();
      return server;
    } catch (IOException broken) {
      throw new UncheckedIOException(broken);
    }
  }

  private static List<String> command(Path home, Path folder) {
    return new ArrayList<>(
        List.of(
            home.resolve("bin/mariadbd").toString(),
            "--no-defaults",
            "--user=root",
            "--basedir=" + home,
            "--datadir=" + folder.resolve("data"),
            // a server that starts clears what others keep in a folder it shares with them
            "--tmpdir=" + folder.resolve("tmp"),
            "--lc-messages-dir=" + home.resolve("share"),
            "--innodb-buffer-pool-size=16M",
            "--innodb-flush-log-at-trx-commit=0",
            "--sql-mode=STRICT_TRANS_TABLES"));
  }

  private static void bootstrap(Path home, Path folder) throws IOException {
    Files.createDirectory(folder.resolve("data"));
    Files.createDirectory(folder.resolve("tmp"));
    Path script = folder.resolve("bootstrap.sql");
    StringBuilder sql = new StringBuilder("create database mysql;\nuse mysql;\n");
    for (String file :
        List.of(
            "mysql_system_tables.sql",
            "mysql_performance_tables.sql",
            "mysql_system_tables_data.sql")) {
      sql.append(Files.readString(home.resolve("share").resolve(file), StandardCharsets.UTF_8));
    }
    Files.writeString(script, sql);
    List<String> command = command(home, folder);
    command.add("--bootstrap");
    Process process =
        new ProcessBuilder(command)
            .redirectInput(script.toFile())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("bootstrap.log").toFile())
            .start();
    try {
      if (process.waitFor() != 0) {
        throw new IOException(Files.readString(folder.resolve("bootstrap.log")));
      }
    } catch (InterruptedException stopped) {
      throw new IOException(stopped);
    }
  }

  private void await() throws IOException {
    for (int i = 0; i < WAIT_SECONDS * 10; i++) {
      try {
        DriverManager.getConnection("jdbc:mariadb://127.0.0.1:" + port + "/?user=root").close();
        return;
      } catch (SQLException notYet) {
        if (!process.isAlive()) {
          break;
        }
        try {
          Thread.sleep(100);
        } catch (InterruptedException stopped) {
          throw new IOException(stopped);
        }
      }
    }
    throw new IOException(Files.readString(folder.resolve("log")));
  }

  private void stop() {
    process.destroyForcibly();
    try (Stream<Path> files = Files.walk(folder)) {
      process.waitFor();
      files.sorted(Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
    } catch (IOException | InterruptedException ignored) {
      // the machine is shutting the test down anyway
    }
  }
}
