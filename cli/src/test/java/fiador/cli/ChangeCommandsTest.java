package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.draw.PackedPage;
import fiador.servers.Servers;
import fiador.servers.jdbc.Login;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** gap, settle both ways, undo and resume, prove: on the demo estate. */
class ChangeCommandsTest {
  @TempDir static Path parent;
  static Path folder;

  private String roles;
  private String users;
  private String root;
  private String policies;

  @BeforeAll
  static void buildTheEstate() {
    folder = parent.resolve("aguarela");
    assertThat(Program.run("tour", folder.toString()).code).isZero();
  }

  @BeforeEach
  void rememberTheCharter() throws Exception {
    roles = Files.readString(folder.resolve("roles.yaml"));
    users = Files.readString(folder.resolve("users.yaml"));
    root = Files.readString(folder.resolve("fiador.yaml"));
    policies = Files.readString(folder.resolve("policies.yaml"));
  }

  @AfterEach
  void bringItBack() throws Exception {
    Files.writeString(folder.resolve("roles.yaml"), roles);
    Files.writeString(folder.resolve("users.yaml"), users);
    Files.writeString(folder.resolve("fiador.yaml"), root);
    Files.writeString(folder.resolve("policies.yaml"), policies);
    Program.run("settle", "--charter", folder.toString());
    Program gap = run("gap", "-q");
    assertThat(gap.code).as(gap.out + gap.err).isZero();
  }

  private static Program run(String command, String... more) {
    String[] all = new String[more.length + 3];
    all[0] = command;
    System.arraycopy(more, 0, all, 1, more.length);
    all[all.length - 2] = "--charter";
    all[all.length - 1] = folder.toString();
    return Program.run(all);
  }

  private void edit(String file, String from, String to) throws Exception {
    String text = Files.readString(folder.resolve(file));
    assertThat(text).contains(from);
    Files.writeString(folder.resolve(file), text.replace(from, to));
  }

  private void takeTheTariffAway() throws Exception {
    edit("roles.yaml", "(customer_id, district, tariff)", "(customer_id, district)");
  }

  @Test
  void aGapSaysWhoLosesWhatAndExitsWithOne() throws Exception {
    takeTheTariffAway();
    Program gap = run("gap", "-q");
    assertThat(gap.code).isEqualTo(1);
    assertThat(gap.err).isEmpty();
    assertThat(gap.out)
        .contains("1 statement; 2 users lose")
        .contains("ines.duarte, joao.serra   lose select (tariff) on view billing.customers")
        .contains("REVOKE SELECT (\"TARIFF\") ON TABLE \"BILLING\".\"CUSTOMERS\"");
    assertThat(run("draw", "gap").out)
        .startsWith("What the change gives and takes")
        .contains("2 users (ines.duarte, joao.serra)")
        .contains("billing.customers: − select (tariff) (goes with the change)");
    Path page = folder.resolve("page.html");
    assertThat(Program.run("page", "--from", folder.toString(), "--to", page.toString()).code)
        .isZero();
    assertThat(PackedPage.in(page))
        .contains("[\"ines.duarte\",\"billing.customers\",0,\"select (tariff)\"]")
        .contains("\"history\":[[\"")
        .contains("settle by ")
        .containsPattern("\"over_time\":\\[\\[\"[^\"]+\",\\{\"billing\":\\d+,\"laboratory\":\\d+,");
    Files.delete(page);
    assertThat(run("gap", "-q", "--format", "jsonl").out)
        .contains(
            "{\"user\":\"INES.DUARTE\",\"privilege\":\"select\",\"kind\":\"view\",\"object\":"
                + "\"BILLING.CUSTOMERS\",\"columns\":[\"TARIFF\"],\"was\":\"live\",\"is\":\"none\","
                + "\"could_grant\":false,\"can_grant\":false}");
  }

  @Test
  void aTableIsClosedWhileAPolicyAndWhatItAsksForChange() throws Exception {
    edit("users.yaml", "districts: [north, delta]", "districts: [delta, coast]");
    edit("policies.yaml", "rows: district in user.districts or", "rows: district <> 'north' and");
    edit("policies.yaml", "in lookup(district_desk)", "in user.districts");
    Program gap = run("gap");
    assertThat(gap.out).contains("3 users see other rows or values").contains("what people see");
    assertThat(gap.out).doesNotContain(" ...;");
    // line by line the same as it is sent, texts with line breaks too
    assertThat(gap.out).contains(run("settle", "--dry-run").out.split("\n", 3)[1]);
    assertThat(gap.err)
        .contains("METERING.READINGS shows nobody any row while this is carried out");
    assertThat(run("settle", "-q").out)
        .contains("2 safe views closed meanwhile, 2 safe views settled")
        .contains("no gap");
    Program ines = run("preview", "ines.duarte", "metering.readings", "--live", "-q");
    assertThat(ines.out).startsWith("ines.duarte gets 3 of 9 rows");
    assertThat(run("settle", "--undo", "-q").out).contains("5 steps taken back");
    ines = run("preview", "ines.duarte", "metering.readings", "--live", "-q");
    assertThat(ines.out).startsWith("ines.duarte gets 7 of 9 rows");
  }

  @Test
  void scriptsHoldTheStatementsAndWhatTakesThemBack() throws Exception {
    takeTheTariffAway();
    Path script = parent.resolve("there.sql");
    Path back = parent.resolve("back.sql");
    run("gap", "-q", "--script", script.toString(), "--undo-script", back.toString());
    assertThat(script).content().contains("\nREVOKE SELECT (\"TARIFF\")").endsWith(";\n");
    assertThat(back).content().contains("\nGRANT SELECT (\"TARIFF\")");
  }

  @Test
  void settleTakesAwayAndUndoBringsBack() throws Exception {
    takeTheTariffAway();
    Program settle = run("settle", "-q");
    assertThat(settle.code).as(settle.err).isZero();
    assertThat(settle.out).contains("1 grant taken").contains("no gap");
    Program lost =
        Program.run(
            "trace",
            "ines.duarte",
            "select",
            "billing.customers.tariff",
            "--from",
            folder.toString());
    assertThat(lost.code).isEqualTo(1);
    Program undo = run("settle", "--undo");
    assertThat(undo.code).as(undo.err).isZero();
    assertThat(undo.out).contains("1 step taken back");
    assertThat(run("settle", "--undo").out).contains("0 steps taken back");
  }

  @Test
  void afterAStopHalfWayOnlyResumeOrUndoGoOn() throws Exception {
    takeTheTariffAway();
    edit("roles.yaml", "select on network.pipes, network.valves", "select on network.pipes");
    assertThat(run("settle", "-q").code).isZero();
    Path journal = folder.resolve(".fiador/waterworks.journal.jsonl");
    Files.writeString(
        journal, Files.readString(journal).replace("{\"finished\":true}\n", "").stripTrailing());
    String url = "jdbc:hsqldb:file:" + folder.resolve(".fiador/waterworks");
    try (Connection half =
            Servers.named("hsqldb").orElseThrow().connect(new Login(url, "SA", ""), null);
        Statement sql = half.createStatement()) {
      sql.execute("GRANT SELECT ON TABLE NETWORK.VALVES TO CONTRACTOR");
    }
    Program refused = run("settle", "-q");
    assertThat(refused.code).isEqualTo(4);
    assertThat(refused.err).contains("stopped half-way").contains("--resume");
    Program resumed = run("settle", "--resume");
    assertThat(resumed.code).as(resumed.err).isZero();
    assertThat(resumed.out).contains("1 step left, done now");
    assertThat(run("settle", "--resume").out).contains("nothing to resume");
  }

  @Test
  void whatIsNotListedIsDroppedOnlyWhenAskedFor() throws Exception {
    edit("users.yaml", "  telemetry:", "  # telemetry:");
    Program kept = run("gap", "--verbose");
    assertThat(kept.err).contains("kept without --drop").contains("TELEMETRY");
    assertThat(kept.out).doesNotContain("DROP USER");
    assertThat(run("gap", "-q", "--drop").out).contains("DROP USER \"TELEMETRY\"");
  }

  @Test
  void withoutGovernsNothingIsTakenAway() throws Exception {
    takeTheTariffAway();
    Files.delete(folder.resolve("policies.yaml"));
    String text = Files.readString(folder.resolve("fiador.yaml"));
    Files.writeString(
        folder.resolve("fiador.yaml"), text.replaceAll("(?s)governs:.*?\\n\\n", "\n"));
    Program gap = run("gap", "-q");
    assertThat(gap.out).startsWith("no gap");
    assertThat(gap.code).isZero();
  }

  @Test
  void whatMayNotBeIsRefusedWhenSomebodyGetsItAllTheSame() throws Exception {
    String may = "  control_room:\n    purpose: duty\n";
    edit("roles.yaml", may, may + "    may_not: [delete on billing.invoice_totals]\n");
    assertThat(run("gap", "-q").code).isZero();
    edit("roles.yaml", "[delete on billing.invoice_totals]", "[delete on network.incidents]");
    Program gap = run("gap", "-q");
    assertThat(gap.code).isEqualTo(2);
    assertThat(gap.err)
        .contains("hsqldb cannot deny")
        .contains("RUI.TELES can delete through CONTROL_ROOM > NETWORK_WRITE")
        .contains("what would have to go: delete on NETWORK.INCIDENTS to NETWORK_WRITE");
  }

  @Test
  void proofsHoldOnPaperAndOnTheServer() {
    Program paper = run("prove", "-q");
    assertThat(paper.code).isZero();
    assertThat(paper.out).startsWith("all 13 proofs hold").contains("but for superusers: sa");
    Program live = run("prove", "--live", "-q");
    assertThat(live.code).isZero();
    assertThat(live.out).contains("server: allowed it").contains("server: refused it");
  }

  @Test
  void aProofThatFailsSaysWhoIsAgainstIt() throws Exception {
    edit("fiador.yaml", "except role network_write", "except role lab_steward");
    Path xml = parent.resolve("proofs.xml");
    Program failed = run("prove", "-q", "--junit", xml.toString());
    assertThat(failed.code).isEqualTo(1);
    assertThat(failed.out).contains("FAILS   nobody can delete").contains("rui.teles");
    assertThat(xml)
        .content()
        .contains("tests=\"13\" failures=\"1\"")
        .contains("<failure message=\"")
        .contains("classname=\"fiador.yaml:");
  }

  @Test
  void mistakesInTheNewSectionsAreFoundAllAtOnce() throws Exception {
    edit("fiador.yaml", "umbrella: platform_admin", "umbrella: platform_admn");
    edit("fiador.yaml", "- marta.vale can update", "- marta.vale can updat");
    edit(
        "fiador.yaml",
        "[role billing_clerk, role billing_approver]",
        "[role billing_clark, role b]");
    edit(
        "users.yaml",
        "nuno.faria:    {kind: person,",
        "nuno.faria:    {kind: person, until: soon,");
    Program check = Program.run("check", folder.toString());
    assertThat(check.code).isEqualTo(2);
    assertThat(check.err)
        .contains("no role \"platform_admn\"")
        .contains("no privilege \"updat\"")
        .contains("no role \"billing_clark\"")
        .contains("expected a day such as 2027-03-31")
        .contains("5 mistakes");
  }

  @Test
  void anAdoptedCharterLeavesNoGap() throws Exception {
    Path adopted = parent.resolve("adopted");
    Program adopt = Program.run("adopt", adopted.toString(), "--from", folder.toString());
    assertThat(adopt.code).as(adopt.out + adopt.err).isZero();
    assertThat(adopt.out).contains("19 roles, 18 users").contains("no gap");
    assertThat(adopted.resolve("roles.yaml"))
        .content()
        .contains("- laboratory", "role: \"{schema}_read\"")
        .contains("select on every table and view in {schema}, now")
        .contains("select (customer_id, district, tariff) on view billing.customers");
    assertThat(Program.run("adopt", adopted.toString(), "--from", folder.toString()).code)
        .isEqualTo(2);
  }

  @Test
  void namesThatAServerCutsOffAreRefusedByCheck() throws Exception {
    edit("users.yaml", "  telemetry:", "  " + "t".repeat(129) + ":");
    Program check = Program.run("check", folder.toString());
    assertThat(check.code).isEqualTo(2);
    assertThat(check.err).contains("hsqldb keeps 128 characters of a name, and this one has 129");
  }

  @Test
  void bothHalvesOfADutyAreRefused() throws Exception {
    edit("users.yaml", "roles: [billing_approver]", "roles: [billing_approver, billing_clerk]");
    Program check = Program.run("check", folder.toString());
    assertThat(check.err).contains("paulo.matias holds billing_clerk and billing_approver");
  }

  @Test
  void aPreviewSaysHowManyRowsAndAgreesWithTheServer() {
    Program ines =
        run(
            "preview",
            "ines.duarte",
            "metering.readings",
            "--live",
            "--compare",
            "rui.teles",
            "--group-by",
            "district");
    assertThat(ines.code).isZero();
    assertThat(ines.out)
        .startsWith("ines.duarte gets 7 of 9 rows of metering.readings  ")
        .contains("through   metering.readings_safe, which shows the table as its policies say")
        .contains("rows      own_districts: district in ('delta', 'north')")
        .contains("rui.teles gets 9, ines.duarte 7")
        .contains("the same 7 rows, value by value");
    Program paulo = run("preview", "paulo.matias", "billing.customers", "--format", "csv");
    assertThat(paulo.out).contains("*****101").contains("*****").doesNotContain("555-0101");
    Program nobody = run("preview", "nuno.faria", "billing.customers");
    assertThat(nobody.code).isEqualTo(1);
    assertThat(nobody.out).startsWith("nothing: nuno.faria cannot read");
    assertThat(run("preview", "ines.duarte", "metering.readngs").err).contains("did you mean");
    assertThat(run("preview", "ines.duarte", "metering.readings", "--group-by", "x").code)
        .isEqualTo(2);
  }

  @Test
  void answersNameRowsAndMasks() {
    Program trace =
        Program.run(
            "trace",
            "ines.duarte",
            "select",
            "metering.readings_safe",
            "--from",
            folder.toString());
    assertThat(trace.out).contains("rows    own_districts: district in ('delta', 'north')");
    Program closed =
        Program.run(
            "trace", "ines.duarte", "select", "metering.readings", "--from", folder.toString());
    assertThat(closed.out)
        .contains("metering.readings_safe shows the table as its policies say")
        .doesNotContain("grant   select");
    Program rows =
        Program.run("holdings", "paulo.matias", "--format", "jsonl", "--from", folder.toString());
    assertThat(rows.out).contains("\"masked\":[\"PHONE\",\"EMAIL\",\"IBAN\",\"TAX_NUMBER\"]");
  }

  @Test
  void whoGetsRoundAPolicyIsNamedWithTheView() {
    Program bypass = Program.run("bypass", "--from", folder.toString());
    assertThat(bypass.code).isEqualTo(1);
    assertThat(bypass.out)
        .startsWith("1 way round a policy")
        .contains("metering.readings   hidden rows   view metering.daily_use")
        .contains("nothing stops superusers: sa");
    Program customers = Program.run("bypass", "billing.customers", "--from", folder.toString());
    assertThat(customers.code).isZero();
    assertThat(customers.out).startsWith("only superusers get round policies");
  }

  @Test
  void aPolicyThatDoesNotFitItsTableIsNamedBeforeAnythingRuns() throws Exception {
    edit("policies.yaml", "rows: district in", "rows: distrct in");
    Program check = Program.run("check", folder.toString());
    assertThat(check.code).isEqualTo(2);
    assertThat(check.err)
        .contains("policies.yaml:14:11: METERING.READINGS: there is no column distrct");
    edit("policies.yaml", "rows: distrct in", "rows: district in");
    edit("policies.yaml", "mask: stars", "mask: zero");
    Program gap = run("gap");
    assertThat(gap.code).isEqualTo(2);
    assertThat(gap.err).contains("zero cannot mask BILLING.CUSTOMERS.IBAN, which is text");
  }

  @Test
  void aSealIsBrokenByAGrantAndSaysByWhom() throws Exception {
    edit("roles.yaml", "select on network.pipes", "select on laboratory.samples, network.pipes");
    Program gap = run("gap");
    assertThat(gap.code).isEqualTo(2);
    assertThat(gap.err)
        .contains("the seal laboratory is open to others too")
        .contains("NUNO.FARIA (select on LABORATORY.SAMPLES)");
  }
}
