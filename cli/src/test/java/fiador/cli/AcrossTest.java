package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Abroad.Carrier;
import fiador.grants.TinyEstate;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A table that lies on another server, asked about from both ends. */
class AcrossTest {
  @TempDir Path folder;
  private Path dam;
  private Path archive;

  @BeforeEach
  void surveys() throws Exception {
    dam = folder.resolve("dam.survey.jsonl");
    archive = folder.resolve("archive.survey.jsonl");
    SurveyWriter.write(
        TinyEstate.postgresql()
            .reached("dam", "db.box:5432")
            .users("ines", "nuno")
            .node(NodeKind.SCHEMA, "d.bills")
            .grant("PUBLIC", "usage", "d.bills")
            .node(NodeKind.TABLE, "d.bills.old", "number", "iban")
            .grant("ines", "select", "d.bills.old")
            .grant("nuno", "select", "d.bills.old")
            .away("far\u001b[31m", Carrier.POSTGRESQL, "db.box", "5433")
            .mapping("ines", "far\u001b[31m", "reader", true)
            .mapping("PUBLIC", "far\u001b[31m", "guest", true)
            .foreign("d.bills.old", "far\u001b[31m", "store.bills", Map.of())
            .build(),
        dam);
    TinyEstate far =
        TinyEstate.postgresql()
            .reached("archive", "db.box:5433")
            .users("reader", "guest")
            .node(NodeKind.SCHEMA, "d.store")
            .grant("PUBLIC", "usage", "d.store")
            .node(NodeKind.TABLE, "d.store.bills", "number", "iban")
            .grant("reader", "select", "d.store.bills");
    far.filter("d.store.bills", far.rule("some", true, "PUBLIC", "number < 10", "number < 10"));
    SurveyWriter.write(far.build(), archive);
  }

  private Program trace(String user, String... more) {
    String[] all = {"trace", user, "select", "bills.old", "--from", dam.toString()};
    String[] line = java.util.Arrays.copyOf(all, all.length + more.length);
    System.arraycopy(more, 0, line, all.length, more.length);
    return Program.run(line);
  }

  @Test
  void itIsFollowedToTheRightThere() {
    Program open = trace("ines", "--across", folder.toString());
    assertThat(open.code).as(open.out + open.err).isZero();
    assertThat(open.out)
        .startsWith("yes, live: ines may SELECT bills.old")
        .contains("ines as reader: the mapping of ines")
        .contains("yes: reader may SELECT store.bills")
        .contains("number < 10")
        .doesNotContain("\u001b");
  }

  @Test
  void openHereAndClosedThereIsNo() {
    Program closed = trace("nuno", "--across", archive.toString());
    assertThat(closed.code).isOne();
    assertThat(closed.out)
        .startsWith("no, open here but closed on archive: nuno gets no rows of bills.old")
        .contains("nuno as guest: the mapping for everybody")
        .contains("on archive: select on table store.bills to guest");
    Program document = trace("nuno", "--across", archive.toString(), "--format", "json");
    assertThat(document.out)
        .contains("\"answer\" : \"no\"", "\"state\" : \"live\"", "\"code\" : \"no-right\"");
  }

  @Test
  void withoutTheOtherSurveyItSaysSo() {
    Program unknown = trace("ines");
    assertThat(unknown.code).isZero();
    assertThat(unknown.out)
        .startsWith("open here, but")
        .contains("no survey of that server is at hand");
  }

  @Test
  void theOtherEndKnowsWhoComes() {
    Program holders =
        Program.run(
            "holders", "store.bills", "--from", archive.toString(), "--across", folder.toString());
    assertThat(holders.out)
        .contains("1 user reads it from another server")
        .contains("dam: bills.old", "as reader", "ines")
        .doesNotContain("nuno");
    Program rows =
        Program.run(
            "holders",
            "store.bills",
            "--from",
            archive.toString(),
            "--across",
            folder.toString(),
            "--format",
            "jsonl");
    assertThat(rows.out)
        .contains(
            "\"server\":\"dam\",\"across\":[\"dam:d.bills.old\"],\"login\":\"reader\",\"certain\":true");
  }

  @Test
  void aWayInPastPoliciesIsFound() {
    Program bypass =
        Program.run("bypass", "--from", archive.toString(), "--across", folder.toString());
    assertThat(bypass.code).isOne();
    assertThat(bypass.out)
        .contains("1 way in from other servers", "store.bills is read from other servers");
    assertThat(Program.run("bypass", "--from", archive.toString()).code).isZero();
    String[] findings = {"findings", "read-from-elsewhere", "--from", archive.toString()};
    Program alone = Program.run(findings);
    assertThat(alone.out).contains("nothing found");
    String[] across = java.util.Arrays.copyOf(findings, findings.length + 2);
    across[findings.length] = "--across";
    across[findings.length + 1] = folder.toString();
    Program found = Program.run(across);
    assertThat(found.code).isOne();
    assertThat(found.out)
        .contains("is read from dam through d.bills.old as reader by 1 user there")
        .doesNotContain("\u001b");
  }

  @Test
  void whatIsElsewhereIsListed() {
    assertThat(Program.run("list", "foreign", "--from", dam.toString()).out)
        .contains("1 foreign table", "bills.old", "db.box:5433/d", "store.bills")
        .doesNotContain("\u001b");
    assertThat(
            Program.run("list", "mappings", "--from", dam.toString(), "--across", folder.toString())
                .out)
        .contains("2 user mappings", "guest", "for everybody without a mapping of");
    assertThat(Program.run("findings", "shared-login", "--from", dam.toString()).out)
        .contains("everybody without a mapping of their own goes on to", "as guest");
  }

  @Test
  void whatIsNoSurveyIsRefused() {
    Program refused = trace("ines", "--across", folder.resolve("none").toString());
    assertThat(refused.code).isEqualTo(2);
    assertThat(refused.err).contains("is no survey file and no folder of such");
  }

  @Test
  void onePersonIsAllTheirAccounts() throws Exception {
    Path people = folder.resolve("people.csv");
    java.nio.file.Files.writeString(
        people, "key,name,active,accounts\n17,Inês,yes,dam:ines archive:reader\n18,Rui,no,nuno\n");
    String[] ask = {"--people", people.toString(), "--from", dam.toString()};
    Program both = person("Inês", ask, "--across", folder.toString());
    assertThat(both.code).as(both.err).isZero();
    assertThat(both.out)
        .startsWith("Inês has 2 accounts on 2 servers")
        .contains("bills.old", "store.bills");
    Program left = person("18", ask, "--across", folder.toString());
    assertThat(left.out)
        .startsWith("Rui, who has left, has 1 account on 1 server")
        .contains("no account on archive");
    Program rows = person("17", ask, "--across", folder.toString(), "--format", "jsonl");
    assertThat(rows.out).contains("\"server\":\"dam\",\"person\":\"17\"", "\"server\":\"archive\"");
    assertThat(person("Ines", ask).err).contains("there is nobody called Ines", "Inês");
    Program byName =
        Program.run(
            "holdings",
            "--person",
            "guest",
            "--from",
            dam.toString(),
            "--across",
            archive.toString());
    assertThat(byName.out).startsWith("guest has 1 account on 1 server");
  }

  private static Program person(String name, String[] ask, String... more) {
    java.util.List<String> line =
        new java.util.ArrayList<>(java.util.List.of("holdings", "--person", name));
    line.addAll(java.util.List.of(ask));
    line.addAll(java.util.List.of(more));
    return Program.run(line.toArray(String[]::new));
  }
}
