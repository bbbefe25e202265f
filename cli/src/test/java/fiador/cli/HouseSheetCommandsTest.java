package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Kinds of server that come in by a house sheet, as their administrator meets them. */
class HouseSheetCommandsTest {
  private static final Path EXAMPLE = Path.of("../examples/represa");

  private static final String GOVERNED =
      """
      ledger: none
      governs: {schemas: [S], roles: ['*'], users: ['*']}
      """;

  @TempDir Path folder;

  private Path sheet() throws IOException {
    Path file = folder.resolve("h2.house.yaml");
    try (InputStream in = Program.class.getResourceAsStream("/fiador/houses/h2.house.yaml")) {
      Files.write(file, in.readAllBytes());
    }
    return file;
  }

  private Path represa() throws IOException {
    try (Stream<Path> files = Files.walk(EXAMPLE)) {
      for (Path file : files.toList()) {
        Path to = folder.resolve(EXAMPLE.relativize(file).toString());
        if (Files.isDirectory(file)) {
          Files.createDirectories(to);
        } else if (!file.toString().contains(".fiador")) {
          Files.copy(file, to);
        }
      }
    }
    return folder;
  }

  @Test
  void aSheetIsChecked() throws IOException {
    Path file = sheet();
    Program right = Program.run("check", "--house", file.toString());
    assertThat(right.err).isEmpty();
    assertThat(right.out).startsWith("the house sheet h2 is right: H2, ").contains("not known of");
    Files.writeString(
        file,
        Files.readString(file).replace("all on", "al on").replace("GRANT {role}", "GRANT {x}"));
    Program wrong = Program.run("check", "--house", file.toString());
    assertThat(wrong.code).isEqualTo(2);
    assertThat(wrong.err)
        .contains("\"al on\"; did you mean all on?")
        .contains("{x} is nothing in this statement")
        .endsWith("2 mistakes in the sheet\n");
  }

  @Test
  void aWarehouseNobodyCanReachIsAnsweredFromItsExtracts() throws IOException {
    String here = represa().toString();
    Program survey = Program.run("survey", "--charter", here);
    assertThat(survey.err).contains("surveyed dw (house/cascade): 5 users, 4 roles");
    Program trace =
        Program.run("trace", "rui.antunes", "select", "laboratory.samples", "--from", here);
    assertThat(trace.out)
        .startsWith("no, denied: rui.antunes may not SELECT laboratory.samples")
        .contains("denied, which beats every grant: select on schema laboratory, to readers");
    Program part =
        Program.run("trace", "rui.antunes", "select", "billing.customers", "--from", here);
    assertThat(part.out)
        .startsWith("no, not all of it")
        .contains("select (tax_number) on table billing.customers, to")
        .contains("by the label personal")
        .doesNotContain("join ");
    Path script = folder.resolve("change.sql");
    Program.run("gap", "--charter", here, "--script", script.toString());
    assertThat(Files.readString(script))
        .contains("run it with the warehouse's own client")
        .contains("REVOKE ROLE \"billing\" FROM \"nuno.valadas\";");
    Program settle = Program.run("settle", "--charter", here);
    assertThat(settle.code).isGreaterThan(1);
    assertThat(settle.err).contains("is known from extracts alone").contains("gap --script");
  }

  @Test
  void extractsOfAServerInNoCharter() throws IOException {
    represa();
    Path to = folder.resolve("x.survey.jsonl");
    String extracts = folder.resolve("extracts").toString();
    Program survey =
        Program.run("survey", "--house", "cascade", "--extracts", extracts, "--to", to.toString());
    assertThat(survey.code).as(survey.err).isZero();
    assertThat(Program.run("holdings", "clara.sequeira", "--from", to.toString()).out)
        .contains("billing");
    Files.writeString(folder.resolve("extracts/role_members.csv"), "nothing\n");
    String file = to.toString();
    assertThat(Program.run("survey", "--house", "gone", "--extracts", extracts, "--to", file).err)
        .startsWith("fiador survey: there is no house sheet gone: ");
    assertThat(Program.run("survey", "--house", "cascade").err).contains("--house goes with");
    assertThat(Program.run("survey", "--url", "jdbc:x", "--extracts", extracts, "--to", file).err)
        .contains("one of them");
    Path other = folder.resolve("y.survey.jsonl");
    Program broken =
        Program.run(
            "survey", "--house", "cascade", "--extracts", extracts, "--to", other.toString());
    assertThat(broken.code).isEqualTo(2);
    assertThat(broken.err).contains("role_members.csv:1: there is no column may_pass_on");
    assertThat(other).doesNotExist();
  }

  @Test
  void aRealServerIsSettledAndUndoneByItsSheet() throws Exception {
    RealEstate estate =
        RealEstate.h2(
            folder,
            "create schema s",
            "create table s.t(a int)",
            "create role reader",
            "create user old password 'x'",
            "grant select, insert on s.t to old");
    estate.charter(
        GOVERNED
            + """
            roles: {reader: {may: [select on table s.t]}}
            users: {old: {roles: [reader]}, fresh: {roles: [reader]}}
            """);
    assertThat(estate.fiador("gap", "--statements").out)
        .contains("CREATE USER \"FRESH\" PASSWORD (secret);")
        .contains("GRANT \"READER\" TO \"OLD\";")
        .contains("REVOKE SELECT, INSERT ON \"S\".\"T\" FROM \"OLD\";");
    estate.settled();
    List<String> rights =
        estate.ask(
            "select grantee || ' ' || coalesce(rights, grantedrole) from"
                + " information_schema.rights order by 1");
    assertThat(rights).containsExactly("FRESH READER", "OLD READER", "READER SELECT");
    estate.undone();
    assertThat(estate.ask("select rights from information_schema.rights where grantee = 'OLD'"))
        .containsExactly("SELECT, INSERT");
  }

  @Test
  void whatASheetHasNoStatementForIsSaidAndNothingIsDone() throws Exception {
    RealEstate estate =
        RealEstate.h2(folder, "create schema s", "create table s.t(a int)", "create role a");
    estate.charter(GOVERNED + "roles: {a: {may: [select on table s.t with grant option]}}\n");
    assertThat(estate.fiador("gap").err).contains("house/h2 has no right to grant on");
    estate.charter(GOVERNED + "roles: {b: {was: a}}\n");
    assertThat(estate.fiador("gap").code).isNotZero();
    estate.charter(
        GOVERNED
            + """
            roles: {a: {may: [select on table s.t]}}
            row_policies:
              mine: {on: [s.t], rows: "a = 1"}
            """);
    assertThat(estate.fiador("gap").err).contains("is not known");
    assertThat(estate.ask("select count(*) from information_schema.rights")).containsExactly("0");
  }

  @Test
  void addressesAndSheetsOfStrangersDoNoHarm() throws Exception {
    Path marker = folder.resolve("ran");
    String to = folder.resolve("x.survey.jsonl").toString();
    String url =
        "jdbc:h2:" + folder.resolve("db") + ";INIT=CALL CSVWRITE('" + marker + "', 'SELECT 1')";
    Program init =
        Program.run("survey", "--house", "h2", "--url", url, "--login", "SA", "--to", to);
    assertThat(init.code).isGreaterThan(1);
    assertThat(init.err).contains("INIT, which is not allowed");
    Program far =
        Program.run(
            "survey",
            "--house",
            "h2",
            "--url",
            "jdbc:h2:tcp://db.example/x",
            "--login",
            "SA",
            "--to",
            to);
    assertThat(far.err).contains("nobody here knows how the driver");
    Program other =
        Program.run(
            "survey",
            "--house",
            "h2",
            "--url",
            "jdbc:postgresql://localhost/x",
            "--login",
            "SA",
            "--to",
            to);
    assertThat(other.err).contains("begins with jdbc:h2:");
    Program none =
        Program.run(
            "survey", "--house", "derby", "--url", "jdbc:derby:x", "--login", "A", "--to", to);
    assertThat(none.err).contains("there is no driver for jdbc:derby:x; name its file");
    assertThat(marker).doesNotExist();
  }
}
