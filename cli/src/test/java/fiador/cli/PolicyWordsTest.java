package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** All that a charter can say of rows, values and accounts, from the charter to the person. */
class PolicyWordsTest {
  private static final String CHARTER =
      """
      governs: {schemas: [s], roles: ["*"], users: [w_*]}
      roles:
        clerk: {may: [usage on schema s, "select, insert, update on every table in s", select on view s.listed]}
      users:
        w_ines: {roles: [clerk], attributes: {districts: [north, delta]}, limits: {connections: 4}}
        w_rui: {roles: [clerk], attributes: {districts: [hills]}}
      labels:
        by_district: [s]
      row_policies:
        own:
          on: every table labelled by_district
          rows: district in user.districts
          may_write: same rows
      mask_policies:
        phones:
          on: [s.listed.phone]
          clear_where: district = 'north' and session.address like '127.%'
          mask: keep_last(2)
      """;

  @TempDir Path folder;

  @Test
  void fromTheCharterToThePerson() throws Exception {
    RealEstate estate =
        RealEstate.postgresql(
            folder,
            "create schema s",
            "create table s.homes (id int primary key, district text, phone text)",
            "insert into s.homes values (1, 'north', '555-01'), (2, 'delta', '555-02'), (3, 'hills', '555-03')",
            "create view s.listed as select district, phone from s.homes",
            "create role w_ines login",
            "create role w_rui login");
    estate.charter(CHARTER);
    assertThat(estate.fiador("gap").out)
        .contains("filtered by the server: rows by own, writers too")
        .contains("masks by phones (keep_last(2) unless district = 'north' and")
        .contains("ALTER ROLE \"w_ines\" CONNECTION LIMIT 4;");
    estate.settled();
    assertThat(estate.asked("trace", "w_ines", "insert", "s.homes").out)
        .contains("writes   only rows with district in ('delta', 'north')");
    assertThat(estate.asked("trace", "w_ines", "insert", "s.homes", "--format", "json").out)
        .contains("\"rows_written\" : \"district in ('delta', 'north')\"");
    assertThat(estate.asked("trace", "w_ines", "select", "s.listed_safe").out)
        .contains("phone: keep_last(2) unless district = 'north' and session.address like '127.%'");
    assertThat(estate.asked("list", "policies").out)
        .contains("clear where   district = 'north' and session.address like '127.%'");
    assertThat(estate.asked("list", "users").out).contains("connections 4");
    // the view reads all rows as its owner; its own policies hide none of them
    assertThat(estate.asked("bypass").out)
        .contains("s.homes   hidden rows   view s.listed_safe > s.listed   w_ines, w_rui");
    Program preview = estate.fiador("preview", "w_ines", "s.listed", "--live");
    assertThat(preview.out)
        .contains("north     555-01", "delta     ****02")
        .contains("live: the server gives w_ines the same 3 rows, value by value");

    estate.as("w_ines", "", "insert into s.homes values (4, 'delta', '555-04')");
    assertThatThrownBy(
            () -> estate.as("w_ines", "", "insert into s.homes values (5, 'hills', '555-05')"))
        .hasMessageContaining("violates row-level security policy");
    estate.run("create table s.later (id int, district text)");
    estate.fiador("survey");
    assertThat(estate.asked("findings", "policy-missing").out)
        .contains("s.later lacks the row policy own");
    estate.settled();

    Path drafted = folder.resolve("drafted");
    Program adopted =
        Program.run(
            "adopt",
            drafted.toString(),
            "--from",
            folder.toString(),
            "--url",
            estate.login.url(),
            "--login",
            estate.login.user());
    assertThat(adopted.out).contains("2 policies", "compared with the survey: no gap");
    assertThat(Files.readString(drafted.resolve("policies.yaml")))
        .contains("may_write: same rows", "clear_where: district = 'north' and session.address");
    assertThat(Files.readString(drafted.resolve("users.yaml")))
        .contains("connections: \"4\"", "- delta");
  }
}
