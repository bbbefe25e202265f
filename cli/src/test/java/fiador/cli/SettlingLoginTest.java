package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A login that lacks something is told so at once; one with the documented rights lacks nothing.
 */
class SettlingLoginTest {
  @TempDir Path folder;

  private static final String CHARTER =
      """
      roles:
        e_old: {purpose: access}
        e_read: {purpose: access, may: ["select, insert on table s.t"]}
        e_write: {purpose: access, includes: [e_read], may: [update on table s.u]}
      users:
        e_ines: {kind: person, roles: [e_write], attributes: {area: [north]}}
        e_rui: {kind: person, disabled: true}
      governs: {schemas: [s], users: [e_*], roles: [e_*]}
      row_policies:
        own: {on: s.t, rows: area in user.area}
      mask_policies:
        hidden: {on: s.u.phone, clear_for: [role e_read], mask: stars}
      """;

  private static final String[] TABLES = {
    "create table s.t (id int, area varchar(20))", "create table s.u (id int, phone varchar(20))"
  };

  private RealEstate mariadb(String... rights) throws Exception {
    List<String> setup =
        new ArrayList<>(
            List.of(
                "drop database if exists fiador_guard",
                "create or replace database s",
                "create or replace user keeper",
                "create or replace role e_old",
                "drop role if exists e_read",
                "drop role if exists e_write",
                "drop user if exists e_ines",
                "drop user if exists e_rui"));
    setup.addAll(List.of(TABLES));
    setup.addAll(List.of(rights));
    return RealEstate.mariadb(folder, setup.toArray(String[]::new)).charter("keeper", CHARTER);
  }

  @Test
  void allThatIsMissingIsSaidBeforeAnythingIsDone() throws Exception {
    RealEstate estate = mariadb("grant select, show view on *.* to keeper");
    Program refused = estate.settle();
    assertThat(refused.code).as(refused.err).isEqualTo(3);
    assertThat(refused.err)
        .contains(
            "the login keeper may not do all of it, and nothing was changed",
            "CREATE USER on *.* (5 steps)",
            "with GRANT OPTION",
            "on fiador_guard.*");
    assertThat(estate.ask("select user from mysql.user where user = 'e_read'")).isEmpty();
    assertThat(folder.resolve(".fiador/it.journal.jsonl")).doesNotExist();
  }

  /** The statements of the manual about a login that settles. */
  private static List<String> documented(String server) throws Exception {
    List<String> statements = new ArrayList<>();
    boolean in = false;
    for (String line : Files.readAllLines(Path.of("../docs/servers.md"))) {
      if (line.startsWith("-- ")) {
        in = line.startsWith("-- " + server + " settles");
      } else if (line.startsWith("```")) {
        in = false;
      } else if (in && !line.isBlank()) {
        statements.add(line.replaceFirst(" +--.*", "").replaceFirst(";$", ""));
      }
    }
    assertThat(statements).isNotEmpty();
    return statements;
  }

  @Test
  void theDocumentedRightsSufficeOnMariadb() throws Exception {
    List<String> rights = new ArrayList<>();
    for (String statement : documented("MariaDB")) {
      rights.add(
          statement
              .replace("fiador_keeper@'10.1.2.3' REQUIRE SSL", "keeper")
              .replace("fiador_keeper@'10.1.2.3'", "keeper")
              .replace("CREATE USER", "CREATE OR REPLACE USER")
              .replace("CREATE OR REPLACE USER ON", "CREATE USER ON"));
    }
    RealEstate estate = mariadb(rights.toArray(String[]::new));
    estate.settled();
    estate.undone();
  }

  @Test
  void whoIsNoSuperuserIsToldOnPostgresql() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder, "create schema s", TABLES[0], TABLES[1], "create role e_clerk login");
    Program refused = estate.charter("e_clerk", CHARTER).settle();
    assertThat(refused.code).as(refused.err).isEqualTo(3);
    assertThat(refused.err).contains("CREATEROLE", "to own table");
  }
}
