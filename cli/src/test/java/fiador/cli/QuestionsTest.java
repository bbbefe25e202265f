package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Questions of an administrator on the demo, from the command line. */
final class QuestionsTest {
  private static final String WATERWORKS =
      Path.of("../examples/aguarela/trouble/waterworks.survey.jsonl.gz")
          .toAbsolutePath()
          .toString();

  private static Program ask(String... words) {
    return Program.run(
        Stream.concat(Stream.of(words), Stream.of("--from", WATERWORKS)).toArray(String[]::new));
  }

  @ParameterizedTest
  @ValueSource(strings = {"users", "roles", "members", "grants", "powers", "objects", "policies"})
  void eachListHasAsManyRowsInEachFormat(String list) {
    int rows = (int) ask("list", list, "--format", "jsonl").out.lines().count();
    assertThat(rows).isPositive();
    assertThat(ask("list", list, "--format", "markdown").out.lines()).hasSize(rows + 2);
    assertThat(ask("list", list, "--format", "json").out).startsWith("[").endsWith("]\n");
    Program text = ask("list", list);
    assertThat(text.code).isZero();
    assertThat(text.out).containsPattern("^\\d+ ").contains("survey of waterworks");
  }

  @Test
  void anEmptyListSaysNo() {
    Program denials = ask("list", "denials");
    assertThat(denials.code).isEqualTo(1);
    assertThat(denials.out).startsWith("0 denials");
  }

  @Test
  void grantsAreNarrowedDown() {
    List<String> rows =
        ask("list", "grants", "--on", "billing.*", "--without", "public", "--format", "jsonl")
            .out
            .lines()
            .toList();
    assertThat(rows).isNotEmpty().allMatch(row -> row.contains("waterworks.billing."));
    assertThat(rows).noneMatch(row -> row.contains("PUBLIC"));
    assertThat(ask("list", "users", "--on", "billing").err)
        .contains("--on does not narrow users; --to does");
    assertThat(ask("list", "grants", "--without", "me").err).contains("--without takes public");
  }

  @Test
  void twoPeopleBesideEachOther() {
    Program beside = ask("holdings", "ines.duarte", "--beside", "rui.teles");
    assertThat(beside.code).isZero();
    assertThat(beside.out)
        .startsWith("ines.duarte holds 4 that rui.teles does not, 19 the other way round")
        .contains("only rui.teles\n")
        .contains("  only ines.duarte   leak_analyst\n")
        .contains("network_write (through control_room)");
    String rows = ask("holdings", "ines.duarte", "--beside", "rui.teles", "--format", "jsonl").out;
    assertThat(rows.lines().filter(row -> row.contains("\"held_by\":\"user\""))).hasSize(4);
    assertThat(rows.lines().filter(row -> row.contains("\"held_by\":\"beside\""))).hasSize(19);
    assertThat(ask("holdings", "--everyone", "--beside", "rui.teles").code).isEqualTo(2);
  }

  @Test
  void holdingsOfARoleOfEverybodyAndOfOneSchema() {
    assertThat(ask("holdings", "PUBLIC").out).startsWith("PUBLIC holds ");
    assertThat(ask("holdings", "role", "leak_analyst").out).startsWith("leak_analyst holds ");
    assertThat(ask("holdings", "user", "leak_analyst").err)
        .contains("leak_analyst is a role and no user");
    assertThat(ask("holdings", "ines.duarte", "rui.teles").err).contains("one name too many");
    String billing = ask("holdings", "ines.duarte", "--schema", "billing", "--format", "csv").out;
    assertThat(billing.lines()).hasSize(5);
    assertThat(billing.lines().findFirst().orElseThrow()).endsWith(",through");
    assertThat(billing).contains(",leak_analyst");
  }

  /** Everybody was given select on incidents, and only some get into the schema. */
  @Test
  void whatEverybodyHasIsLeftOutWhereTheyHaveItAsWell() {
    String all = ask("holdings", "ines.duarte", "--schema", "network", "--format", "csv").out;
    assertThat(all).contains("network.incidents");
    assertThat(
            ask(
                    "holdings",
                    "ines.duarte",
                    "--schema",
                    "network",
                    "--without",
                    "public",
                    "--format",
                    "csv")
                .out)
        .isEqualTo(all);
    String databases = ask("holdings", "ines.duarte", "--without", "public").out;
    assertThat(databases).doesNotContain("database template1");
  }

  @Test
  void aLongListIsSummedUp() {
    String sums = ask("holdings", "postgres").out;
    assertThat(sums)
        .contains("schema billing")
        .containsPattern("3 tables +select, insert")
        .contains("--full lists each");
    assertThat(ask("holdings", "postgres", "--full").out.lines().count())
        .isGreaterThan(sums.lines().count());
  }

  @Test
  void aThingIsFoundWithoutItsSchema() {
    Program holders = ask("holders", "invoices");
    assertThat(holders.err).contains("invoices is taken for table billing.invoices");
    assertThat(holders.out).contains("on table billing.invoices");
    assertThat(ask("trace", "ines.duarte", "select", "invoces").err)
        .contains("did you mean billing.invoices?");
    assertThat(ask("holders", "ines.duarte").err).contains("fiador holdings ines.duarte");
    assertThat(ask("holdings", "billing.invoices").err).contains("fiador holders billing.invoices");
  }

  @Test
  void asIfItWereSo() {
    String[] question = {"trace", "ines.duarte", "select", "billing.invoices"};
    assertThat(ask(question).code).isEqualTo(1);
    Program supposed =
        ask(
            Stream.concat(
                    Stream.of(question), Stream.of("--suppose", "ines.duarte holds billing_read"))
                .toArray(String[]::new));
    assertThat(supposed.code).isZero();
    assertThat(supposed.out)
        .startsWith("yes, live")
        .contains("(supposed; survey of waterworks")
        .contains("beside what is so now\n  +   ines.duarte   gains select on table");
    Program findings = ask("findings", "--suppose", "PUBLIC may select on laboratory.samples");
    assertThat(findings.out)
        .containsPattern("(?s)beside what is so now.*\\+ +open-to-everybody +laboratory.samples");
    assertThat(ask("holders", "invoices", "--suppose", "nonsense").err).contains("cannot suppose");
  }

  @Test
  void whatTheServerSaidIsTraced() {
    Program refused =
        ask("trace", "ines.duarte", "--error", "ERROR: permission denied for table invoices");
    assertThat(refused.code).isEqualTo(1);
    assertThat(refused.out)
        .startsWith("the server means table billing.invoices\n\nno: ines.duarte may not SELECT")
        .containsPattern("missing too +INSERT, UPDATE, DELETE");
    Program other = ask("trace", "ines.duarte", "--error", "permission denied for schema metering");
    assertThat(other.out).containsPattern("allowed +USAGE");
    assertThat(ask("trace", "ines.duarte", "--error", "syntax error").err)
        .contains("none of what the known servers say");
    assertThat(ask("trace", "ines.duarte", "select").err).contains("--error TEXT");
  }

  @Test
  void aStatementIsTracedWithAllItNeeds() {
    String sql = "select p.material, i.amount from network.pipes p, billing.invoices i";
    Program no = ask("trace", "ines.duarte", "--statement", sql);
    assertThat(no.code).isEqualTo(1);
    assertThat(no.out)
        .startsWith("no: ines.duarte may not run this, 1 of ")
        .containsPattern("yes +select \\(material\\) on table network.pipes +leak_analyst")
        .containsPattern("NO +select \\(amount\\) on table billing.invoices +nothing gives it")
        .containsPattern("helps +membership in TempFix");
    Program yes =
        ask(
            "trace",
            "ines.duarte",
            "--statement",
            sql,
            "--suppose",
            "ines.duarte holds billing_read");
    assertThat(yes.code).isZero();
    assertThat(yes.out).startsWith("yes, live: ines.duarte may run this");
    Program rows = ask("trace", "ines.duarte", "--statement", sql, "--format", "jsonl");
    assertThat(rows.out).contains("\"object\":\"waterworks.billing.invoices\"");
    assertThat(rows.out.lines().filter(row -> row.contains("\"answer\":\"no\""))).hasSize(1);
  }

  @Test
  void whatAStatementNeedsIsNotGuessed() {
    Program unknown =
        ask("trace", "ines.duarte", "--statement", "select nope from billing.customers");
    assertThat(unknown.code).isEqualTo(2);
    assertThat(unknown.err).contains("not known: there is no column nope");
    Program both = ask("trace", "ines.duarte", "select", "--statement", "select 1");
    assertThat(both.err).contains("says itself what it needs");
  }
}
