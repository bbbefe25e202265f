package fiador.cli.shell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import fiador.cli.Program;
import fiador.cli.RealEstate;
import java.io.File;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Scripts are run with the servers' own clients, as somebody would who is handed one. */
class ScriptsTest {
  @TempDir Path folder;

  private static final String CHARTER =
      """
      roles:
        e_read: {purpose: access, may: ["select on every table in s, now and later"]}
        e_write: {purpose: access, includes: [e_read], may: [update on table s.t]}
      users:
        e_ines: {kind: person, roles: [e_write], attributes: {area: [north, "o'k\\\\", "a;b"]}}
      governs: {schemas: [s], users: [e_*], roles: [e_*]}
      row_policies:
        own: {on: s.t, rows: "area in user.area or area = 'semi;colon'"}
      mask_policies:
        hidden: {on: s.u.phone, clear_for: [role e_read], mask: stars}
      """;

  private static final String[] TABLES = {
    "create table s.t (id int, area varchar(20))", "create table s.u (id int, phone varchar(20))"
  };

  private final List<String> said = new ArrayList<>();

  private int psql(RealEstate estate, String database, Path script) throws Exception {
    URI server = URI.create(estate.login.url().substring("jdbc:".length()));
    return run(
        script,
        List.of(
            "psql",
            "--no-psqlrc",
            "-h",
            server.getHost(),
            "-p",
            String.valueOf(server.getPort()),
            "-U",
            estate.login.user(),
            "-d",
            database,
            "-f",
            script.toString()));
  }

  private int mariadb(RealEstate estate, Path script) throws Exception {
    URI server = URI.create(estate.login.url().substring("jdbc:".length()));
    return run(
        script,
        List.of(
            "mariadb",
            "--no-defaults",
            "--protocol=tcp",
            "--host=127.0.0.1",
            "--port=" + server.getPort(),
            "--user=root"));
  }

  private int run(Path script, List<String> command) throws Exception {
    assumeTrue(isThere(command.get(0)), "the client " + command.get(0) + " is installed");
    Path log = folder.resolve("client.log");
    Process client =
        new ProcessBuilder(command)
            .redirectInput(script.toFile())
            .redirectErrorStream(true)
            .redirectOutput(log.toFile())
            .start();
    int code = client.waitFor();
    said.clear();
    said.addAll(Files.readAllLines(log));
    return code;
  }

  private static boolean isThere(String client) {
    return Stream.of(System.getenv("PATH").split(File.pathSeparator))
        .anyMatch(folder -> Files.isExecutable(Path.of(folder, client)));
  }

  private Path[] scripts(RealEstate estate) {
    Path there = folder.resolve("there.sql");
    Path back = folder.resolve("back.sql");
    Program gap =
        estate.fiador("gap", "--script", there.toString(), "--undo-script", back.toString());
    assertThat(gap.code).as(gap.err).isEqualTo(1);
    return new Path[] {there, back};
  }

  private void noGap(RealEstate estate) {
    estate.fiador("survey");
    Program gap = estate.fiador("gap");
    assertThat(gap.code).as(gap.out + gap.err).isZero();
  }

  private List<String> gap(RealEstate estate) {
    estate.fiador("survey");
    return estate.fiador("gap", "--statements", "--format", "csv").out.lines().toList();
  }

  @Test
  void onPostgresqlItGoesToItsDatabaseAndToNoOther() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s", TABLES[0], TABLES[1]);
    estate.charter(CHARTER);
    List<String> before = gap(estate);
    Path[] scripts = scripts(estate);
    assertThat(Files.readString(scripts[0])).doesNotContain("PASSWORD").contains("\\connect");
    // handed over to somebody who is somewhere else
    assertThat(psql(estate, "postgres", scripts[0])).as(said.toString()).isZero();
    noGap(estate);
    assertThat(estate.ask("select rolpassword from pg_authid where rolname = 'e_ines'"))
        .containsExactly((String) null);
    assertThat(psql(estate, "postgres", scripts[1])).as(said.toString()).isZero();
    assertThat(gap(estate)).isEqualTo(before);
  }

  @Test
  void onAnotherPostgresqlItChangesNothing() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s", TABLES[0], TABLES[1]);
    Path there = scripts(estate.charter(CHARTER))[0];
    String script = Files.readString(there);
    String identity = estate.ask("select system_identifier::text from pg_control_system()").get(0);
    assertThat(script).contains(identity);
    Files.writeString(there, script.replace(identity, "4711"));
    assertThat(psql(estate, "postgres", there)).isNotZero();
    assertThat(said.toString()).contains("made for another server or database");
    assertThat(estate.ask("select rolname::text from pg_roles where rolname = 'e_read'")).isEmpty();
  }

  @Test
  void whatAGiverWithoutHisGateGaveIsTakenInATransaction() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s", TABLES[0], TABLES[1]);
    estate.run("create role e_giver login", "grant select on s.t to e_giver with grant option");
    estate.run("create role e_taker", "grant usage on schema s to e_giver");
    estate.as("e_giver", "", "grant select on s.t to e_taker");
    estate.run("revoke usage on schema s from e_giver");
    estate.charter(
        "roles:\n  e_taker: {}\n  e_giver: {}\ngoverns: {schemas: [s], roles: [e_*], users: [e_*]}\n"
            .replace("{}", "{purpose: access}")
            .replace("  e_giver: {purpose: access}\n", "users:\n  e_giver: {kind: person}\n"));
    Path there = scripts(estate)[0];
    assertThat(psql(estate, "postgres", there)).as(said.toString()).isZero();
    noGap(estate);
  }

  @Test
  void severalDatabasesWithTheSameNamesInThem() throws Exception {
    RealEstate estate = RealEstate.postgresql(folder, "create schema s", TABLES[0], TABLES[1]);
    String odd = "e99 o'd\"d\\";
    estate.run("drop database if exists \"" + odd.replace("\"", "\"\"") + "\"");
    estate.run("create database \"" + odd.replace("\"", "\"\"") + "\"");
    Path twin = folder.resolve("twin.sql");
    Files.writeString(
        twin,
        "\\connect -reuse-previous=on \"dbname='e99 o\\'d\"\"d\\\\'\"\ncreate schema s;\n"
            + TABLES[0]
            + ";\n"
            + TABLES[1]
            + ";\n");
    assertThat(psql(estate, "postgres", twin)).as(said.toString()).isZero();
    String own = estate.ask("select current_database()::text").get(0);
    estate.charter(
        "roles:\n  e_read:\n    purpose: access\n    may:\n      - 'select on table "
            + own
            + ".s.t'\n      - 'update on table \"e99 o''d\"\"d\\\".s.t'\n"
            + "governs: {schemas: [s], roles: [e_*]}\n");
    Path[] scripts = scripts(estate);
    assertThat(psql(estate, "postgres", scripts[0])).as(said.toString()).isZero();
    noGap(estate);
    assertThat(psql(estate, own, scripts[1])).as(said.toString()).isZero();
    estate.run("drop database \"" + odd.replace("\"", "\"\"") + "\"");
  }

  @Test
  void onMariadb() throws Exception {
    RealEstate estate =
        RealEstate.mariadb(
            folder,
            "drop database if exists fiador_guard",
            "create or replace database s",
            "drop role if exists e_read",
            "drop role if exists e_write",
            "drop user if exists e_ines",
            TABLES[0],
            TABLES[1]);
    estate.charter(CHARTER);
    List<String> before = gap(estate);
    Path[] scripts = scripts(estate);
    assertThat(mariadb(estate, scripts[0])).as(said.toString()).isZero();
    noGap(estate);
    assertThat(
            estate.ask("select authentication_string from mysql.user where user = 'e_ines'").get(0))
        .isEqualTo("invalid");
    assertThat(mariadb(estate, scripts[1])).as(said.toString()).isZero();
    assertThat(gap(estate)).isEqualTo(before);
    String identity = estate.ask("select @@port").get(0);
    Files.writeString(
        scripts[0], Files.readString(scripts[0]).replace(":" + identity + ":", ":1:"));
    assertThat(mariadb(estate, scripts[0])).isNotZero();
    assertThat(said.toString()).contains("made for another server");
    assertThat(estate.ask("select user from mysql.user where user = 'e_read'")).isEmpty();
  }

  @Test
  void onHsqldbANewUserHasNoSecretThatAnybodyKnows() throws Exception {
    RealEstate estate =
        RealEstate.hsqldb(folder, "create schema s authorization dba", TABLES[0], TABLES[1]);
    Path there = scripts(estate.charter(CHARTER))[0];
    String statements = Files.readString(there).replaceAll("(?m)^(--.*)?\n", "");
    estate.run(statements.split(";\n"));
    noGap(estate);
    for (String guess : List.of("", "(secret)", "0".repeat(32))) {
      assertThat(
              org.assertj.core.api.Assertions.catchThrowable(() -> estate.connect("E_INES", guess)))
          .isNotNull();
    }
  }
}
