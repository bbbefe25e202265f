package fiador.servers.mariadb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** A login that does not see all says so, and one with just the documented rights sees all. */
final class MariadbReaderTest {
  private static final MariadbServer SERVER = new MariadbServer();

  /** Other tests leave accounts, and rights of everybody, on the server they share. */
  @BeforeAll
  static void alone() throws Exception {
    RandomMariadb.clear(RealMariadb.login());
  }

  @Test
  void aSurveyKnowsWhereTheServerIsAndDoesNotWaitForASettle() throws Exception {
    Login root = RealMariadb.login();
    try (Connection settling = SERVER.connect(root, null)) {
      assertThat(SettleLock.take(settling)).isNull();
      Access access = SERVER.survey(root, "s", List.of(), Instant.EPOCH, note -> {});
      Abroad abroad = access.seen().abroad();
      assertThat(abroad.addresses())
          .containsExactly(root.url().replaceFirst(".*//", "").replace("/", ""));
      assertThat(abroad.tables()).isEmpty();
    }
  }

  @Test
  void whoIsNotShownEverythingSaysSo() throws Exception {
    Login root = RealMariadb.login();
    try (Connection admin = SERVER.connect(root, null);
        Statement make = admin.createStatement()) {
      for (String sql :
          List.of(
              "CREATE DATABASE hidden",
              "CREATE TABLE hidden.t (id integer)",
              "CREATE USER bob@'%' IDENTIFIED BY 'b'",
              "GRANT SELECT ON hidden.t TO bob@'%'",
              "CREATE USER reader@'%' IDENTIFIED BY 'r'",
              "GRANT SELECT ON mysql.* TO reader@'%'")) {
        make.execute(sql);
      }
      Login reader = root.as("reader", "r");
      List<String> notes = new ArrayList<>();
      Access partly = SERVER.survey(reader, "s", List.of(), Instant.EPOCH, notes::add);
      assertThat(partly.tree().is(0, NodeFact.UNREAD)).isTrue();
      assertThat(notes)
          .anyMatch(note -> note.contains("not complete") && note.contains("hidden.t"));
      make.execute("GRANT SELECT, SHOW VIEW ON *.* TO reader@'%'");
      notes.clear();
      Access all = SERVER.survey(reader, "s", List.of(), Instant.EPOCH, notes::add);
      assertThat(all.tree().is(0, NodeFact.UNREAD)).isFalse();
      assertThat(notes).noneMatch(note -> note.contains("not complete"));
      Access byRoot = SERVER.survey(root, "s", List.of(), Instant.EPOCH, note -> {});
      assertThat(all.grants().size()).isEqualTo(byRoot.grants().size());
      assertThat(all.tree().size()).isEqualTo(byRoot.tree().size());
      make.execute("DROP DATABASE hidden");
      make.execute("DROP USER bob@'%', reader@'%'");
    }
  }
}
