package fiador.sweep;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.effects.RandomAccess;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.work.sweeping.LabelRule;
import fiador.work.sweeping.Outcome;
import fiador.work.sweeping.Sweeps.Question;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;

/** Sweeps of random estates; more of them: {@code -Dfiador.seeds=200 -Dfiador.seed=1000}. */
class SweepTest {
  private static final int SEEDS = 4 * Integer.getInteger("fiador.seeds", 6);
  private static final int FIRST = Integer.getInteger("fiador.seed", 1);

  @TempDir Path folder;
  private Swept swept;

  @BeforeEach
  void folder() throws Exception {
    swept = new Swept(folder);
  }

  @Test
  void rowsAreThoseOfTheCommandsForEachServer() throws Exception {
    List<String> servers = new ArrayList<>();
    swept.people =
        new Identities(
            List.of(
                new Identity("p0", "Ines Duarte", false, null, null, List.of("u0")),
                new Identity("p1", "Rui Teles", true, null, null, List.of("u1", "U2"))));
    for (int seed = FIRST; seed < FIRST + SEEDS; seed++) {
      servers.add("n" + seed);
      boolean hosts = seed % 4 == 0;
      swept.survey("n" + seed, hosts ? RandomAccounts.of(seed) : RandomAccess.of(seed));
    }
    Outcome outcome = swept.sweep();
    assertThat(outcome.failed()).isEmpty();
    assertThat(outcome.worked()).isEqualTo(SEEDS);
    for (String server : servers) {
      assertThat(swept.keptHoldings(server)).as(server).isEqualTo(swept.holdings(server));
      assertThat(swept.keptFindings(server)).as(server).isEqualTo(swept.findings(server));
    }
    assertThat(swept.query("select account from accounts where account like '%@10.%'"))
        .isNotEmpty();
    assertThat(outcome.holdings())
        .isEqualTo(swept.query("select sum(holdings)::bigint as n from servers").get(0).get("n"));
  }

  /**
   * Of a sweep by hand, of any size: {@code -Dfiador.swept=FOLDER}, with surveys and swept in it.
   */
  @Test
  @EnabledIfSystemProperty(named = "fiador.swept", matches = ".+")
  void rowsOfASweepThatIsThereAreThoseOfTheCommands() throws Exception {
    swept = new Swept(Path.of(System.getProperty("fiador.swept")));
    long rows = 0;
    List<String> servers = new ArrayList<>();
    for (Map<String, Object> row : swept.query("select server, swept from servers")) {
      servers.add(row.get("server").toString());
      swept.now = ((OffsetDateTime) row.get("swept")).toInstant();
    }
    for (String server : servers) {
      List<String> kept = swept.keptHoldings(server);
      assertThat(kept.equals(swept.holdings(server))).as(server).isTrue();
      rows += kept.size();
      assertThat(swept.keptFindings(server)).as(server).isEqualTo(swept.findings(server));
    }
    System.out.println(rows + " rows of " + servers.size() + " servers");
  }

  @Test
  void onlyWhatChangedIsWorkedOutAgainAndTheDifferenceIsTold() throws Exception {
    for (int seed = 1; seed <= 12; seed++) {
      swept.survey("n" + seed, RandomAccess.of(FIRST * 100L + seed));
    }
    swept.sweep();
    assertThat(swept.sweep().worked()).isZero();
    Map<String, List<String>> before =
        Map.of("n2", swept.holdings("n2"), "n3", swept.holdings("n3"));
    swept.survey("n2", RandomAccess.of(FIRST * 100L + 51));
    swept.survey("n3", RandomAccess.of(FIRST * 100L + 52));
    Files.delete(swept.surveys.resolve("n4.survey.jsonl"));
    Outcome outcome = swept.sweep();
    assertThat(outcome.worked()).isEqualTo(2);
    assertThat(outcome.kept()).isEqualTo(9);
    assertThat(outcome.gone()).containsExactly("n4");
    assertThat(swept.query("select server from servers")).hasSize(11);
    for (String server : before.keySet()) {
      assertThat(swept.keptHoldings(server)).isEqualTo(swept.holdings(server));
      Set<String> then = whats(before.get(server));
      Set<String> now = whats(swept.holdings(server));
      Set<String> opened = new TreeSet<>(now);
      opened.removeAll(then);
      Set<String> closed = new TreeSet<>(then);
      closed.removeAll(now);
      assertThat(changes(server, "opened")).as(server).isEqualTo(opened);
      assertThat(changes(server, "closed")).as(server).isEqualTo(closed);
    }
    assertThat(swept.query("select distinct server from changes")).hasSize(2);
    assertThat(swept.ask(new Question.Changed(Instant.EPOCH)))
        .hasSameSizeAs(swept.query("select * from changes"));
    assertThat(swept.ask(new Question.Changed(Instant.parse("2031-01-01T00:00:00Z")))).isEmpty();
  }

  /** Of rows, what they are rights to, and whose. */
  private static Set<String> whats(List<String> lines) {
    return lines.stream()
        .map(
            line ->
                line.replaceAll(
                        "(, )?(cannot_log_in|grantable|state|rows|masked)=[^=]*(?=, [a-z_]+=|})",
                        "")
                    .replaceAll("\\{, ", "{"))
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private Set<String> changes(String server, String change) throws Exception {
    return new TreeSet<>(
        swept.lines(
            """
            select account as "user", privilege, kind, object, column_names as columns
            from changes where server = '%s' and change = '%s'"""
                .formatted(server, change)));
  }

  @Test
  void aBrokenSurveyIsToldAndTheOthersGoOn() throws Exception {
    swept.survey("a", RandomAccess.of(1));
    swept.survey("b", RandomAccess.of(2));
    swept.survey("c", RandomAccess.of(3));
    swept.sweep();
    List<String> old = swept.keptHoldings("b");
    Path file = swept.surveys.resolve("b.survey.jsonl");
    String text = Files.readString(file);
    Files.writeString(file, text.substring(0, text.length() / 2));
    Files.writeString(swept.surveys.resolve("d.survey.jsonl"), "nothing of that kind");
    swept.survey("c", RandomAccess.of(4));
    Outcome outcome = swept.sweep();
    assertThat(outcome.worked()).isEqualTo(1);
    assertThat(outcome.failed()).extracting(Outcome.Failed::server).containsExactly("b", "d");
    assertThat(outcome.failed().get(0).file()).endsWith("b.survey.jsonl");
    assertThat(outcome.failed().get(0).why()).contains("cut off");
    assertThat(swept.keptHoldings("c")).isEqualTo(swept.holdings("c"));
    // what was known stays, and says that nothing newer is
    assertThat(swept.keptHoldings("b")).isEqualTo(old);
    assertThat(swept.lines("select server from servers where failed is not null"))
        .containsExactly("{server=b}", "{server=d}");
    Files.writeString(file, text);
    assertThat(swept.sweep().worked()).isEqualTo(1);
    assertThat(swept.lines("select server from servers where failed is not null"))
        .containsExactly("{server=d}");
    Files.delete(swept.surveys.resolve("d.survey.jsonl"));
    assertThat(swept.sweep().gone()).containsExactly("d");
    assertThat(swept.lines("select server from servers")).hasSize(3);
  }

  @Test
  void whatASweepLeftHalfDoneIsNotBelievedAndDoneAgain() throws Exception {
    swept.survey("a", RandomAccess.of(1));
    swept.survey("b", RandomAccess.of(5));
    swept.sweep();
    Question anything = new Question.Who("", "*", "select", "b", true);
    assertThat(swept.ask(anything)).isNotEmpty();
    // as if it had been killed after the first step of putting b in its place
    remove(swept.into.resolve("servers/server=b"));
    Files.delete(swept.into.resolve("_sweep/state/server=b.json"));
    remove(swept.into.resolve("spans/server=b"));
    assertThat(swept.ask(anything)).isEmpty();
    Outcome outcome = swept.sweep();
    assertThat(outcome.worked()).isEqualTo(1);
    assertThat(swept.keptHoldings("b")).isEqualTo(swept.holdings("b"));
    try (var files = Files.walk(swept.into.resolve("_sweep"))) {
      assertThat(files.filter(Files::isRegularFile).map(each -> each.getFileName().toString()))
          .containsExactlyInAnyOrder("lock", "server=a.json", "server=b.json");
    }
  }

  private static void remove(Path folder) throws Exception {
    try (var files = Files.walk(folder)) {
      for (Path each : files.sorted(java.util.Comparator.reverseOrder()).toList()) {
        Files.delete(each);
      }
    }
  }

  @Test
  void namesOfServersMayBeAnything() throws Exception {
    List<String> odd =
        List.of(
            "007", "branch/north", "a=b %2F", "ilha ção", "it's", "__HIVE_DEFAULT_PARTITION__x");
    for (String name : odd) {
      swept.survey(name, RandomAccess.of(name.length()));
    }
    assertThat(swept.sweep().worked()).isEqualTo(odd.size());
    assertThat(swept.sweep().kept()).isEqualTo(odd.size());
    for (String name : odd) {
      assertThat(swept.keptHoldings(name)).as(name).isEqualTo(swept.holdings(name));
      assertThat(swept.ask(new Question.Who("", "", "select", name, true)))
          .as(name)
          .allMatch(row -> row.get("server").equals(name))
          .hasSameSizeAs(
              swept.holdings(name).stream()
                  .filter(line -> line.contains("privilege=select"))
                  .toList());
    }
  }

  @Test
  void labelsLeadToWhoReads() throws Exception {
    swept.survey("a", RandomAccess.of(1));
    swept.survey("b", RandomAccess.of(2));
    swept.labels =
        List.of(
            new LabelRule("secret", "a", "*s0"),
            new LabelRule("secret", "b", "*s1.t0.a"),
            new LabelRule("open", "", "*"));
    swept.sweep();
    for (String server : List.of("a", "b")) {
      String things = server.equals("a") ? "\\S*s0\\.\\w+" : "\\S*s1\\.t0";
      List<String> expected =
          swept.holdings(server).stream()
              .filter(
                  line ->
                      line.matches(
                          "(?s).*object="
                              + things
                              + ", privilege=select.*state=(live|on-request).*"))
              .filter(line -> !line.contains("cannot_log_in"))
              .filter(
                  line ->
                      server.equals("a")
                          || !line.contains("columns=")
                          || line.matches(".*columns=\\[a[,\\]].*"))
              .toList();
      assertThat(swept.ask(new Question.Who("secret", "", "select", server, false)))
          .as(server)
          .hasSameSizeAs(expected);
    }
    assertThat(swept.ask(new Question.Who("OPEN", "", "select", "a", true)))
        .hasSameSizeAs(
            swept.holdings("a").stream()
                .filter(line -> line.contains("privilege=select"))
                .toList());
    assertThat(swept.ask(new Question.Who("unheard", "", "select", "", true))).isEmpty();
  }

  @Test
  void nobodyElseReadsIt() throws Exception {
    swept.survey("a", RandomAccess.of(1));
    swept.sweep();
    try (var files = Files.walk(swept.into)) {
      for (Path each : files.toList()) {
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(each)))
            .as(each.toString())
            .endsWith("------");
      }
    }
  }

  @Test
  void aFolderWithoutSurveysIsRefused() {
    assertThatThrownBy(() -> swept.sweep()).hasMessageContaining("has no surveys");
    assertThatThrownBy(() -> swept.ask(new Question.Person("ines")))
        .hasMessageContaining("is no sweep");
  }
}
