package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A charter whose users are called otherwise on its two servers. */
class OnePersonTest {
  @TempDir Path folder;

  @BeforeEach
  void servers() throws Exception {
    for (String server : new String[] {"dam", "branch"}) {
      try (Connection connection = DriverManager.getConnection(url(server), "SA", "");
          Statement sql = connection.createStatement()) {
        sql.execute("create schema s");
        sql.execute("create table s.t (a int)");
      }
    }
    Files.writeString(
        folder.resolve("fiador.yaml"),
        """
        fiador: 1
        servers:
          dam: {kind: hsqldb, url: "%s", login: SA}
          branch: {kind: hsqldb, url: "%s", login: SA}
        governs: {schemas: [s], roles: ["*"], users: ["*"]}
        roles:
          clerk: {may: [select on table s.t]}
          approver: {may: [update on table s.t]}
        users:
          ines.duarte: {roles: [clerk], accounts: {dam: ines, branch: iduarte}}
          rui.teles: {roles: [clerk], accounts: {branch: rui}}
          eva.sousa: {roles: [clerk]}
        duty_conflicts:
          enter_and_approve: [role clerk, role approver]
        proofs:
          - ines.duarte can select s.t
          - ines.duarte cannot update s.t
        """
            .formatted(url("dam"), url("branch")));
    Program settled = run("settle", "--charter", at(), "--every-server");
    assertThat(settled.code).as(settled.out + settled.err).isZero();
  }

  private String url(String server) {
    return "jdbc:hsqldb:file:" + folder.resolve(server + "/db") + ";shutdown=true";
  }

  private String at() {
    return folder.toString();
  }

  private static Program run(String... args) {
    return Program.settle("A1b2-c3d4-e5f6", java.util.Arrays.copyOfRange(args, 1, args.length));
  }

  private void on(String server, String... statements) throws Exception {
    try (Connection connection = DriverManager.getConnection(url(server), "SA", "");
        Statement sql = connection.createStatement()) {
      for (String statement : statements) {
        sql.execute(statement);
      }
    }
    String file = folder.resolve(".fiador").resolve(server + ".survey.jsonl").toString();
    Program survey = Program.run("survey", server, "--charter", at(), "--to", file);
    assertThat(survey.code).as(survey.err).isZero();
  }

  private Path survey(String server) {
    return folder.resolve(".fiador").resolve(server + ".survey.jsonl");
  }

  @Test
  void eachServerGetsTheAccountsItIsToHave() throws Exception {
    String dam = Program.run("list", "users", "--from", survey("dam").toString()).out;
    assertThat(dam).contains("ines", "eva.sousa").doesNotContain("rui", "duarte");
    String branch = Program.run("list", "users", "--from", survey("branch").toString()).out;
    assertThat(branch).contains("iduarte", "rui", "eva.sousa").doesNotContain("ines");
    assertThat(Program.run("gap", "dam", "--charter", at()).code).isZero();
    assertThat(Program.run("gap", "branch", "--charter", at()).code).isZero();
    // an account that nobody has any more goes with --drop, like any that is not listed
    String yaml = Files.readString(folder.resolve("fiador.yaml"));
    Files.writeString(
        folder.resolve("fiador.yaml"),
        yaml.replace("{dam: ines, branch: iduarte}", "{branch: iduarte}"));
    assertThat(Program.run("gap", "dam", "--charter", at(), "--drop").out).contains("(gone) INES");
    assertThat(Program.run("gap", "branch", "--charter", at(), "--drop").code).isZero();
  }

  @Test
  void onePersonIsAskedAboutOnAllServers() {
    Program person = Program.run("holdings", "--person", "ines.duarte", "--from", at());
    assertThat(person.code).as(person.err).isZero();
    assertThat(person.out)
        .contains("ines.duarte has 2 accounts on 2 servers", "\nines holds", "\niduarte holds");
    Program other = Program.run("holdings", "--person", "rui.teles", "--from", at());
    assertThat(other.out).contains("1 account on 1 server", "no account on dam");
    Program everywhere = Program.run("holdings", "--person", "eva.sousa", "--from", at());
    assertThat(everywhere.out).contains("2 accounts on 2 servers");
  }

  @Test
  void halvesOfADutyOnTwoServersAreFoundWithoutAListOfPeople() throws Exception {
    on("branch", "grant approver to iduarte", "revoke clerk from iduarte restrict");
    Program findings =
        Program.run(
            "findings",
            "duty-conflict",
            "--from",
            survey("dam").toString(),
            "--charter",
            at(),
            "--across",
            survey("branch").toString());
    assertThat(findings.out).contains("ines", "approver on branch as IDUARTE");
    assertThat(findings.code).isEqualTo(1);
  }

  @Test
  void reviewsSayWhoseAnAccountIsAndDoNotAskThatPerson() {
    Program opened =
        Program.run(
            "review",
            "open",
            "spring",
            "--charter",
            at(),
            "--server",
            "branch",
            "--reviewer",
            "s=ines.duarte",
            "--else",
            "alda.monte");
    assertThat(opened.code).as(opened.err).isZero();
    String rows =
        Program.run("review", "status", "spring", "--charter", at(), "--format", "csv").out;
    assertThat(rows).contains("ines.duarte; also ines on dam");
    assertThat(rows.lines().filter(line -> line.contains(",iduarte,")))
        .isNotEmpty()
        .allMatch(line -> line.contains(",alda.monte,"));
    assertThat(rows.lines().filter(line -> line.contains(",rui,")))
        .isNotEmpty()
        .allMatch(line -> line.contains(",ines.duarte,"));
    Program.run(
        "review",
        "sheets",
        "spring",
        "--charter",
        at(),
        "--to",
        folder.resolve("sheets").toString());
    Program sheet =
        Program.run(
            "review",
            "decide",
            "spring",
            folder.resolve("sheets/spring-alda.monte.csv").toString(),
            "--charter",
            at());
    assertThat(sheet.code).as(sheet.err + sheet.out).isZero();
    Program one =
        Program.run(
            "review",
            "open",
            "ines",
            "--charter",
            at(),
            "--server",
            "branch",
            "--person",
            "ines.duarte",
            "--else",
            "alda.monte");
    assertThat(one.code).as(one.err).isZero();
    rows = Program.run("review", "status", "ines", "--charter", at(), "--format", "csv").out;
    assertThat(rows).contains("iduarte").doesNotContain("rui");
  }

  @Test
  void aSurveyOfAnotherServerThatCannotBeReadIsLeftOutAloud() throws Exception {
    Path branch = survey("branch");
    String text = Files.readString(branch);
    Files.writeString(branch, text.substring(0, text.length() / 2));
    Program person = Program.run("holdings", "--person", "ines.duarte", "--from", at());
    assertThat(person.code).isZero();
    assertThat(person.out).contains("1 account on 1 server");
    assertThat(person.err).contains("left out", "branch.survey.jsonl");
    Program named =
        Program.run(
            "holdings", "--person", "ines.duarte", "--from", at(), "--across", branch.toString());
    assertThat(named.code).isEqualTo(2);
  }

  @Test
  void aSecretIsSetForTheAccountThatThePersonHasThere() throws Exception {
    Program changed =
        Program.secret(
            null, "ines.duarte", "--expire-now", "--charter", at(), "--server", "branch");
    assertThat(changed.code).as(changed.err).isZero();
    assertThat(changed.out).contains("iduarte: ");
    Program nobody =
        Program.secret(null, "rui.teles", "--expire-now", "--charter", at(), "--server", "dam");
    assertThat(nobody.code).isEqualTo(2);
    assertThat(nobody.err).contains("rui.teles");
  }

  @Test
  void proofsAreAboutTheAccountThere() throws Exception {
    assertThat(prove("dam").code).isZero();
    on("dam", "grant update on s.t to ines");
    Program broken = prove("dam");
    assertThat(broken.code).isEqualTo(1);
    assertThat(broken.out).contains("ines.duarte cannot update s.t");
    // and so from a survey of one of several servers
    String survey = survey("dam").toString();
    assertThat(Program.run("prove", "--charter", at(), "--from", survey).code).isEqualTo(1);
  }

  private Program prove(String server) {
    return Program.run("prove", "--charter", at(), "--live", "--from", server);
  }
}
