package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.grants.Access;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.Transport;
import fiador.servers.jdbc.Transport.Tls;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import org.hsqldb.server.Server;
import org.hsqldb.server.ServerConstants;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A line that goes dead in the middle ends a statement, not the patience of who waits for it. */
class DeadLineTest {
  private final Server server = new Server();
  private ServerSocket between;
  private volatile boolean cut;

  @BeforeEach
  void aServerBehindALineThatCanBeCut() throws Exception {
    server.setSilent(true);
    server.setLogWriter(null);
    server.setErrWriter(null);
    server.setAddress("127.0.0.1");
    server.setPort(0);
    try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      server.setPort(free.getLocalPort());
    }
    server.setDatabaseName(0, "x");
    server.setDatabasePath(0, "mem:behind_a_line");
    server.start();
    assertThat(server.getState()).isEqualTo(ServerConstants.SERVER_STATE_ONLINE);
    between = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
    background(
        () -> {
          while (true) {
            Socket client = between.accept();
            Socket there = new Socket(InetAddress.getLoopbackAddress(), server.getPort());
            background(() -> pass(client.getInputStream(), there.getOutputStream()));
            background(() -> pass(there.getInputStream(), client.getOutputStream()));
          }
        });
  }

  @AfterEach
  void close() throws IOException {
    between.close();
    server.shutdown();
  }

  private interface Work {
    void run() throws IOException;
  }

  private static void background(Work work) {
    Thread thread =
        new Thread(
            () -> {
              try {
                work.run();
              } catch (IOException over) {
                // the test is over
              }
            });
    thread.setDaemon(true);
    thread.start();
  }

  private void pass(InputStream from, OutputStream to) throws IOException {
    byte[] part = new byte[4096];
    for (int read = from.read(part); read >= 0; read = from.read(part)) {
      if (!cut) {
        to.write(part, 0, read);
        to.flush();
      }
    }
  }

  private Login login() {
    String url = "jdbc:hsqldb:hsql://127.0.0.1:" + between.getLocalPort() + "/x";
    return new Login(url, "SA", "", new Transport(Tls.OFF, "", 5, 30, 5), "SA");
  }

  @Test
  void anAnswerThatDoesNotComeIsGivenUp() throws Exception {
    Connection connection =
        PatientLine.of(DriverManager.getConnection(login().url(), "SA", ""), "x", 1);
    try (Statement statement = connection.createStatement()) {
      statement.execute("create table t (a int)");
      cut = true;
      assertThatThrownBy(() -> statement.execute("insert into t values (1)"))
          .isInstanceOf(SQLException.class)
          .hasMessageContaining("did not answer within 1 s");
      assertThatThrownBy(() -> statement.execute("insert into t values (1)"))
          .isInstanceOf(SQLException.class);
      // what is closed then does not wait again
      connection.close();
    }
  }

  @Test
  void aLineThatLivesIsUsedAsAnyOther() throws Exception {
    try (Connection connection = Servers.named("hsqldb").orElseThrow().connect(login(), null);
        Statement statement = connection.createStatement()) {
      statement.execute("create schema s authorization dba");
      assertThatThrownBy(() -> statement.execute("no such thing"))
          .isInstanceOf(SQLException.class)
          .hasMessageContaining("unexpected token");
    }
    Access access =
        Servers.named("hsqldb")
            .orElseThrow()
            .survey(login(), "x", List.of(), Instant.EPOCH, note -> {});
    assertThat(access.tree().child(0, "S", node -> true)).isPositive();
  }
}
