package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.climb.Climb;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class HsqldbClimbTest {
  @Test
  void whoChangesAuthorizationTakesTheirPlaceWhoAreNoAdministrators() throws Exception {
    Login login = new Login("jdbc:hsqldb:mem:climbing", "SA", "");
    try (Connection admin = DriverManager.getConnection(login.url(), "SA", "");
        Statement run = admin.createStatement()) {
      run.execute("create schema s");
      run.execute("create table s.t (a int)");
      run.execute("create user CLIMBER password 'c'");
      run.execute("create user INES password 'i'");
      run.execute("create user BOSS password 'b'");
      run.execute("grant select on s.t to INES");
      run.execute("grant DBA to BOSS");
      run.execute("grant CHANGE_AUTHORIZATION to CLIMBER");
      Access access =
          Forms.of(new HsqldbServer().survey(login, "s", List.of(), Instant.now(), note -> {}));
      Climb.Result result = new Climb(access).of(access.principals().named("CLIMBER"));
      assertThat(result.administrator()).isNull();
      assertThat(result.ladders())
          .extracting(ladder -> access.principals().name(ladder.gained()))
          .containsExactly("INES");
      try (Connection theirs = DriverManager.getConnection(login.url(), "CLIMBER", "c");
          Statement does = theirs.createStatement()) {
        assertThatThrownBy(() -> does.execute("select * from s.t")).isNotNull();
        does.execute("set session authorization 'INES'");
        does.execute("select * from s.t");
      }
      try (Connection theirs = DriverManager.getConnection(login.url(), "CLIMBER", "c");
          Statement does = theirs.createStatement()) {
        assertThatThrownBy(() -> does.execute("set session authorization 'BOSS'"))
            .hasMessageContaining("authorization");
      }
      run.execute("shutdown");
    }
  }
}
