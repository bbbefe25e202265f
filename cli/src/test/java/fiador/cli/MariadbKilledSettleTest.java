package fiador.cli;

import static org.junit.jupiter.api.Assumptions.assumeTrue;

import fiador.servers.mariadb.RealMariadb;
import org.junit.jupiter.api.Test;

/** Killed again and again on MariaDB. */
class MariadbKilledSettleTest extends KilledSettle {
  @Test
  void nothingIsLostOrDoubled() throws Exception {
    assumeTrue(System.getProperty("os.name").equals("Linux"));
    assumeTrue(System.getProperty("os.arch").equals("amd64"));
    kill(
        RealMariadb.login(), "mariadb", "create or replace database s", "create or replace user u");
  }

  @Test
  void aFullDiskLosesNothing() throws Exception {
    assumeTrue(System.getProperty("os.name").equals("Linux"));
    assumeTrue(System.getProperty("os.arch").equals("amd64"));
    fill(
        RealMariadb.login(), "mariadb", "create or replace database s", "create or replace user u");
  }
}
