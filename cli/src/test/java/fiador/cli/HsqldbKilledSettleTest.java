package fiador.cli;

import fiador.servers.jdbc.Login;
import org.junit.jupiter.api.Test;

/** Killed again and again on HSQLDB. */
class HsqldbKilledSettleTest extends KilledSettle {
  @Test
  void nothingIsLostOrDoubled() throws Exception {
    String url =
        "jdbc:hsqldb:file:"
            + folder.resolve("data/db")
            + ";hsqldb.lock_file=false;hsqldb.write_delay=false;shutdown=true";
    kill(new Login(url, "SA", ""), "hsqldb", "create schema s", "create user u password 'x'");
  }
}
