package fiador.cli.sweep;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.cli.Program;
import fiador.work.sweeping.LabelRule;
import fiador.work.sweeping.Outcome;
import fiador.work.sweeping.Sweeps.Question;
import fiador.work.sweeping.Sweeps.Servers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the commands of a sweep ask for and say, with an engine that answers what is put there. */
class SweepCommandsTest {
  @TempDir Path folder;

  @BeforeEach
  void nothing() {
    MadeUpSweeps.rows = List.of();
    MadeUpSweeps.servers = new Servers(2, 0, Instant.parse("2026-11-29T08:00:00Z"));
  }

  private static Map<String, Object> right(
      String person, String server, String account, String object) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("person", person);
    row.put("person_name", person == null ? null : "Ines Duarte");
    row.put("server", server);
    row.put("account", account);
    row.put("privilege", "select");
    row.put("kind", "table");
    row.put("object", object);
    row.put("columns", null);
    row.put("state", "live");
    row.put("grantable", false);
    return row;
  }

  @Test
  void aSweepIsOrderedAndToldOf() throws Exception {
    Path people =
        Files.writeString(folder.resolve("people.csv"), "key,name,accounts\np1,Ines Duarte,ines\n");
    Path labels = Files.writeString(folder.resolve("labels.csv"), "label,object\nsecret,billing\n");
    MadeUpSweeps.outcome =
        new Outcome(
            3,
            1,
            List.of("old"),
            List.of(new Outcome.Failed("n\u001b[2J", "/x/n.survey.jsonl", "is cut off")),
            1200,
            45_000,
            1);
    Program swept =
        Program.run(
            "sweep",
            "surveys",
            "--into",
            "swept",
            "--people",
            people.toString(),
            "--labels",
            labels.toString(),
            "--cores",
            "3",
            "--again");
    assertThat(swept.code).isEqualTo(1);
    assertThat(swept.err).contains("3 of 4 surveys are to be worked out");
    assertThat(swept.out)
        .startsWith("3 servers worked out, 1 as before, 1 gone, 1 failed\n")
        .contains("1,200 users, 45,000 holdings, 1 finding", "gone", "old", "is cut off")
        .doesNotContain("\u001b");
    assertThat(MadeUpSweeps.order.people().people()).hasSize(1);
    assertThat(MadeUpSweeps.order.labels()).containsExactly(new LabelRule("secret", "", "billing"));
    assertThat(MadeUpSweeps.order.cores()).isEqualTo(3);
    assertThat(MadeUpSweeps.order.again()).isTrue();
    Program rows = Program.run("sweep", "surveys", "--into", "swept", "--format", "csv");
    assertThat(rows.out)
        .startsWith("server,file,failed\n")
        .contains("n\\u001b[2J", "is cut off")
        .doesNotContain("\u001b");
  }

  @Test
  void whatIsMissingOrWrongIsSaid() {
    assertThat(Program.run("sweep", "surveys").err).contains("--into=SWEEP");
    assertThat(Program.run("sweep", "s", "--into", "t", "--memory", "lots").err)
        .contains("--memory lots is no size; write 500m or 4g");
    assertThat(Program.run("sweep", "s", "--into", "t", "--cores", "0").err).contains("too few");
    assertThat(Program.run("sweep", "who", "swept").err)
        .contains("name a label (--label) or a thing");
    assertThat(Program.run("sweep", "who", "swept", "--object", "x", "--may", "selct").err)
        .contains("there is no privilege selct", "select");
    assertThat(Program.run("sweep", "changed", "swept").err).contains("--since");
    assertThat(Program.run("sweep", "changed", "swept", "--since", "soon").code).isEqualTo(2);
    assertThat(Program.run("sweep", "person", "elsewhere", "ines").err).contains("is no sweep");
  }

  @Test
  void whoAnswersFirstAndNamesPeople() {
    MadeUpSweeps.rows =
        List.of(
            right(null, "b", "robot", "s.x"),
            right("p1", "a", "ines", "s.a"),
            right("p1", "a", "ines", "s.b"),
            right("p1", "a", "ines", "s.c"),
            right("p1", "a", "ines", "s.d"),
            right("p1", "b", "ines.d", "s.x"));
    Program who = Program.run("sweep", "who", "swept", "--label", "secret");
    assertThat(who.code).isZero();
    assertThat(who.out)
        .startsWith("3 accounts of 2 people on 2 servers may select what is labelled secret")
        .contains("Ines Duarte   a", "select s.a, s.b, s.c and 1 more", "not known")
        .contains("2 servers, the oldest survey of 2026-11-29");
    assertThat(MadeUpSweeps.question)
        .isEqualTo(new Question.Who("secret", "", "select", "", false));
    Program.run(
        "sweep",
        "who",
        "swept",
        "--object",
        "*.x",
        "--may",
        "UPDATE",
        "--server",
        "n*",
        "--every-state");
    assertThat(MadeUpSweeps.question).isEqualTo(new Question.Who("", "*.x", "update", "n*", true));
    Program nobody = nobody();
    assertThat(nobody.code).isEqualTo(1);
    assertThat(nobody.out).startsWith("nobody may select what is labelled secret, on *.x");
  }

  private static Program nobody() {
    MadeUpSweeps.rows = List.of();
    return Program.run("sweep", "who", "swept", "--label", "secret", "--object", "*.x");
  }

  @Test
  void limitsAreNamed() {
    Map<String, Object> row = right("p1", "a", "ines", "s.a");
    row.put("state", "on-request");
    row.put("rows", "district = 'north'");
    row.put("masked", List.of("phone"));
    row.put("cannot_log_in", "the account is disabled");
    MadeUpSweeps.rows = List.of(row);
    assertThat(Program.run("sweep", "person", "swept", "ines", "--width", "160").out)
        .startsWith("ines has 1 account on 1 server and 1 holding")
        .contains("masked; on-request; rows filtered; the account is disabled");
    assertThat(MadeUpSweeps.question).isEqualTo(new Question.Person("ines"));
    Program csv = Program.run("sweep", "person", "swept", "ines", "--format", "csv");
    assertThat(csv.out.lines().toList().get(1))
        .contains(
            "p1,", "\"district = 'north'\"".replace("\"", ""), "phone", "the account is disabled");
  }

  @Test
  void aLongListIsCutAndSaysSo() {
    List<Map<String, Object>> many = new ArrayList<>();
    for (int at = 0; at < 75; at++) {
      many.add(right(null, "a", "user_" + at, "s.a"));
    }
    MadeUpSweeps.rows = many;
    assertThat(Program.run("sweep", "who", "swept", "--object", "s.a").out)
        .startsWith("75 accounts of 75 people on 1 server may select on s.a")
        .contains("user_59")
        .doesNotContain("user_60")
        .contains("15 more accounts; --format csv has all");
  }

  @Test
  void changesAreCountedAndListed() {
    Map<String, Object> opened = right("p1", "a", "ines", "s.a");
    opened.put("surveyed", "2026-11-20T10:00:00Z");
    opened.put("change", "opened");
    Map<String, Object> closed = new LinkedHashMap<>(opened);
    closed.put("change", "closed");
    closed.put("columns", List.of("phone"));
    Map<String, Object> altered = new LinkedHashMap<>(opened);
    altered.put("change", "altered");
    MadeUpSweeps.rows = List.of(opened, closed, altered);
    Program changed = Program.run("sweep", "changed", "swept", "--since", "2026-11-01");
    assertThat(changed.out)
        .startsWith("3 rights changed since 2026-11-01: 1 opened, 1 closed, 1 altered")
        .contains("2026-11-20   a   opened", "ines (p1)", "select s.a [phone]");
    assertThat(MadeUpSweeps.question)
        .isEqualTo(new Question.Changed(Instant.parse("2026-11-01T00:00:00Z")));
    MadeUpSweeps.rows = List.of();
    MadeUpSweeps.servers = new Servers(2, 1, null);
    Program nothing = Program.run("sweep", "changed", "swept", "--since", "2026-11-01");
    assertThat(nothing.code).isEqualTo(1);
    assertThat(nothing.out).startsWith("nothing changed since 2026-11-01");
    assertThat(nothing.err).contains("1 server could not be read anew");
  }

  @Test
  void withoutTheEngineItSaysWhereItBelongs() {
    assertThatThrownBy(() -> new Elsewhere("2g", List.of(folder)).run("sweep", List.of("--help")))
        .hasMessageContaining("fiador-sweep: unpack it where Fiador was unpacked");
  }
}
