package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import fiador.servers.jdbc.Login;
import fiador.servers.postgresql.RealPostgresql;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A charter that changes three times, and questions about what was. */
class HistoryCommandsTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  @TempDir Path folder;

  private String ledger = "";

  @BeforeEach
  void tables() throws Exception {
    try (Connection db = DriverManager.getConnection(url(), "SA", "");
        Statement sql = db.createStatement()) {
      sql.execute("create schema s");
      sql.execute("create table s.t (a int, b int)");
      sql.execute("create user ines password 'x'");
    }
  }

  private String url() {
    return "jdbc:hsqldb:file:" + folder.resolve("data/db") + ";shutdown=true";
  }

  private void charter(String may) throws Exception {
    Files.writeString(
        folder.resolve("fiador.yaml"),
        """
        fiador: 1
        %s
        servers: {box: {kind: hsqldb, url: "%s", login: SA}}
        governs: {schemas: [s], roles: [readers], users: [ines]}
        roles:
          readers: {purpose: access, may: [%s]}
        users:
          ines: {kind: person, roles: [readers]}
        """
            .formatted(ledger, url(), may));
  }

  private Program run(String... args) {
    List<String> all = new java.util.ArrayList<>(List.of(args));
    boolean question = List.of("holders", "holdings", "trace", "list").contains(args[0]);
    all.addAll(List.of(question ? "--from" : "--charter", folder.toString()));
    return Program.run(all.toArray(String[]::new));
  }

  private void threeChanges() throws Exception {
    charter("select on s.t");
    assertThat(run("settle").code).isZero();
    charter("select (a) on s.t");
    assertThat(run("settle").code).isZero();
    assertThat(run("settle", "--undo").code).isZero();
  }

  @Test
  void everySettleIsThereWithWhatItChangedAndWhoRanIt() throws Exception {
    threeChanges();
    Program history = run("history");
    assertThat(history.code).isZero();
    assertThat(history.out)
        .startsWith("box changed 3 times")
        .contains("+   role readers held by ines")
        .contains("-   select on table s.t to readers")
        .contains("+   select (a) on table s.t to readers")
        .contains("   undo by " + System.getProperty("user.name"));
    JsonNode first = JSON.readTree(run("history", "--format", "jsonl").out.lines().toList().get(0));
    assertThat(first.get("by").asText()).startsWith("settle by ");
    assertThat(first.get("change").asText()).isEqualTo("came");
  }

  @Test
  void grantsAreListedWithSinceWhen() throws Exception {
    threeChanges();
    String[] question = {"list", "grants", "--to", "readers", "--dated", "--format", "jsonl"};
    JsonNode grant = JSON.readTree(run(question).out);
    assertThat(grant.get("privilege").asText()).isEqualTo("select");
    assertThat(grant.get("since").asText()).matches("\\d{4}-.*Z");
    assertThat(grant.has("or_earlier")).isFalse();
    assertThat(run("list", "grants", "--to", "readers", "--dated").out)
        .containsPattern("\\d{4}-\\d\\d-\\d\\d \\d\\d:\\d\\d");
    assertThat(run("list", "members", "--dated").err).contains("--dated is for list grants");
  }

  @Test
  void whatAUserHeldIsToldChangeByChange() throws Exception {
    threeChanges();
    assertThat(run("history", "ines").out)
        .startsWith("what ines holds changed 3 times")
        .containsPattern("gained +select on table s.t +readers")
        .containsPattern("narrowed to +select on table s.t \\(a\\)")
        .containsPattern("widened to +select on table s.t");
    assertThat(run("history", "--on", "s.t").out)
        .startsWith("what people hold on s.t changed 3 times")
        .contains("gained   ines: select");
    List<String> rows = run("history", "ines", "--format", "jsonl").out.lines().toList();
    assertThat(rows).hasSize(3);
    assertThat(JSON.readTree(rows.get(1)).get("columns").toString()).isEqualTo("[\"A\"]");
  }

  @Test
  void aPrivilegeIsToldByThePeriodsInWhichItWasHeld() throws Exception {
    threeChanges();
    Program column = run("history", "ines", "select", "s.t.b");
    assertThat(column.code).isZero();
    assertThat(column.out).startsWith("ines, select on s.t.b: yes, live");
    assertThat(column.out.lines().filter(line -> line.startsWith("  20")).count()).isEqualTo(4);
    JsonNode rows =
        JSON.readTree(run("history", "ines", "select", "s.t.b", "--format", "json").out);
    assertThat(rows.findValuesAsText("state"))
        .containsExactly("not held", "live", "not held", "live");
    assertThat(rows.get(1).get("through").asText()).isEqualTo("readers");
    assertThat(run("history", "ines", "insert", "s.t").code).isEqualTo(1);
  }

  @Test
  void anyQuestionCanBeAskedOfADayThatIsPast() throws Exception {
    threeChanges();
    String moment =
        JSON.readTree(run("history", "ines", "--format", "json").out)
            .get(1)
            .get("first_after")
            .asText();
    Program then = run("trace", "ines", "select", "s.t.b", "--at", moment);
    assertThat(then.code).isEqualTo(1);
    assertThat(then.out).contains("(survey of box of ");
    assertThat(then.err).contains("found the same");
    String today = LocalDate.now(ZoneOffset.UTC).plusDays(1).toString();
    assertThat(run("trace", "ines", "select", "s.t.b", "--at", today).code).isZero();
    Program before = run("holders", "s.t", "--at", "2001-01-01");
    assertThat(before.code).isEqualTo(2);
    assertThat(before.err).contains("knows nothing of box at 2001-01-01; it begins at ");
    assertThat(run("holders", "s.t", "--at", "last week").err).contains("is no point in time");
  }

  @Test
  void aChangeMadeByHandIsNotSaidToBeFiadors() throws Exception {
    charter("select on s.t");
    run("settle");
    try (Connection db = DriverManager.getConnection(url(), "SA", "");
        Statement sql = db.createStatement()) {
      sql.execute("grant insert on s.t to ines");
    }
    assertThat(run("survey").err).contains("recorded in the ledger: not as it was before");
    assertThat(run("survey").err).contains("recorded in the ledger: as it was before");
    assertThat(run("history", "ines").out)
        .containsPattern("between \\S+ \\S+ and \\S+ \\S+ UTC   not by fiador")
        .containsPattern("gained +insert on table s.t +granted directly");
  }

  @Test
  void olderSurveyFilesCanBeTakenIn() throws Exception {
    charter("select on s.t");
    Path kept = folder.resolve("old.survey.jsonl");
    run("survey", "--to", kept.toString());
    run("settle");
    Path ledger = folder.resolve("other.db");
    Path now = folder.resolve(".fiador/box.survey.jsonl");
    Program taken =
        Program.run(
            "history",
            "--ledger",
            ledger.toString(),
            "--take-in",
            now.toString(),
            "--take-in",
            kept.toString());
    assertThat(taken.code).isZero();
    assertThat(taken.out).startsWith("box changed once").contains("2 surveys");
  }

  @Test
  void withoutALedgerIsSaidSo() throws Exception {
    charter("select on s.t");
    assertThat(run("history").err).contains("there is no ledger ").contains("write it");
    ledger = "ledger: none";
    charter("select on s.t");
    assertThat(run("settle").code).isZero();
    assertThat(run("history").err).contains("ledger: none");
    assertThat(folder.resolve(".fiador/ledger.db")).doesNotExist();
  }

  @Test
  void aTeamKeepsItsLedgerOnPostgresql() throws Exception {
    Login server = RealPostgresql.login(18);
    ledger = "ledger: {url: \"" + server.url() + "\", login: " + server.user() + "}";
    threeChanges();
    assertThat(folder.resolve(".fiador/ledger.db")).doesNotExist();
    assertThat(run("history").out).startsWith("box changed 3 times");
    assertThat(run("history", "ines", "select", "s.t.b").out).contains("yes, live");
    try (Connection admin = RealPostgresql.connect(server, null);
        Statement open = admin.createStatement()) {
      open.execute("GRANT CREATE ON SCHEMA public TO PUBLIC");
      assertThat(run("history").err).contains("everybody may create things in the schema public");
      open.execute("REVOKE CREATE ON SCHEMA public FROM PUBLIC");
    }
    assertThat(run("history").code).isLessThan(2);
  }
}
