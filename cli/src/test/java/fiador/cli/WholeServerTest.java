package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is given on a whole MariaDB server is given, narrowed and taken like anything else. */
class WholeServerTest {
  private static final String GOVERNED = "governs: {schemas: ['*'], roles: ['*'], users: [g_*]}\n";

  @TempDir Path folder;

  private static String given(RealEstate estate) throws Exception {
    return String.join(
        "\n",
        estate.ask(
            "select group_concat(privilege_type order by 1 separator ', ') from"
                + " information_schema.user_privileges where grantee like '%g\\\\_keeper%'"));
  }

  @Test
  void givenNarrowedTakenAndUndone() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "create database s",
            "create user g_keeper@'%' identified by 'x'",
            "grant all on *.* to g_keeper@'%'",
            "grant insert on s.* to g_keeper@'%'");
    estate.charter(
        GOVERNED + "users: {g_keeper: {hosts: ['%'], may: [\"select, process on server\"]}}\n");
    assertThat(estate.fiador("gap").out).contains("REVOKE").contains("ON *.*");
    estate.settled();
    assertThat(given(estate)).isEqualTo("PROCESS, SELECT");
    estate.undone();
    assertThat(given(estate)).contains("SUPER", "SHUTDOWN");
    estate.charter(GOVERNED + "users: {g_keeper: {hosts: ['%']}}\n");
    estate.settled();
    assertThat(given(estate)).isEqualTo("USAGE");
  }
}
