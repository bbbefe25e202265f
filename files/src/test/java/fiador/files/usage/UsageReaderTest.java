package fiador.files.usage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.evidence.Evidence;
import fiador.evidence.Evidence.Use;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

final class UsageReaderTest {
  @TempDir Path folder;

  private final List<String> notes = new ArrayList<>();

  private final Access postgresql =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.t", "id", "phone", "district")
          .node(NodeKind.TABLE, "d.s.u", "id", "name")
          .node(NodeKind.SEQUENCE, "d.s.q")
          .node(NodeKind.ROUTINE, "d.s.f(integer)")
          .node(NodeKind.VIEW, "d.s.v", "phone")
          .fact("d.s.v", NodeFact.INVOKER)
          .reads("d.s.v", "d.s.t", "phone")
          .build();

  private final Access mariadb =
      new TinyEstate(MariadbRules.of(10, 11))
          .users("lu@%", "lu@10.%")
          .node(NodeKind.SCHEMA, "lg")
          .node(NodeKind.TABLE, "lg.t", "a", "b")
          .node(NodeKind.SCHEMA, "other")
          .node(NodeKind.TABLE, "other.t", "a", "b")
          .build();

  private Evidence read(Access access, String name, String text) throws Exception {
    Path file = folder.resolve(name);
    Files.writeString(file, text);
    return UsageReader.read(access, List.of(file), notes::add);
  }

  /** Uses as {@code ines select d.s.t.phone}. */
  private static Set<String> uses(Access access, Evidence evidence) {
    TreeSet<String> found = new TreeSet<>();
    for (Use use : evidence.uses().keySet()) {
      String column =
          use.column() >= 0
              ? "." + access.tree().column(use.node(), use.column())
              : use.column() == Evidence.ANY ? " any" : "";
      found.add(
          access.principals().name(use.user())
              + " "
              + use.privilege().text()
              + " "
              + access.tree().path(use.node())
              + column);
    }
    return found;
  }

  private Set<String> ofStatement(String sql) throws Exception {
    String line =
        "{\"at\":\"2026-11-01T08:00:00Z\",\"user\":\"ines\",\"statement\":\""
            + sql.replace("\\", "\\\\").replace("\"", "\\\"").replace("\n", "\\n")
            + "\"}\n";
    return uses(postgresql, read(postgresql, "one.jsonl", line));
  }

  @Test
  void queriesUseTheColumnsTheyName() throws Exception {
    assertThat(ofStatement("select x.phone from s.t x where x.district = 'id'"))
        .containsExactly("ines select d.s.t.district", "ines select d.s.t.phone");
    assertThat(ofStatement("select count(*) from s.t")).containsExactly("ines select d.s.t any");
    assertThat(ofStatement("select * from t")).contains("ines select d.s.t");
    assertThat(
            ofStatement(
                "select u.name from s.u where exists (select 1 from s.t where phone = name)"))
        .contains("ines select d.s.t.phone", "ines select d.s.u.name");
    assertThat(ofStatement("select id from s.t for update")).contains("ines update d.s.t");
  }

  @Test
  void changesUseWhatTheyChangeAndWhatTheyRead() throws Exception {
    assertThat(ofStatement("insert into s.u (id) select id from s.t"))
        .contains("ines insert d.s.u.id", "ines select d.s.t.id");
    assertThat(ofStatement("update s.t set phone = null where district = 'north'"))
        .contains("ines update d.s.t.phone", "ines select d.s.t.district");
    assertThat(ofStatement("delete from s.u where id = 4"))
        .contains("ines delete d.s.u", "ines select d.s.u.id");
    assertThat(ofStatement("truncate s.u")).contains("ines truncate d.s.u");
    assertThat(ofStatement("copy s.u (id) from stdin")).contains("ines insert d.s.u");
  }

  @Test
  void whatMayHaveDoneAnythingIsTakenToHaveDoneIt() throws Exception {
    assertThat(ofStatement("with gone as (delete from s.u returning id) select id from gone"))
        .contains("ines delete d.s.u");
    assertThat(ofStatement("begin; update s.t set phone = 'x'; commit"))
        .contains("ines update d.s.t");
    assertThat(ofStatement("explain analyze insert into s.u values (1)"))
        .contains("ines insert d.s.u");
    assertThat(ofStatement("prepare p as delete from s.u")).contains("ines delete d.s.u");
    assertThat(ofStatement("upsart into s.u")).contains("ines insert d.s.u");
    assertThat(ofStatement("create table s.fresh (a integer)")).contains("ines create d.s");
    assertThat(ofStatement("create temporary table fresh (a integer)"))
        .contains("ines create d.s", "ines temporary d");
    assertThat(ofStatement("select id from s.u ; ")).containsExactly("ines select d.s.u.id");
  }

  @Test
  void sequencesRoutinesAndWhatLiesUnderViewsCountToo() throws Exception {
    assertThat(ofStatement("select nextval('s.q')")).contains("ines usage d.s.q");
    assertThat(ofStatement("select s.f(4)"))
        .contains("ines execute d.s.\"f(integer)\"".replace("\"", ""));
    assertThat(ofStatement("select phone from s.v"))
        .contains("ines select d.s.v.phone", "ines select d.s.t.phone");
  }

  @Test
  void statementsThatAreNotUnderstoodAreCountedAndShownWithoutTheirTexts() throws Exception {
    Evidence evidence =
        read(
            postgresql,
            "x.jsonl",
            """
            {"at":"2026-11-01T08:00:00Z","user":"ines","statement":"upsart s.t phone 'top secret'"}
            {"at":"2026-11-01T08:00:01Z","user":"ines","statement":"begin"}
            """);
    assertThat(evidence.statements()).isEqualTo(2);
    assertThat(evidence.unread()).isEqualTo(1);
    assertThat(evidence.examples()).containsExactly("upsart s.t phone '...'");
    assertThat(uses(postgresql, evidence)).contains("ines select d.s.t.phone");
  }

  @Test
  void postgresqlsCsvLog() throws Exception {
    Evidence evidence =
        read(
            postgresql,
            "log.csv",
            """
            2026-11-02 08:15:00.123 UTC,"ines","d",77,"10.0.0.1:5",65,1,"SELECT",2026-11-02 08:00:00 UTC,3/4,0,LOG,00000,"statement: select phone
             from s.t",,,,,,,,,"psql","client backend",,0
            2026-11-02 08:15:01.000 UTC,"ines","d",77,"10.0.0.1:5",65,2,"SELECT",2026-11-02 08:00:00 UTC,3/4,0,LOG,00000,"duration: 0.51 ms  execute <unnamed>: delete from s.u",,,,,,,,,"app","client backend",,0
            2026-11-02 08:15:02.000 UTC,"ines","elsewhere",77,"10.0.0.1:5",65,2,"SELECT",2026-11-02 08:00:00 UTC,3/4,0,LOG,00000,"statement: select name from s.u",,,,,,,,,"app","client backend",,0
            2026-11-02 08:15:03.000 UTC,,,78,,66,1,,2026-11-02 08:00:00 UTC,,0,LOG,00000,"checkpoint starting: time",,,,,,,,,"","checkpointer",,0
            """);
    assertThat(uses(postgresql, evidence))
        .contains("ines select d.s.t.phone", "ines delete d.s.u")
        .doesNotContain("ines select d.s.u.name");
    assertThat(evidence.from()).isEqualTo(Instant.parse("2026-11-02T08:15:00.123Z"));
    assertThat(evidence.statements()).isEqualTo(3);
  }

  @Test
  void postgresqlsJsonLog() throws Exception {
    Evidence evidence =
        read(
            postgresql,
            "log.json",
            """
            {"timestamp":"2026-11-02 08:15:00.123 UTC","user":"rui","dbname":"d","pid":4,"error_severity":"LOG","message":"statement: select name from s.u"}
            {"timestamp":"2026-11-02 08:16:00.000 UTC","pid":1,"error_severity":"LOG","message":"checkpoint complete"}
            """);
    assertThat(uses(postgresql, evidence)).containsExactly("rui select d.s.u.name");
  }

  @Test
  void mariadbsGeneralLog() throws Exception {
    Evidence evidence =
        read(
            mariadb,
            "general.log",
            """
            /usr/sbin/mariadbd, Version: 10.11.5-MariaDB (MariaDB Server). started with:
            Tcp port: 3306  Unix socket: /run/s
            Time\t\t    Id Command\tArgument
            261123 17:39:37\t    10 Connect\tlu@127.0.0.1 on lg using TCP/IP
            \t\t    10 Query\tselect a
             from t
             where b = 'it\\'s' and b <> 'x'
            \t\t    10 Query\tuse other
            261123  7:39:38\t    10 Query\tinsert into t (a) values (1)
            \t\t    10 Quit\t
            \t\t    11 Connect\tstranger@127.0.0.1 on  using TCP/IP
            \t\t    11 Query\tselect 1
            """);
    assertThat(uses(mariadb, evidence))
        .contains("lu@% select lg.t.a", "lu@% select lg.t.b", "lu@10.% insert other.t.a")
        .doesNotContain("lu@% select other.t.b", "lu@% insert lg.t.a");
    assertThat(notes).hasSize(1).first().asString().contains("stranger");
  }

  @Test
  void mariadbsAuditLog() throws Exception {
    Evidence evidence =
        read(
            mariadb,
            "audit.log",
            """
            20261123 08:00:00,box,lu,127.0.0.1,5,0,CONNECT,lg,,0
            20261123 08:00:01,box,lu,127.0.0.1,5,9,QUERY,lg,'select b from t where a = \\'x\\'',0
            """);
    assertThat(uses(mariadb, evidence)).contains("lu@% select lg.t.b", "lu@% select lg.t.a");
  }

  @Test
  void usesCanBeGivenWithoutStatements() throws Exception {
    Evidence evidence =
        read(
            postgresql,
            "u.jsonl",
            """
            {"watched_from":"2026-08-01T00:00:00Z","watched_to":"2026-11-01T00:00:00Z"}
            {"at":"2026-09-01T00:00:00Z","user":"ines","privilege":"update","object":"s.t.phone"}
            """);
    assertThat(uses(postgresql, evidence)).containsExactly("ines update d.s.t.phone");
    assertThat(evidence.from()).isEqualTo(Instant.parse("2026-08-01T00:00:00Z"));
  }

  @Test
  void whatElseStandsInALineIsPassedOver() throws Exception {
    Evidence evidence =
        read(
            postgresql,
            "more.jsonl",
            """
            {"tags":{"user":"x","at":[1]},"at":"2026-09-01T00:00:00Z","rows":7,"note":null,"user":"ines","privilege":"update","object":"s.t.phone"}
            """);
    assertThat(uses(postgresql, evidence)).containsExactly("ines update d.s.t.phone");
    String nobody = "{\"at\":\"2026-09-01T00:00:00Z\",\"user\":null,\"statement\":\"select 1\"}";
    assertThatThrownBy(() -> read(postgresql, "n.jsonl", nobody))
        .hasMessageContaining("n.jsonl:1: expected at, user and statement");
    assertThatThrownBy(() -> read(postgresql, "l.jsonl", "[1, 2]"))
        .isInstanceOf(UsageException.class);
    assertThatThrownBy(() -> read(postgresql, "o.jsonl", "{\"at\":\"2026-09-01T00:00:00Z\""))
        .isInstanceOf(UsageException.class);
  }

  @Test
  void brokenLogsAreToldWithTheirLine() {
    assertThatThrownBy(() -> read(postgresql, "b.jsonl", "{\"at\":\"2026-08-01T00:00:00Z\"}\n"))
        .isInstanceOf(UsageException.class)
        .hasMessageContaining("b.jsonl:1: expected at, user and statement");
    assertThatThrownBy(
            () ->
                read(
                    postgresql,
                    "c.jsonl",
                    "{\"at\":\"yesterday\",\"user\":\"ines\",\"statement\":\"select 1\"}\n{"))
        .isInstanceOf(UsageException.class)
        .hasMessageContaining("c.jsonl:1:");
    assertThatThrownBy(() -> read(postgresql, "d.log", "nothing known"))
        .isInstanceOf(UsageException.class)
        .hasMessageContaining("no log that is known");
  }

  @Test
  void everyPrivilegeIsOneThatTheObjectHas() throws Exception {
    Evidence evidence =
        read(
            postgresql,
            "q.jsonl",
            "{\"at\":\"2026-11-01T08:00:00Z\",\"user\":\"ines\",\"statement\":\"select * from s.q\"}\n");
    assertThat(evidence.uses()).isNotEmpty();
    for (Use use : evidence.uses().keySet()) {
      assertThat(use.privilege()).isIn(Privilege.SELECT, Privilege.USAGE, Privilege.UPDATE);
    }
  }

  /** A few packed bytes make a line that no memory holds. */
  @Test
  void aLineWithoutAnEndIsGivenUp() throws Exception {
    Path file = folder.resolve("endless.jsonl.gz");
    try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(file))) {
      byte[] some = "{\"at\":\"2026-01-01T00:00:00Z\"".getBytes(StandardCharsets.UTF_8);
      out.write(some);
      byte[] blanks = new byte[1 << 20];
      java.util.Arrays.fill(blanks, (byte) ' ');
      for (int i = 0; i < 40; i++) {
        out.write(blanks);
      }
    }
    Access access = TinyEstate.postgresql().users("u").build();
    assertThatThrownBy(() -> UsageReader.read(access, List.of(file), note -> {}))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("a line is longer than 16 MiB");
  }

  @Test
  void aStandInSaysWhatWasUsedAndWhatWasRefused() throws Exception {
    String header =
        "used_at,principal_name,acting_as,outcome,permission,object_type,database_name,"
            + "schema_name,object_name\n";
    Evidence evidence =
        read(
            postgresql,
            "uses.csv",
            header
                + "2026-11-01T08:00:00Z,ines,,done,select,table,d,s,t\n"
                + "2026-11-02T08:00:00Z,ines,,refused,delete,table,d,s,t\n"
                + "2026-11-03T08:00:00Z,ines,,refused,delete,table,d,s,t\n"
                + "2026-11-03T09:00:00Z,rui,,done,select,table,d,s,gone\n"
                + "2026-11-03T09:00:00Z,nobody,,done,select,table,d,s,t\n");
    assertThat(uses(postgresql, evidence)).containsExactly("ines select d.s.t");
    int table = postgresql.tree().named("t").getInt(0);
    int ines = postgresql.principals().named("ines");
    assertThat(evidence.refused())
        .containsExactly(
            java.util.Map.entry(
                new Evidence.Attempt(ines, Privilege.DELETE, table),
                new Evidence.Tries(2, Instant.parse("2026-11-03T08:00:00Z"))));
    assertThat(evidence.seen()).hasSize(2);
    assertThat(notes).singleElement().asString().contains("nobody");
    assertThatThrownBy(
            () ->
                read(
                    postgresql,
                    "uses.csv",
                    header + "2026-11-01T08:00:00Z,ines,,done,fly,t,d,s,t\n"))
        .hasMessageContaining("there is no privilege fly");
    assertThatThrownBy(
            () -> read(postgresql, "uses.csv", header + "yesterday,ines,,done,select,t,d,s,t\n"))
        .hasMessageContaining("uses.csv:2: \"yesterday\" is no time");
    assertThatThrownBy(
            () ->
                read(
                    postgresql,
                    "uses.csv",
                    header + "2026-11-01T08:00:00Z,ines,,maybe,select,t,d,s,t\n"))
        .hasMessageContaining("uses.csv:2: \"maybe\" is neither done nor refused");
  }

  @Test
  void aLineOfJsonMaySayThatItWasRefused() throws Exception {
    Evidence evidence =
        read(
            postgresql,
            "log.jsonl",
            "{\"at\":\"2026-11-02T08:17:00Z\",\"user\":\"rui\",\"privilege\":\"delete\","
                + "\"object\":\"s.t\",\"outcome\":\"refused\"}\n");
    assertThat(evidence.uses()).isEmpty();
    assertThat(evidence.refused()).hasSize(1);
  }
}
