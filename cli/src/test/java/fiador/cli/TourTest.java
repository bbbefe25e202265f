package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The tour, and questions about the estate it built. */
class TourTest {
  @TempDir static Path temp;
  private static Path folder;
  private static Program tour;

  @BeforeAll
  static void takeTheTour() {
    folder = temp.resolve("tour");
    tour = Program.run("tour", folder.toString(), "--width", "100");
  }

  private static String golden(String text) {
    return text.replaceAll("\\d+ (s|min|h|days) old", "0 s old")
        .replaceAll(" +\\((\\d+ )?survey", "  ($1survey")
        .replaceAll("\\d{4}-\\d\\d-\\d\\d \\d\\d:\\d\\d:\\d\\d", "THEN")
        .replaceAll("(settle|undo) by \\S+", "$1 by SOMEBODY")
        .replace(folder.toString(), "FOLDER");
  }

  private static Program ask(String... args) {
    String[] all = java.util.Arrays.copyOf(args, args.length + 2);
    all[args.length] = "--from";
    all[args.length + 1] = folder.toString();
    return Program.run(all);
  }

  @Test
  void tellsTheWholeStory() throws Exception {
    assertThat(tour.err).isEmpty();
    assertThat(tour.code).isZero();
    assertThat(golden(tour.out)).isEqualTo(Files.readString(Path.of("src/test/golden/tour.txt")));
  }

  @Test
  void refusesAFolderThatIsInUse() {
    Program again = Program.run("tour", folder.toString());
    assertThat(again.code).isEqualTo(2);
    assertThat(again.err).contains("not empty");
  }

  @Test
  void aRepairThatThisServerHasNoStatementForSaysSo() throws Exception {
    Path people = temp.resolve("left.csv");
    Path sarif = temp.resolve("left.sarif");
    Files.writeString(people, "key,name,active,accounts\np01,Ines Duarte,no,ines.duarte\n");
    Program left =
        ask("findings", "left-person", "--people", people.toString(), "--sarif", sarif.toString());
    assertThat(left.code).isEqualTo(1);
    assertThat(left.out).contains("ines.duarte").contains("this kind of server has no statement");
    assertThat(sarif).content().contains("left-person");
    if (sarif.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      assertThat(Files.getPosixFilePermissions(sarif)).hasSize(2);
      assertThat(Files.getPosixFilePermissions(folder.resolve(".fiador"))).hasSize(3);
      assertThat(Files.getPosixFilePermissions(folder.resolve(".fiador/waterworks.journal.jsonl")))
          .hasSize(2);
    }
  }

  @Test
  void settlingAgainDoesNothing() {
    Program again = Program.run("settle", "--charter", folder.toString(), "--quiet");
    assertThat(again.err).isEmpty();
    assertThat(again.code).isZero();
    assertThat(again.out).contains("nothing to do");
  }

  @Test
  void aDryRunShowsTheSqlOfAnEditAndRunsNothing() throws Exception {
    Path roles = folder.resolve("roles.yaml");
    String before = Files.readString(roles);
    try {
      Files.writeString(
          roles,
          before.replace(
              "- select on billing.invoice_totals",
              "- select on billing.invoice_totals\n      - select (amount) on billing.invoices"));
      for (int i = 0; i < 2; i++) {
        Program dry = Program.run("settle", "--dry-run", "--charter", folder.toString());
        assertThat(dry.code).isEqualTo(1);
        assertThat(dry.out)
            .contains(
                "GRANT SELECT (\"AMOUNT\") ON TABLE \"BILLING\".\"INVOICES\" TO \"LEAK_ANALYST\";");
      }
    } finally {
      Files.writeString(roles, before);
    }
  }

  @Test
  void aTraceThatSaysNoExitsWithOneAndNamesTheSmallestGrant() {
    Program no = ask("trace", "nuno.faria", "select", "network.incidents");
    assertThat(no.code).isEqualTo(1);
    assertThat(no.out)
        .startsWith("no: nuno.faria may not SELECT network.incidents")
        .contains("select on table network.incidents to nuno.faria");
  }

  @Test
  void onlySomeColumnsIsNotAllOfIt() {
    Program part = ask("trace", "ines.duarte", "select", "billing.customers");
    assertThat(part.code).isEqualTo(1);
    assertThat(part.out).contains("not all of it").contains("customer_id, district, tariff");
  }

  @Test
  void rowsFollowTheMachineContract() {
    Program rows = ask("holdings", "ines.duarte", "--format", "jsonl");
    assertThat(rows.out.lines())
        .contains(
            "{\"user\":\"INES.DUARTE\",\"privilege\":\"select\",\"kind\":\"view\",\"object\":"
                + "\"BILLING.CUSTOMERS\",\"columns\":[\"CUSTOMER_ID\",\"DISTRICT\",\"TARIFF\"],"
                + "\"state\":\"live\",\"grantable\":false}",
            "{\"user\":\"INES.DUARTE\",\"privilege\":\"select\",\"kind\":\"view\",\"object\":"
                + "\"METERING.DAILY_USE\",\"state\":\"live\",\"grantable\":false}")
        .hasSize(10);
  }

  @Test
  void everyFormatOfAListHoldsTheSameRows() {
    long rows = ask("holdings", "--everyone", "--format", "jsonl").out.lines().count();
    assertThat(ask("holdings", "--everyone", "--format", "csv").out.lines())
        .hasSize((int) rows + 1);
    assertThat(ask("holdings", "--everyone", "--format", "markdown").out)
        .startsWith(
            "| user | privilege | kind | object | columns | state | grantable | rows | masked | cannot_log_in |\n");
    assertThat(ask("holdings", "--everyone", "--format", "json").out)
        .startsWith("[")
        .endsWith("]\n");
  }

  @Test
  void everyoneInTextIsOneLineAPerson() {
    Program all = ask("holdings", "--everyone");
    assertThat(all.out).contains("19 users").contains("telemetry");
  }

  @Test
  void holdersOfAColumnLeavesOutWhoOnlySeesOthers() {
    Program holders = ask("holders", "billing.customers.iban");
    assertThat(holders.code).isZero();
    assertThat(holders.out).contains("marta.vale").doesNotContain("ines.duarte");
  }

  @Test
  void namesThatDoNotExistGetTheNearestOnes() {
    assertThat(ask("holdings", "ines.duart").err)
        .contains("did you mean")
        .containsIgnoringCase("ines.duarte");
    assertThat(ask("holders", "billing.custmers").err)
        .containsIgnoringCase("did you mean billing.customers");
    assertThat(ask("trace", "ines.duarte", "selct", "billing.customers").err)
        .contains("did you mean select");
    assertThat(ask("trace", "ines.duarte", "select", "billing.customers.ibam").err)
        .containsIgnoringCase("did you mean iban");
    assertThat(ask("holdings", "nobody.at.all").code).isEqualTo(2);
  }

  /** Else the launcher's archive would lack what real answers load. */
  @Test
  void theSurveyThatStartsAreWarmedUpWithKnowsAllThatTheToursKnows() throws Exception {
    Set<String> packed;
    try (var in = new GZIPInputStream(WarmUp.class.getResourceAsStream(WarmUp.SURVEY))) {
      packed = kinds(new String(in.readAllBytes(), StandardCharsets.UTF_8));
    }
    String survey = Files.readString(folder.resolve(".fiador/waterworks.survey.jsonl"));
    assertThat(packed).isEqualTo(kinds(survey));
  }

  private static Set<String> kinds(String survey) {
    return survey
        .lines()
        .map(line -> line.replaceAll("^\\{\"(\\w+)\".*", "$1"))
        .collect(Collectors.toSet());
  }
}
