package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** All servers of a charter in one go, of which one cannot be reached and one lacks a schema. */
class EveryServerTest {
  @TempDir Path folder;

  @BeforeEach
  void servers() throws Exception {
    for (String server : new String[] {"dam", "branch", "bare"}) {
      try (Connection connection = DriverManager.getConnection(url(server), "SA", "");
          Statement sql = connection.createStatement()) {
        if (!server.equals("bare")) {
          sql.execute("create schema s");
          sql.execute("create table s.t (a int)");
        }
      }
    }
    Files.writeString(
        folder.resolve("fiador.yaml"),
        """
        fiador: 1
        servers:
          dam: {kind: hsqldb, url: "%s", login: SA}
          away: {kind: postgresql, url: "jdbc:postgresql://127.0.0.1:1/none", login: nobody}
          bare: {kind: hsqldb, url: "%s", login: SA}
          branch: {kind: hsqldb, url: "%s", login: SA}
        governs: {schemas: [s], roles: [readers]}
        roles:
          readers: {purpose: access, may: [select on table s.t]}
        """
            .formatted(url("dam"), url("bare"), url("branch")));
  }

  private String url(String server) {
    return "jdbc:hsqldb:file:" + folder.resolve(server + "/db") + ";shutdown=true";
  }

  private Program settle(String... more) {
    String[] line = {"settle", "--charter", folder.toString(), "--every-server"};
    String[] all = java.util.Arrays.copyOf(line, line.length + more.length);
    System.arraycopy(more, 0, all, line.length, more.length);
    return Program.run(all);
  }

  private boolean hasRole(String server) throws Exception {
    try (Connection connection = DriverManager.getConnection(url(server), "SA", "");
        Statement sql = connection.createStatement();
        ResultSet role =
            sql.executeQuery(
                "select 1 from information_schema.authorizations where authorization_name = 'READERS'")) {
      return role.next();
    }
  }

  @Test
  void oneThatFailsStopsOnlyItself() throws Exception {
    Program look = settle("--dry-run");
    assertThat(look.out).contains("nothing to do on 0 of 4 servers");
    assertThat(hasRole("dam")).isFalse();
    Program settled = settle();
    assertThat(settled.code).as(settled.out + settled.err).isEqualTo(3);
    assertThat(settled.err).contains("fiador settle: away:");
    assertThat(settled.out)
        .contains("settled dam", "settled branch", "as the charter says: 2 of 4 servers")
        .contains("could not be reached, or refused")
        .contains("not begun");
    assertThat(hasRole("dam")).isTrue();
    assertThat(hasRole("branch")).isTrue();
    assertThat(hasRole("bare")).isFalse();
    assertThat(settle("--undo").out).contains("undone on dam", "undone on branch");
    assertThat(hasRole("branch")).isFalse();
  }

  @Test
  void aServerIsNotNamedBesides() {
    Program both = Program.run("settle", "dam", "--charter", folder.toString(), "--every-server");
    assertThat(both.code).isEqualTo(2);
    assertThat(both.err).contains("--every-server goes with neither");
  }
}
