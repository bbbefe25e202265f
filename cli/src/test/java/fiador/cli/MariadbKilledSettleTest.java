package fiador.cli;

import static org.junit.jupiter.api.Assumptions.assumeTrue;

import fiador.servers.mariadb.RealMariadb;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Killed again and again on MariaDB. */
class MariadbKilledSettleTest extends KilledSettle {
  @BeforeAll
  static void onlyWhereThereIsAServer() {
    assumeTrue(System.getProperty("os.name").equals("Linux"));
    assumeTrue(System.getProperty("os.arch").equals("amd64"));
  }

  @Test
  void nothingIsLostOrDoubled() throws Exception {
    kill(
        RealMariadb.login(), "mariadb", "create or replace database s", "create or replace user u");
  }

  @Test
  void aFullDiskLosesNothing() throws Exception {
    fill(
        RealMariadb.login(), "mariadb", "create or replace database s", "create or replace user u");
  }
}
