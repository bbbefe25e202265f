package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import fiador.changes.wanted.Period;
import fiador.changes.wanted.Wanted;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Days and times behind what a charter gives: read as they are meant, or pointed at. */
class TimesInCharterTest {
  @TempDir Path folder;

  private Charter read(String yaml) throws Exception {
    Files.writeString(folder.resolve(CharterReader.ROOT), "fiador: 1\n" + yaml);
    return CharterReader.read(folder, name -> null);
  }

  private List<String> mistakes(String yaml) {
    return catchThrowableOfType(CharterException.class, () -> read(yaml)).mistakes().stream()
        .map(Object::toString)
        .toList();
  }

  private Period ofMember(String phrase) throws Exception {
    String roles = "roles: {reader: {}}\nusers: {ines: {roles: [" + phrase + "]}}\n";
    return read(roles).wanted().memberships().get(0).when();
  }

  @ParameterizedTest
  @CsvSource({
    "2027-01-31,2027-02-01T00:00:00Z",
    "2027-01-31 18:00,2027-01-31T18:00:00Z",
    "2027-01-31 18:00:05,2027-01-31T18:00:05Z",
    "2027-01-31T18:00Z,2027-01-31T18:00:00Z",
    "2027-01-31 18:00 +02:00,2027-01-31T16:00:00Z",
    "2027-01-31 18:00-03:00,2027-01-31T21:00:00Z",
    "2027-07-31 Europe/Lisbon,2027-07-31T23:00:00Z",
    "2027-07-31 18:00 Europe/Lisbon,2027-07-31T17:00:00Z",
  })
  void anEndIsADayWithAllItsHoursOrAMoment(String written, Instant end) throws Exception {
    assertThat(ofMember("reader until " + written)).isEqualTo(new Period(null, end));
  }

  @Test
  void aBeginningIsTheFirstMomentOfItsDay() throws Exception {
    assertThat(ofMember("reader with admin option from 2027-01-01 until 2027-01-31"))
        .isEqualTo(
            new Period(
                Instant.parse("2027-01-01T00:00:00Z"), Instant.parse("2027-02-01T00:00:00Z")));
  }

  @Test
  void sentencesHaveTimesToo() throws Exception {
    Wanted wanted =
        read("""
                roles:
                  reader:
                    may:
                      - select (from, until) on s.until until 2027-01-31 18:00
                      - insert on s.x, s.y with grant option from 2027-01-01
                      - select on every table in s, now and later, made by m until 2027-01-31
                """)
            .wanted();
    assertThat(wanted.grants())
        .extracting(grant -> grant.text() + grant.when().text())
        .containsExactly(
            "select (from, until) on s.until until 2027-01-31 18:00",
            "insert on s.x from 2027-01-01",
            "insert on s.y from 2027-01-01",
            "select on every table in s until 2027-01-31");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "reader until 2027-02-30|1:37: found \"2027-02-30\", expected a day such as 2027-03-31",
        "reader until 2027-01-31 25:00|1:37: found \"2027-01-31 25:00\", expected a day",
        "reader until 2027-01-31 18:00 Lisboa|1:37: found \"2027-01-31 18:00 Lisboa\", expected",
        "reader from 2027-01-01 until 2026-01-31|1:53: ends before it begins",
        "reader until friday|there is no role \"reader until friday\"",
      })
  void aBadTimeIsPointedAt(String phrase, String message) {
    String yaml = "roles: {reader: {}}\nusers: {ines: {roles: [" + phrase + "]}}\n";
    assertThat(mistakes(yaml)).hasSize(1).first().asString().contains(message.replace("1:", "3:"));
  }

  @Test
  void aSentenceWithoutItsDaySaysSo() {
    assertThat(mistakes("roles: {reader: {may: [\"select on s.x until friday\"]}}\n"))
        .hasSize(1)
        .first()
        .asString()
        .contains("behind \"until\" a day or a time is missing, such as 2027-03-31");
  }

  @Test
  void aRoleMayStandTwiceInAListForDifferentTimes() throws Exception {
    String yaml =
        """
        roles: {reader: {}}
        users: {ines: {roles: [reader until 2027-01-31, reader from %s]}}
        """;
    assertThat(read(yaml.formatted("2027-03-01")).wanted().memberships()).hasSize(2);
    assertThat(mistakes(yaml.formatted("2027-01-31"))).hasSize(1);
  }

  @Test
  void dutiesThatFollowEachOtherAreNoConflict() throws Exception {
    String yaml =
        """
        roles: {bills: {}, approves: {}, both: {includes: [approves from 2027-02-01]}}
        users: {ines: {roles: [bills until %s, both]}}
        duty_conflicts: {bill_and_approve: [bills, approves]}
        """;
    assertThat(read(yaml.formatted("2027-01-31")).wanted().memberships()).hasSize(3);
    assertThat(mistakes(yaml.formatted("2027-02-01")))
        .hasSize(1)
        .first()
        .asString()
        .contains("ines holds bills and approves");
  }

  @Test
  void whatIsWrittenIsReadAsTheSameMoment() throws Exception {
    Random random = new Random(7);
    for (int i = 0; i < 200; i++) {
      long second = 1_700_000_000L + random.nextInt(200_000_000);
      Instant end =
          Instant.ofEpochSecond(random.nextBoolean() ? second - second % 86_400 : second)
              .plusNanos(random.nextInt(3) == 0 ? random.nextInt(1_000_000) * 1000L : 0);
      Period period = new Period(end.minusSeconds(random.nextInt(200_000) + 1), end);
      assertThat(ofMember("reader" + period.text())).isEqualTo(period);
    }
  }
}
