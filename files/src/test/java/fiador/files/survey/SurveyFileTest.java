package fiador.files.survey;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import fiador.effects.Holdings;
import fiador.grants.Access;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SurveyFileTest {
  @TempDir Path folder;

  @Test
  void whatDecidesOnRowsAndColumnsComesBackTheSame() throws Exception {
    Access before = SomeEstates.withPolicies();
    String text = written(before);
    Access after = SurveyReader.read("x", new ByteArrayInputStream(bytes(text)));
    assertThat(after.sights()).isEqualTo(before.sights());
    assertThat(after.sights().kept()).hasSize(1);
    assertThat(after.tree().columnType(3, 0)).isEqualTo(before.tree().columnType(3, 0));
    assertThat(written(after)).isEqualTo(text);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"guard\":3 | \"guard\":99 | there is no node 99",
        "\"roles\":[2] | \"roles\":[77] | there is no principal 77",
        "\"on\":[2,4] | \"on\":[2,44] | there is no thing 44",
        "\"open_to\":[1] | \"open_to\":[-1] | there is no principal -1",
        "\"as_made\":false | \"as_made\":\"no\" | must be true or false",
        "\"key\":\"who\" | \"kee\":\"who\" | the field \"kee\" is not known",
        "\"values\":[ | \"values\":5,\"x\":[ | \"values\" must be a list",
        "\"commands\":[\"select\"] | \"commands\":[\"selct\"] | there is no privilege selct"
      })
  void damagedLinesAboutPoliciesAreNamed(String from, String to, String message) throws Exception {
    String text = written(SomeEstates.withPolicies());
    assertThat(text).contains(from);
    Throwable wrong =
        catchThrowable(
            () -> SurveyReader.read("x", new ByteArrayInputStream(bytes(text.replace(from, to)))));
    assertThat(wrong).isInstanceOf(SurveyException.class).hasMessageContaining(message);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"as_is\":true | \"as_is\":1 | must be true or false",
        "\"from\":\"a\" | \"from\":\"z\" | has no column z",
        "\"column\":\"x\" | \"column\":\"y\" | has no column y",
        "\"from\":\"a\", | '' | needs \"column\""
      })
  void damagedLinesAboutLineageAreNamed(String from, String to, String message) throws Exception {
    String text = written(SomeEstates.rich());
    assertThat(text).contains(from);
    Throwable wrong = catchThrowable(() -> read(text.replace(from, to)));
    assertThat(wrong).isInstanceOf(SurveyException.class).hasMessageContaining(message);
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  private static String written(Access access) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    SurveyWriter.write(access, out);
    return out.toString(StandardCharsets.UTF_8);
  }

  private static Access read(String text) throws SurveyException, IOException {
    return SurveyReader.read(
        "x.jsonl", new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "2026-11-28T05:38:39Z",
        "2026-11-28T05:38:39.9Z",
        "2026-02-28T23:59:59.980707245Z",
        "2024-02-29T00:00:00.000001Z",
        "2026-11-28T06:38:39+01:00"
      })
  void everyFormOfATimeIsReadAsTheLibraryReadsIt(String time) throws Exception {
    String text =
        written(SomeEstates.rich())
            .replaceFirst("\"taken\":\"[^\"]*\"", "\"taken\":\"" + time + "\"");
    assertThat(read(text).about().taken())
        .isEqualTo(java.time.OffsetDateTime.parse(time).toInstant());
  }

  @ParameterizedTest
  @ValueSource(strings = {"2026-13-28T05:38:39Z", "2026-11-28T05:38:3Z", "2026-02-30T00:00:00.Z"})
  void aTimeThatIsNoneIsRefused(String time) throws Exception {
    String text =
        written(SomeEstates.rich())
            .replaceFirst("\"taken\":\"[^\"]*\"", "\"taken\":\"" + time + "\"");
    assertThat(catchThrowable(() -> read(text)))
        .isInstanceOf(SurveyException.class)
        .hasMessageContaining("is no point in time");
  }

  @Test
  void whatIsWrittenIsReadBackTheSame() throws Exception {
    String text = written(SomeEstates.rich());
    Access again = read(text);
    assertThat(written(again)).isEqualTo(text);
    assertThat(new Holdings(again, Clock.systemUTC(), true).of(1))
        .hasSameSizeAs(new Holdings(SomeEstates.rich(), Clock.systemUTC(), true).of(1));
    assertThat(again.principals().name(1)).isEqualTo("ines \"x\"\n");
  }

  @Test
  void aFileCutAnywhereIsNeverTakenForAWholeOne() throws Exception {
    String text = written(SomeEstates.rich());
    for (int cut = 0; cut < text.length() - 1; cut++) {
      String part = text.substring(0, cut);
      Throwable thrown = catchThrowable(() -> read(part));
      assertThat(thrown).as("cut at %d", cut).isInstanceOf(SurveyException.class);
      assertThat(thrown.getMessage()).startsWith("x.jsonl");
    }
  }

  @Test
  void aLineTooFewIsNoticed() throws Exception {
    String text = written(SomeEstates.rich());
    String without = text.replaceFirst("(?m)^\\{\"grant\".*\\R", "");
    assertThat(catchThrowable(() -> read(without))).hasMessageContaining("some are missing");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"hello\":1}                                          | begins with \"fiador_survey\"",
        "[1]                                                    | one JSON object",
        "{\"fiador_survey\":7}                                  | format 7",
        "{\"fiador_survey\":1,\"kind\":\"oz\"}                  | kind of server \"oz\"",
        "{\"fiador_survey\":1,\"kind\":\"hsqldb\",\"taken\":\"x\"} | no point in time",
        "not json                                               | no survey file",
      })
  void whatIsNoSurveySaysSo(String text, String message) {
    assertThat(catchThrowable(() -> read(text))).hasMessageContaining(message);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"grant\":[\"fly\"],\"on\":0,\"to\":0}        | no privilege fly",
        "{\"grant\":[\"select\"],\"on\":900,\"to\":0}   | no node 900",
        "{\"grant\":[\"select\"],\"on\":0}              | needs \"on\" and \"to\"",
        "{\"node\":77,\"in\":0}                         | node 6 was expected",
        "{\"member\":1,\"of\":2,\"x\":1}                | field \"x\" is not known",
        "{\"principal\":1}                              | principal 5 was expected",
        "{\"view\":1,\"reads\":3,\"columns\":[\"zz\"]}  | no column zz",
      })
  void aBadLineIsRefusedWithItsNumber(String line, String message) throws IOException {
    String text = written(SomeEstates.rich());
    int end = text.indexOf("{\"end\"");
    String broken = text.substring(0, end) + line + "\n" + text.substring(end);
    long number = text.substring(0, end).lines().count() + 1;
    assertThat(catchThrowable(() -> read(broken)))
        .isInstanceOf(SurveyException.class)
        .hasMessageStartingWith("x.jsonl:" + number + ": ")
        .hasMessageContaining(message);
  }

  @Test
  void damagedBytesNeverCrashTheReader() throws Exception {
    byte[] text = written(SomeEstates.rich()).getBytes(StandardCharsets.UTF_8);
    Random random = new Random(5);
    for (int i = 0; i < 3000; i++) {
      byte[] damaged = text.clone();
      for (int hits = random.nextInt(4); hits >= 0; hits--) {
        damaged[random.nextInt(damaged.length)] = (byte) random.nextInt(256);
      }
      Throwable thrown =
          catchThrowable(() -> SurveyReader.read("x", new ByteArrayInputStream(damaged)));
      assertThat(thrown == null || thrown instanceof SurveyException).as("%s", thrown).isTrue();
    }
  }

  @Test
  void aWriteThatFailsLeavesTheOldFile() throws Exception {
    Path file = folder.resolve("s.jsonl");
    SurveyWriter.write(SomeEstates.rich(), file);
    String before = Files.readString(file);
    Throwable thrown =
        catchThrowable(
            () ->
                fiador.files.WholeFile.write(
                    file,
                    out -> {
                      out.write(1);
                      throw new IOException("disk full");
                    }));
    assertThat(thrown).hasMessage("disk full");
    assertThat(Files.readString(file)).isEqualTo(before);
    try (var files = Files.list(folder)) {
      assertThat(files).hasSize(1);
    }
  }

  @Test
  void whatIsNoOrdinaryFileIsNeverReplaced() throws Exception {
    Path other = Files.createDirectory(folder.resolve("not-a-file"));
    Throwable thrown = catchThrowable(() -> SurveyWriter.write(SomeEstates.rich(), other));
    assertThat(thrown).hasMessageContaining("no ordinary file");
    assertThat(other).isDirectory();
  }

  @Test
  void aLinkStaysALinkAndItsTargetIsWritten() throws Exception {
    Path target = Files.writeString(folder.resolve("target.jsonl"), "old");
    Path link = Files.createSymbolicLink(folder.resolve("link.jsonl"), target);
    SurveyWriter.write(SomeEstates.rich(), link);
    assertThat(Files.isSymbolicLink(link)).isTrue();
    assertThat(Files.readString(target)).startsWith("{\"fiador_survey\"");
  }
}
