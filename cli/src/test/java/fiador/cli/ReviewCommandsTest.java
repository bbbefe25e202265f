package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.findings.Findings;
import fiador.findings.check.Asked;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.servers.Servers;
import fiador.servers.kind.Dialect;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Reviews of the demo's two surveys with planted trouble. */
class ReviewCommandsTest {
  private static final Path EXAMPLE = Path.of("../examples/aguarela");
  private static final Path WATERWORKS = EXAMPLE.resolve("trouble/waterworks.survey.jsonl.gz");
  private static final Path BRANCH = EXAMPLE.resolve("trouble/branch.survey.jsonl.gz");
  private static final Path REPRESA = Path.of("../examples/represa");
  private static final ObjectMapper JSON = new ObjectMapper();

  @TempDir Path folder;

  private static Program ask(String command, Path survey, String... args) {
    List<String> all = new ArrayList<>(List.of(command));
    all.addAll(List.of(args));
    all.addAll(List.of("--from", survey.toString()));
    return Program.run(all.toArray(String[]::new));
  }

  private static Program findings(Path survey, String... args) {
    return findings(EXAMPLE, survey, args);
  }

  private static Program findings(Path charter, Path survey, String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--charter", charter.toString()));
    all.addAll(List.of("--usage", EXAMPLE.resolve("usage.jsonl").toString()));
    all.addAll(List.of("--people", EXAMPLE.resolve("people.csv").toString()));
    all.addAll(List.of("--people-before", EXAMPLE.resolve("people-before.csv").toString()));
    return ask("findings", survey, all.toArray(String[]::new));
  }

  @Test
  void everyKindOfFindingIsPlantedInOneOfThem() throws Exception {
    Set<String> found = new TreeSet<>();
    Path charter = withATimeThatIsOverAndAPolicyThatIsMissing();
    for (Path survey : List.of(WATERWORKS, BRANCH)) {
      Program program = findings(charter, survey, "--format", "jsonl");
      assertThat(program.code).isEqualTo(1);
      for (String line : program.out.lines().toList()) {
        found.add(JSON.readTree(line).get("finding").asText());
      }
    }
    String represa = REPRESA.resolve("uses.csv").toString();
    found.addAll(kinds("--from", denials().toString(), "--usage", represa));
    found.addAll(kinds("--from", elsewhere().toString()));
    found.addAll(kinds("--from", guarded().toString(), "--across", elsewhere().toString()));
    assertThat(found)
        .containsExactlyInAnyOrderElementsOf(Findings.catalogue().stream().map(Asked::id).toList());
  }

  private static Set<String> kinds(String... line) throws Exception {
    List<String> all = new ArrayList<>(List.of("findings", "--format", "jsonl"));
    all.addAll(List.of(line));
    Set<String> found = new TreeSet<>();
    for (String row : Program.run(all.toArray(String[]::new)).out.lines().toList()) {
      found.add(JSON.readTree(row).get("finding").asText());
    }
    return found;
  }

  /** A survey of a server with a foreign table, of which the demo's servers have none. */
  private Path elsewhere() throws Exception {
    Path survey = folder.resolve("elsewhere.survey.jsonl");
    SurveyWriter.write(
        TinyEstate.postgresql()
            .reached("elsewhere", "else.box:5432")
            .node(NodeKind.SCHEMA, "d.s")
            .node(NodeKind.TABLE, "d.s.bills", "a")
            .users("ines")
            .grant("ines", "usage", "d.s")
            .grant("ines", "select", "d.s.bills")
            .away("archive", Abroad.Carrier.POSTGRESQL, "archive.box", "5432")
            .mapping("PUBLIC", "archive", "reader", true)
            .foreign("d.s.bills", "archive", "store.bills", Map.of())
            .build(),
        survey);
    return survey;
  }

  /** The server that it leads to, with a policy on the table. */
  private Path guarded() throws Exception {
    Path survey = folder.resolve("archive.survey.jsonl");
    TinyEstate archive =
        TinyEstate.postgresql()
            .reached("archive", "archive.box:5432")
            .users("reader")
            .node(NodeKind.SCHEMA, "d.store")
            .grant("reader", "usage", "d.store")
            .node(NodeKind.TABLE, "d.store.bills", "a")
            .grant("reader", "select", "d.store.bills");
    archive.filter("d.store.bills", archive.rule("some", true, "PUBLIC", "a < 10", "a < 10"));
    SurveyWriter.write(archive.build(), survey);
    return survey;
  }

  /** A survey of what has denials, of which the demo's servers have none. */
  private Path denials() {
    Path survey = folder.resolve("represa.survey.jsonl");
    Program read =
        Program.run(
            "survey",
            "--house",
            "cascade",
            "--extracts",
            REPRESA.resolve("extracts").toString(),
            "--to",
            survey.toString());
    assertThat(read.code).as(read.err).isZero();
    return survey;
  }

  private Path withATimeThatIsOverAndAPolicyThatIsMissing() throws Exception {
    for (String file : List.of("fiador.yaml", "roles.yaml")) {
      Files.copy(EXAMPLE.resolve(file), folder.resolve(file));
    }
    String policies = Files.readString(EXAMPLE.resolve("policies.yaml"));
    String more = policies.replace("metering.meters]", "metering.meters, network.desks]");
    assertThat(more).isNotEqualTo(policies);
    Files.writeString(folder.resolve("policies.yaml"), more);
    String users = Files.readString(EXAMPLE.resolve("users.yaml"));
    String over = users.replace("roles: [leak_analyst]", "roles: [leak_analyst until 2026-06-30]");
    assertThat(over).isNotEqualTo(users);
    Files.writeString(folder.resolve("users.yaml"), over);
    return folder;
  }

  @Test
  void theWorstComesFirstAndEachIsNamed() {
    Program program = findings(WATERWORKS);
    assertThat(program.out.lines().findFirst().orElseThrow())
        .matches("\\d+ findings: \\d+ high, .*");
    assertThat(program.out)
        .contains("duty-conflict             tomas.reis")
        .containsPattern("accepted +1 by waivers: rows-bypassed");
    assertThat(program.out.indexOf("\n!!! high\n"))
        .isPositive()
        .isLessThan(program.out.indexOf("\n!! medium\n"));
  }

  @Test
  void aListOfUsersSaysSinceWhenTheirSecretsAreThere() {
    assertThat(ask("list", BRANCH, "users", "--format", "csv").out.lines())
        .anyMatch(line -> line.contains(",secret,secret_since,"))
        .anyMatch(line -> line.contains(",sound,2024-02-12T09:30Z,"));
  }

  @Test
  void oneKindComesWithTheStatementsThatMendIt() {
    Program program = findings(WATERWORKS, "open-to-everybody");
    assertThat(program.code).isEqualTo(1);
    assertThat(program.out)
        .contains("What can everybody do who has an account at all?")
        .contains("REVOKE SELECT ON TABLE \"network\".\"incidents\" FROM PUBLIC;");
  }

  /** No repair of any finding stops any server's writer of statements. */
  @Test
  void everyRepairHasAStatementOnEachServerOrIsKnownToHaveNone() throws Exception {
    int written = 0;
    for (Path survey : List.of(WATERWORKS, BRANCH)) {
      Access access = SurveyReader.read(survey);
      List<Finding> all =
          Findings.of(access, Clock.systemUTC(), Expected.NOTHING, null, null).open();
      for (String kind : List.of("postgresql", "mariadb", "hsqldb")) {
        Dialect dialect = Servers.named(kind).orElseThrow().dialect();
        for (Finding found : all) {
          for (Step step : found.repair()) {
            boolean foreign = !kind.equals(access.about().kind());
            assertThat(dialect.has(step) || foreign || step instanceof ChangeOwner)
                .as("%s: %s", kind, step)
                .isTrue();
            written += dialect.has(step) ? 1 : 0;
          }
        }
      }
    }
    assertThat(written).isGreaterThan(50);
  }

  @Test
  void aKindThatIsNotThereIsSaid() {
    Program program = findings(WATERWORKS, "direct-grnat");
    assertThat(program.code).isEqualTo(2);
    assertThat(program.err).contains("direct-grant");
  }

  @Test
  void failOnSaysFromWhereOnItIsBad() throws Exception {
    Path charter = folder.resolve("fiador.yaml");
    Files.writeString(
        charter,
        """
        fiador: 1
        findings: {off: [broad-power, climbs-to-administrator, weak-secret, past-date, rows-bypassed,
          mask-bypassed, policy-changed, open-to-everybody, seal-passed]}
        """);
    String[] high = {"--charter", folder.toString(), "--fail-on", "high"};
    assertThat(ask("findings", WATERWORKS, high).code).isZero();
    String[] low = {"--charter", folder.toString(), "--fail-on", "low"};
    assertThat(ask("findings", WATERWORKS, low).code).isEqualTo(1);
  }

  @Test
  void sarifHasWhatTheStandardAsksFor() throws Exception {
    Path file = folder.resolve("findings.sarif");
    findings(WATERWORKS, "--sarif", file.toString());
    JsonNode log = JSON.readTree(file.toFile());
    assertThat(log.get("version").asText()).isEqualTo("2.1.0");
    JsonNode run = log.get("runs").get(0);
    JsonNode driver = run.get("tool").get("driver");
    assertThat(driver.get("name").asText()).isEqualTo("fiador");
    assertThat(driver.get("rules")).hasSize(Findings.catalogue().size());
    assertThat(run.get("results")).isNotEmpty();
    for (JsonNode result : run.get("results")) {
      String rule = result.get("ruleId").asText();
      JsonNode named = driver.get("rules").get(result.get("ruleIndex").asInt());
      assertThat(named.get("id").asText()).isEqualTo(rule);
      assertThat(result.get("message").get("text").asText()).isNotBlank();
      assertThat(result.get("level").asText()).isIn("error", "warning", "note");
      for (JsonNode place : result.get("locations")) {
        assertThat(place.get("logicalLocations").get(0).get("fullyQualifiedName").asText())
            .isNotEmpty();
      }
      for (JsonNode suppression : result.path("suppressions")) {
        assertThat(suppression.get("kind").asText()).isEqualTo("external");
      }
    }
  }

  @Test
  void theCatalogueInTheDocsIsTheProgramsOwn() throws Exception {
    Program program = Program.run("findings", "--list", "--format", "markdown");
    assertThat(Files.readString(Path.of("../docs/findings.md"))).contains(program.out);
  }

  @Test
  void waiversAreReadAndTheirMistakesTold() throws Exception {
    Path charter = folder.resolve("fiador.yaml");
    Files.writeString(
        charter,
        """
        fiador: 1
        waivers:
          - {finding: direct-grant, on: user bruno.aires, because: moving, until: 2099-01-01}
          - {finding: direct-gramt, on: user x, because: y, until: soon}
          - {finding: direct-grant}
        """);
    Program check = Program.run("check", folder.toString());
    assertThat(check.code).isEqualTo(2);
    assertThat(check.err)
        .contains(
            "fiador.yaml:4:15: there is no finding \"direct-gramt\"; did you mean direct-grant?")
        .contains("expected a date")
        .contains("the waiver has no \"because\"");
  }

  @Test
  void severNamesTheStatementsAndWhomTheyHurt() throws Exception {
    Path script = folder.resolve("take.sql");
    Program program =
        ask(
            "sever",
            WATERWORKS,
            "night_watch",
            "select",
            "network.pipes",
            "--script",
            script.toString());
    assertThat(program.code).isZero();
    assertThat(program.out)
        .contains("take SELECT on network.pipes from night_watch")
        .contains("effect");
    assertThat(Files.readString(script)).contains("REVOKE").endsWith(";\n");
    Program no = ask("sever", WATERWORKS, "postgres", "select", "network.pipes");
    assertThat(no.code).isEqualTo(1);
    assertThat(no.out).contains("postgres has the power superuser");
  }

  @Test
  void climbShowsEachStep() throws Exception {
    Program program = ask("climb", WATERWORKS, "night_watch");
    assertThat(program.code).isEqualTo(1);
    assertThat(program.out)
        .startsWith("yes: night_watch can make itself administrator")
        .contains("gives itself maintenance, which it may give");
    Program none = ask("climb", WATERWORKS, "ines.duarte");
    assertThat(none.code).isZero();
    Program rows = ask("climb", BRANCH, "helpdesk", "--format", "json");
    assertThat(JSON.readTree(rows.out).get(0).get("gains").asText()).isEqualTo("administrator");
  }

  @Test
  void trimKeepsWhatTheLogShowsInUse() throws Exception {
    Path script = folder.resolve("trim.sql");
    String usage = EXAMPLE.resolve("usage.jsonl").toString();
    Program program =
        ask(
            "trim",
            WATERWORKS,
            "--usage",
            usage,
            "--charter",
            EXAMPLE.toString(),
            "--script",
            script.toString());
    assertThat(program.code).isEqualTo(1);
    assertThat(program.out)
        .contains("nobody loses what they used")
        .contains("102 statements from 2026-08-10");
    assertThat(Files.readString(script)).contains("REVOKE \"metering_write\" FROM \"meter_robot\"");
  }

  @Test
  void trimWritesAPatchOfTheCharterThatGitTakes() throws Exception {
    for (String name : List.of("fiador.yaml", "roles.yaml", "users.yaml", "policies.yaml")) {
      Files.copy(EXAMPLE.resolve(name), folder.resolve(name));
    }
    Path patch = folder.resolve("trim.patch");
    ask(
        "trim",
        WATERWORKS,
        "--usage",
        EXAMPLE.resolve("usage.jsonl").toString(),
        "--charter",
        folder.toString(),
        "--patch",
        patch.toString());
    assertThat(Files.readString(patch))
        .contains(
            "--- a/users.yaml",
            "-  vera.lobo:     {kind: person, roles: [meter_planner]}",
            "+  vera.lobo:     {kind: person, roles: [metering_write]}");
    Process git =
        new ProcessBuilder("git", "apply", "--check", "trim.patch")
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .start();
    String said = new String(git.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(git.waitFor()).as(said).isZero();
    new ProcessBuilder("git", "apply", "trim.patch").directory(folder.toFile()).start().waitFor();
    assertThat(Files.readString(folder.resolve("users.yaml"))).contains("roles: [metering_write]");
    Program check = Program.run("check", folder.toString());
    assertThat(check.code).as(check.err).isZero();
  }

  @Test
  void aLogThatIsNoneIsRefused() throws Exception {
    Path log = folder.resolve("x.log");
    Files.writeString(log, "hello\n");
    Program program = ask("trim", WATERWORKS, "--usage", log.toString());
    assertThat(program.code).isEqualTo(2);
    assertThat(program.err).contains("is no log that is known");
  }

  @Test
  void thePlantedSurveysAreReadable() throws Exception {
    Access access = SurveyReader.read(WATERWORKS);
    assertThat(access.about().kind()).isEqualTo("postgresql");
  }
}
