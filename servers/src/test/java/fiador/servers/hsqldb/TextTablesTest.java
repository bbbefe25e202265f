package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.across.Atlas;
import fiador.across.Crossing;
import fiador.across.Leg.Why;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.servers.jdbc.Login;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TextTablesTest {
  @TempDir Path folder;

  @Test
  void aTextTableIsShownAsTheFileItIs() throws Exception {
    Login login = new Login("jdbc:hsqldb:file:" + folder.resolve("db"), "SA", "");
    try (Connection admin = DriverManager.getConnection(login.url(), "SA", "");
        Statement run = admin.createStatement()) {
      run.execute("create schema s");
      run.execute("create text table s.meters (a int)");
      run.execute("set table s.meters source 'meters.csv;fs=|'");
      run.execute("create table s.own (a int)");
      run.execute("create user INES password 'i'");
      run.execute("grant select on s.meters to INES");
      Access access =
          Forms.of(new HsqldbServer().survey(login, "s", List.of(), Instant.now(), note -> {}));
      run.execute("shutdown");
      Abroad abroad = access.seen().abroad();
      assertThat(abroad.tables()).hasSize(1);
      int node = abroad.tables().keySet().iterator().next();
      assertThat(access.tree().path(node)).isEqualTo("S.METERS");
      assertThat(abroad.table(node).name()).isEqualTo("meters.csv");
      Crossing crossing = new Crossing(access, new Atlas(List.of()), Clock.systemUTC());
      int ines = access.principals().named("INES");
      assertThat(crossing.read(ines, node, -1).legs().get(0).why()).isEqualTo(Why.FILE);
    }
  }
}
