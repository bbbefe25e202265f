package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.change.SettleCommand;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import fiador.servers.jdbc.Sql;
import fiador.servers.postgresql.RealPostgresql;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The tour on a real PostgreSQL, and what its server says afterwards. */
class PostgresqlTourTest {
  @TempDir static Path temp;
  private static final Login LOGIN = RealPostgresql.login(18);
  private static Path folder;
  private static Program tour;

  private static Connection connect() throws Exception {
    return Servers.named("postgresql").orElseThrow().connect(LOGIN, "waterworks");
  }

  @BeforeAll
  static void takeTheTour() throws Exception {
    // what others left there would be adopted too
    RealEstate.postgresql(temp);
    try (Connection home = Servers.named("postgresql").orElseThrow().connect(LOGIN, null);
        Statement statement = home.createStatement()) {
      statement.execute("CREATE DATABASE waterworks");
    }
    folder = temp.resolve("tour");
    String url = LOGIN.url().replace("/postgres", "/waterworks");
    tour = Program.run("tour", folder.toString(), "--url", url, "--login", LOGIN.user());
  }

  private static Program ask(String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--from", folder.toString()));
    return Program.run(all.toArray(String[]::new));
  }

  @Test
  void tellsTheStoryAndLeavesNothingMissing() {
    assertThat(tour.err).isEmpty();
    assertThat(tour.code).isZero();
    assertThat(tour.out)
        .contains("surveyed again: no gap", "yes, live", "no: ines.duarte may not SELECT");
    Program again = Program.run("settle", "--charter", folder.toString());
    assertThat(again.err)
        .contains("note: the seal laboratory cannot stop postgres (superuser)\n")
        .contains("everybody (connect, temporary on waterworks)");
    assertThat(again.out).contains("nothing to do");
  }

  @Test
  void anAdoptedCharterLeavesNoGap() {
    Program adopt = ask("adopt", temp.resolve("adopted").toString());
    assertThat(adopt.code).as(adopt.out + adopt.err).isZero();
    assertThat(adopt.out).contains("no gap");
  }

  @Test
  void theServerIsSentVerifiersOnly() throws Exception {
    try (Connection connection = connect()) {
      List<String> secrets = new ArrayList<>();
      Sql.rows(
          connection,
          "select rolpassword from pg_authid where rolname in ('ines.duarte', 'telemetry')",
          row -> secrets.add(row.getString(1)));
      assertThat(secrets).hasSize(2).allMatch(secret -> secret.startsWith("SCRAM-SHA-256$"));
    }
  }

  @Test
  void newTablesComeWithTheGrantsOfLater() throws Exception {
    try (Connection connection = connect();
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE TABLE billing.refunds (refund_id integer)");
      Sql.rows(
          connection,
          "select has_table_privilege('marta.vale', 'billing.refunds', 'insert'),"
              + " has_table_privilege('ines.duarte', 'billing.refunds', 'select')",
          row -> {
            assertThat(row.getBoolean(1)).isTrue();
            assertThat(row.getBoolean(2)).isFalse();
          });
      statement.execute("DROP TABLE billing.refunds");
    }
  }

  @Test
  void theSchemaGateIsShown() {
    Program yes = ask("trace", "rui.teles", "update", "network.valves");
    assertThat(yes.code).isZero();
    assertThat(yes.out)
        .containsPattern("usage on schema (waterworks\\.)?network: through network_read");
  }

  @Test
  void everybodysHoldingsFollowTheContract() {
    Program all = ask("holdings", "--everyone", "--format", "jsonl");
    assertThat(all.code).isZero();
    assertThat(all.out.lines())
        .contains(
            "{\"user\":\"telemetry\",\"privilege\":\"connect\",\"kind\":\"database\",\"object\":"
                + "\"waterworks\",\"state\":\"live\",\"grantable\":false}",
            "{\"user\":\"ines.duarte\",\"privilege\":\"select\",\"kind\":\"view\",\"object\":"
                + "\"waterworks.billing.customers\",\"columns\":[\"customer_id\",\"district\",\"tariff\"],"
                + "\"state\":\"live\",\"grantable\":false}")
        .noneMatch(line -> line.contains("pg_catalog"));
  }

  @Test
  void aSettleThatFailsHalfWayLeavesNothingBehind() throws Exception {
    Path users = folder.resolve("users.yaml");
    String before = Files.readString(users);
    try {
      // names that begin with pg_ are reserved, so the second one is refused
      Files.writeString(
          users, before + "  half.way: {roles: [contractor]}\n  pg_reserved: {roles: []}\n");
      SettleCommand settle = new SettleCommand();
      settle.folder = folder;
      settle.out = System.out;
      settle.err = new java.io.PrintStream(java.io.OutputStream.nullOutputStream());
      settle.quiet = true;
      settle.otherSecrets = user -> "x".toCharArray();
      assertThat(org.assertj.core.api.Assertions.catchThrowable(settle::run))
          .hasMessageContaining("pg_reserved")
          .hasMessageContaining("nothing of this database's part was changed");
    } finally {
      Files.writeString(users, before);
    }
    try (Connection connection = connect()) {
      List<Integer> found = new ArrayList<>();
      Sql.rows(
          connection,
          "select count(*) from pg_roles where rolname = 'half.way'",
          row -> found.add(row.getInt(1)));
      assertThat(found).containsExactly(0);
    }
  }

  @Test
  void aSurveyOfOneDatabaseLooksIntoThatOneOnly() throws Exception {
    Path file = temp.resolve("one.jsonl");
    Program survey =
        Program.run(
            "survey",
            "--url",
            LOGIN.url(),
            "--login",
            LOGIN.user(),
            "--to",
            file.toString(),
            "--database",
            "waterworks");
    assertThat(survey.code).isZero();
    assertThat(Files.readString(file)).contains("\"unread\"").contains("\"readings\"");
    Program wrong =
        Program.run(
            "survey",
            "--url",
            LOGIN.url(),
            "--login",
            LOGIN.user(),
            "--to",
            file.toString(),
            "--database",
            "waterwork");
    assertThat(wrong.code).isEqualTo(3);
    assertThat(wrong.err).contains("has no database waterwork").contains("waterworks");
  }
}
