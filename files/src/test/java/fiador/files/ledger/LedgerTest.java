package fiador.files.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.effects.RandomAccess;
import fiador.estate.NodeKind;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.grants.Origin;
import fiador.grants.TinyEstate;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LedgerTest {
  private static final Instant FIRST = Instant.parse("2026-03-01T04:00:00Z");

  @TempDir Path folder;

  private Path file() {
    return folder.resolve("kept/ledger.db");
  }

  static Access at(Access access, Duration later) {
    Origin about = access.about();
    Instant taken = FIRST.plus(later);
    return new Access(
        new Origin("box", about.kind(), about.version(), taken),
        access.rules(),
        access.estate(),
        access.memberships(),
        access.grants(),
        access.denials(),
        access.columnSets(),
        access.reads(),
        access.later(),
        access.patterns(),
        access.accounts(),
        access.sights(),
        access.seen());
  }

  static String text(Access access) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    SurveyWriter.write(access, out);
    return out.toString(java.nio.charset.StandardCharsets.UTF_8);
  }

  private static TinyEstate large(int tables) {
    TinyEstate tiny = TinyEstate.postgresql().users("ines").node(NodeKind.SCHEMA, "d.s");
    for (int i = 0; i < tables; i++) {
      tiny.node(NodeKind.TABLE, "d.s.t" + i, "a", "b");
    }
    for (int i = 0; i < tables; i++) {
      tiny.grant("ines", "select", "d.s.t" + i);
    }
    return tiny;
  }

  private long count(String sql) throws Exception {
    try (Connection db = DriverManager.getConnection("jdbc:sqlite:" + file());
        Statement statement = db.createStatement()) {
      return statement.executeQuery(sql).getLong(1);
    }
  }

  @Test
  void whatWasRecordedIsReadBackToTheLetter() throws Exception {
    try (Ledger ledger = Ledger.open(file())) {
      for (int day = 0; day < 20; day++) {
        Access access = at(RandomAccess.of(day), Duration.ofDays(day));
        assertThat(ledger.record(access)).isTrue();
      }
    }
    try (Ledger ledger = Ledger.open(file())) {
      List<Ledger.Survey> surveys = ledger.surveys("box");
      assertThat(surveys).hasSize(20);
      for (int day = 0; day < 20; day++) {
        Access access = ledger.read(surveys.get(day));
        assertThat(text(access)).isEqualTo(text(at(RandomAccess.of(day), Duration.ofDays(day))));
        assertThat(access.about().recalled()).isTrue();
      }
    }
  }

  @Test
  void aDailySurveyOfWhatDidNotChangeCostsNextToNothing() throws Exception {
    Access estate = large(3000).build();
    try (Ledger ledger = Ledger.open(file())) {
      ledger.record(at(estate, Duration.ZERO));
      long size = Files.size(file());
      for (int day = 1; day <= 365; day++) {
        assertThat(ledger.record(at(estate, Duration.ofDays(day)))).isFalse();
      }
      assertThat(Files.size(file()) - size).isLessThan(365 * 600);
      assertThat(ledger.turns("box")).hasSize(1);
      assertThat(ledger.surveys("box")).hasSize(366);
    }
  }

  @Test
  void aSmallChangeKeepsMostPieces() throws Exception {
    try (Ledger ledger = Ledger.open(file())) {
      ledger.record(at(large(3000).build(), Duration.ZERO));
      long pieces = count("select count(*) from piece");
      assertThat(pieces).isGreaterThan(10);
      Access more = large(3000).grant("ines", "insert", "d.s.t1500").build();
      assertThat(ledger.record(at(more, Duration.ofDays(1)))).isTrue();
      assertThat(count("select count(*) from piece") - pieces).isLessThanOrEqualTo(4);
      assertThat(text(ledger.read(ledger.surveys("box").get(1))))
          .isEqualTo(text(at(more, Duration.ofDays(1))));
    }
  }

  @Test
  void oneSurveyTakenInTwiceIsThereOnce() throws Exception {
    try (Ledger ledger = Ledger.open(file())) {
      ledger.record(at(large(3).build(), Duration.ZERO));
      ledger.record(at(large(3).build(), Duration.ZERO));
      assertThat(ledger.surveys("box")).hasSize(1);
    }
  }

  @Test
  void aTurnTellsBetweenWhichSurveysAndThroughWhichChange() throws Exception {
    try (Ledger ledger = Ledger.open(file())) {
      ledger.record(at(large(3).build(), Duration.ZERO));
      ledger.record(at(large(3).build(), Duration.ofHours(1)));
      long id =
          ledger
              .changes()
              .begins(
                  "box", "settle", "rui", FIRST.plusSeconds(3700), List.of("GRANT a;b", "x\ny"));
      ledger.changes().ended(id, FIRST.plusSeconds(3800));
      ledger.record(at(large(4).build(), Duration.ofHours(2)));
      ledger.record(at(large(3).build(), Duration.ofHours(3)));
      List<Ledger.Turn> turns = ledger.turns("box");
      assertThat(turns).hasSize(3);
      assertThat(turns.get(1).last().taken()).isEqualTo(FIRST.plusSeconds(3600));
      assertThat(turns.get(1).first().taken()).isEqualTo(FIRST.plusSeconds(7200));
      assertThat(turns.get(1).by())
          .singleElement()
          .satisfies(
              change -> {
                assertThat(change.by()).isEqualTo("rui");
                assertThat(change.ended()).isEqualTo(FIRST.plusSeconds(3800));
                assertThat(change.statements()).containsExactly("GRANT a;b", "x\ny");
              });
      assertThat(turns.get(2).by()).isEmpty();
      assertThat(turns.get(2).first().state()).isEqualTo(turns.get(0).first().state());
      assertThat(ledger.at("box", FIRST.plusSeconds(10_000)).orElseThrow().taken())
          .isEqualTo(FIRST.plusSeconds(7200));
      assertThat(ledger.at("box", FIRST.minusSeconds(1))).isEmpty();
    }
  }

  @Test
  void whatWasAlteredInTheFileIsNotTakenForTrue() throws Exception {
    try (Ledger ledger = Ledger.open(file())) {
      ledger.record(at(large(300).build(), Duration.ZERO));
      ledger.record(at(large(301).build(), Duration.ofDays(1)));
      try (Connection db = DriverManager.getConnection("jdbc:sqlite:" + file());
          Statement statement = db.createStatement()) {
        statement.execute(
            "update piece set packed = (select packed from piece order by id limit 1)");
      }
      assertThatThrownBy(() -> ledger.read(ledger.surveys("box").get(0)))
          .hasMessageContaining("was altered");
    }
  }

  @Test
  void aCopyTakenWhileItIsInUseHasAllThatWasRecorded() throws Exception {
    Path copy = folder.resolve("copy/kept.db");
    Files.createDirectories(copy.getParent());
    Access access = large(20).build();
    try (Ledger ledger = Ledger.open(file())) {
      ledger.record(at(access, Duration.ZERO));
      try (Connection beside = DriverManager.getConnection("jdbc:sqlite:" + file());
          Statement sql = beside.createStatement()) {
        sql.execute("vacuum into '" + copy + "'");
      }
      ledger.record(at(access, Duration.ofHours(1)));
    }
    try (Ledger ledger = Ledger.open(copy)) {
      List<Ledger.Survey> surveys = ledger.surveys("box");
      assertThat(surveys).hasSize(1);
      assertThat(text(ledger.read(surveys.get(0)))).isEqualTo(text(at(access, Duration.ZERO)));
    }
  }

  @Test
  void aFileOfAnotherKindIsLeftAlone() throws Exception {
    Path other = folder.resolve("notes.txt");
    Files.writeString(other, "these are my notes, and they are long enough to be something");
    assertThatThrownBy(() -> Ledger.open(other))
        .isInstanceOf(LedgerException.class)
        .hasMessageContaining("is no ledger");
    assertThat(Files.readString(other)).startsWith("these are my notes");
    assertThatThrownBy(() -> Ledger.open("jdbc:mariadb://x/y", "a", ""))
        .hasMessageContaining("jdbc:postgresql:");
  }

  /** Records surveys until it is killed, and says each when it is recorded. */
  public static final class Recording {
    private Recording() {}

    public static void main(String[] args) throws Exception {
      try (Ledger ledger = Ledger.open(Path.of(args[0]))) {
        int day = ledger.surveys("box").size();
        System.out.println(0);
        for (; ; day++) {
          ledger.record(at(large(200 + day).build(), Duration.ofDays(day)));
          System.out.println(day + 1);
        }
      }
    }
  }

  @Test
  void nothingThatWasRecordedIsLostWhenKilled() throws Exception {
    Random random = new Random(5);
    int known = 0;
    Path said = folder.resolve("said");
    for (int round = 0; round < 8; round++) {
      Process process =
          new ProcessBuilder(
                  Path.of(System.getProperty("java.home"), "bin/java").toString(),
                  "-XX:TieredStopAtLevel=1",
                  "-cp",
                  System.getProperty("java.class.path"),
                  Recording.class.getName(),
                  file().toString())
              .redirectError(ProcessBuilder.Redirect.DISCARD)
              .redirectOutput(said.toFile())
              .start();
      // killed at some point after some records, however fast the machine is
      int records = 2 + random.nextInt(4);
      while (process.isAlive() && Files.readString(said).lines().count() < records) {
        Thread.sleep(1);
      }
      Thread.sleep(random.nextInt(40));
      process.destroyForcibly().waitFor();
      for (String line : Files.readString(said).lines().toList()) {
        known = line.matches("\\d{1,9}") ? Math.max(known, Integer.parseInt(line)) : known;
      }
      try (Ledger ledger = Ledger.open(file())) {
        List<Ledger.Survey> surveys = ledger.surveys("box");
        assertThat(surveys).hasSizeGreaterThanOrEqualTo(known);
        for (int day = Math.max(0, surveys.size() - 3); day < surveys.size(); day++) {
          assertThat(text(ledger.read(surveys.get(day))))
              .isEqualTo(text(at(large(200 + day).build(), Duration.ofDays(day))));
        }
      }
    }
    assertThat(known).isGreaterThanOrEqualTo(8);
  }

  /** Neither classes nor logs are a matter of an address, and no secret stands in a complaint. */
  @Test
  void anAddressSaysWhereTheLedgerIsAndNothingElse() {
    for (String url :
        List.of(
            "jdbc:postgresql://127.0.0.1:1/l?socketFactory=evil.Factory",
            "jdbc:postgresql://127.0.0.1:1/l?loggerFile=/tmp/x&sslmode=require")) {
      assertThatThrownBy(() -> Ledger.open(url, "me", "s3cret"))
          .isInstanceOf(LedgerException.class)
          .hasMessageContaining("is not allowed");
    }
    assertThatThrownBy(() -> Ledger.open("jdbc:other://me:s3cret@h/l", "me", "s3cret"))
        .isInstanceOf(LedgerException.class)
        .hasMessageNotContaining("s3cret");
  }
}
