package fiador.files.ready;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.columns.ColumnSink;
import fiador.effects.RandomAccess;
import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.Secret;
import fiador.files.survey.SomeEstates;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.AccessColumns;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Origin;
import fiador.grants.Terms;
import fiador.grants.rules.KnownHouses;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A ready form answers as its survey does, or is not believed. */
final class ReadySurveysTest {
  @TempDir Path folder;
  private Path survey;
  private Path ready;
  private final List<String> notes = new ArrayList<>();

  @BeforeEach
  void place() {
    survey = folder.resolve("waterworks.survey.jsonl");
    ready = ReadySurveys.of(survey);
  }

  /** Several pieces of nearly every column. */
  private static Access large() {
    AccessBuilder builder = new AccessBuilder();
    int tables = 4500;
    for (int i = 1; i <= 300; i++) {
      boolean user = i > 60;
      PrincipalKind kind = user ? PrincipalKind.USER : PrincipalKind.ROLE;
      builder.estate().principal(kind, (user ? "person" : "crew") + i, 0, -1);
      Instant until = i % 7 == 0 ? Instant.ofEpochSecond(4_000_000_000L + i, i) : null;
      String comment = i % 3 == 0 ? "of desk " + i : null;
      builder
          .estate()
          .account(
              i,
              new Account(i % 5 == 0, until, comment, false, Secret.SOUND)
                  .withLimits(i % 3 == 0 ? Map.of() : Map.of(AccountLimit.values()[i % 6], i)));
      if (user) {
        builder.member(i, 1 + i % 60, Membership.PLAIN, i % 4 == 0 ? 3 : -1);
      }
    }
    builder.estate().node(-1, NodeKind.SERVER, "s", -1);
    builder.estate().node(0, NodeKind.DATABASE, "d", 1);
    builder.estate().node(1, NodeKind.SCHEMA, "s", 1);
    for (int i = 0; i < tables; i++) {
      int table = builder.estate().node(2, NodeKind.TABLE, "meter_" + i, 1 + i % 60);
      builder.estate().columns(List.of("id", "reading_" + i % 50));
      int set = i % 9 == 0 ? builder.columnSets().intern(i % 2) : ColumnSets.WHOLE;
      builder.grant(1 + i % 60, table, Terms.of(1 + i % 2, 0), set, -1);
      builder.grant(1 + (i + 7) % 60, table, Terms.of(1, i % 11 == 0 ? 1 : 0), -1, 5);
    }
    Instant taken = Instant.parse("2026-03-03T10:00:00.123456Z");
    Origin about = new Origin("waterworks", "postgresql", "18", taken, "one");
    return builder.build(about, KnownHouses.of("postgresql", "18"));
  }

  private static String text(Access access) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    SurveyWriter.write(access, out);
    return out.toString(StandardCharsets.UTF_8);
  }

  /** What the survey says and what is found by asking from the other side. */
  private static String all(Access access) throws IOException {
    StringBuilder all = new StringBuilder(text(access));
    for (int id = 0; id < access.principals().size(); id++) {
      all.append(access.principals().named(access.principals().name(id)));
      all.append(Arrays.toString(access.memberships().membersOf().run(id)));
      all.append(Arrays.toString(access.memberships().rolesOf().run(id)));
      all.append(Arrays.toString(access.grants().byGrantee().run(id)));
      all.append(Arrays.toString(access.denials().byGrantee().run(id)));
      all.append(Arrays.toString(access.tree().owned().run(id)));
    }
    for (int node = 0; node < access.tree().size(); node++) {
      all.append(access.tree().named(access.tree().name(node)).size());
      all.append(Arrays.toString(access.tree().children().run(node)));
      all.append(Arrays.toString(access.grants().byNode().run(node)));
      all.append(Arrays.toString(access.denials().byNode().run(node)));
      all.append(Arrays.toString(access.reads().byView().run(node)));
    }
    for (int slot = 0; slot < 40_000; slot++) {
      all.append(access.names().find("no such name " + slot));
    }
    return all.toString();
  }

  /** Asks; makes the ready form afterwards where there is something to make. */
  private String ask() throws SurveyException, IOException {
    List<Runnable> afterwards = new ArrayList<>();
    notes.clear();
    String text = all(new ReadySurveys(notes::add, afterwards::add).read(survey));
    afterwards.forEach(Runnable::run);
    return text;
  }

  /** Asks without making anything. */
  private String look() throws SurveyException, IOException {
    notes.clear();
    return all(new ReadySurveys(notes::add, later -> {}).read(survey));
  }

  private String prepared(Access access) throws Exception {
    Files.deleteIfExists(ready);
    SurveyWriter.write(access, survey);
    String text = ask();
    assertThat(notes).isEmpty();
    assertThat(ready).isRegularFile();
    return text;
  }

  @Test
  void theSecondQuestionIsAnsweredFromTheReadyForm() throws Exception {
    for (Access access :
        List.of(large(), SomeEstates.rich(), SomeEstates.withPolicies(), RandomAccess.of(3))) {
      String text = prepared(access);
      assertThat(text).startsWith(Files.readString(survey));
      List<Runnable> afterwards = new ArrayList<>();
      Access opened = new ReadySurveys(notes::add, afterwards::add).read(survey);
      assertThat(all(opened)).isEqualTo(text);
      assertThat(opened.sights()).isEqualTo(SurveyReader.read(survey).sights());
      assertThat(opened.about()).isEqualTo(access.about());
      assertThat(afterwards).isEmpty();
      assertThat(notes).isEmpty();
    }
  }

  @Test
  void everyRandomEstateComesBackAsItWas() throws Exception {
    for (long seed = 1; seed <= 60; seed++) {
      Access access = RandomAccess.of(seed);
      ByteArrayOutputStream bytes = new ByteArrayOutputStream();
      ReadyWriter writer = new ReadyWriter(bytes);
      AccessColumns.put(access, AccessColumns.Extents.of(access), writer);
      writer.end(new Stamp(1, 2, 3, 4), new byte[32]);
      Path file = Files.write(folder.resolve("form"), bytes.toByteArray());
      ReadyFile form =
          ReadyFile.open(
              // as a file that is too long to be mapped, every other time
              ReadyBytes.open(file, seed % 2 == 0 ? 0 : Integer.MAX_VALUE),
              (damaged, why) -> {
                throw new AssertionError(why);
              });
      assertThat(form.stamp()).isEqualTo(new Stamp(1, 2, 3, 4));
      assertThat(text(AccessColumns.take(form))).as("seed %d", seed).isEqualTo(text(access));
    }
  }

  @Test
  void noByteOfTheHeadMayBeAnother() throws Exception {
    String text = prepared(SomeEstates.rich());
    byte[] right = Files.readAllBytes(ready);
    int head = headAt(right);
    for (int at = 0; at < right.length; at++) {
      if (at < ReadyWriter.MARK.length || at >= head) {
        flip(right, at);
        assertThat(look()).as("byte %d", at).isEqualTo(text);
        assertThat(notes).as("byte %d", at).hasSize(1);
      }
    }
  }

  private static int headAt(byte[] form) {
    int end = form.length - ReadyWriter.TRAILER;
    return (int) java.nio.ByteBuffer.wrap(form).getLong(end);
  }

  private void flip(byte[] right, int at) throws IOException {
    byte[] wrong = right.clone();
    wrong[at] ^= (byte) (1 << at % 8);
    Files.write(ready, wrong);
  }

  @Test
  void noByteOfAnyPieceMayBeAnother() throws Exception {
    String text = prepared(SomeEstates.withPolicies());
    byte[] right = Files.readAllBytes(ready);
    int noticed = 0;
    for (int at = ReadyWriter.MARK.length; at < headAt(right); at++) {
      flip(right, at);
      assertThat(look()).as("byte %d", at).isEqualTo(text);
      noticed += notes.size();
      assertThat(ReadySurveys.verify(survey).wrong()).as("%d", at).contains("is damaged in");
    }
    // what no answer needed was not looked at
    assertThat(noticed).isBetween(headAt(right) * 3 / 4, headAt(right));
  }

  @Test
  void aPieceThatIsDamagedInTheMiddleIsMadeGoodFromTheSurvey() throws Exception {
    String text = prepared(large());
    byte[] right = Files.readAllBytes(ready);
    assertThat(right.length).isGreaterThan(1 << 17);
    int noticed = 0;
    for (int at = 500; at < headAt(right); at += right.length / 30) {
      flip(right, at);
      assertThat(ask()).as("byte %d", at).isEqualTo(text);
      if (!notes.isEmpty()) {
        noticed++;
        assertThat(notes).hasSize(1).first().asString().endsWith("made anew from the survey");
        assertThat(Files.readAllBytes(ready)).as("made anew").isEqualTo(right);
      }
    }
    // what no answer needed was not looked at
    assertThat(noticed).isGreaterThan(20);
  }

  @Test
  void whatIsCutOffIsNotBelieved() throws Exception {
    String text = prepared(large());
    byte[] right = Files.readAllBytes(ready);
    for (int length = 0; length < right.length; length += 4096) {
      Files.write(ready, Arrays.copyOf(right, length));
      assertThat(look()).as("%d bytes", length).isEqualTo(text);
      assertThat(notes).hasSize(1);
      assertThat(ReadySurveys.verify(survey).wrong()).isNotNull();
    }
  }

  @Test
  void aSurveyThatWasChangedIsReadAgain() throws Exception {
    prepared(SomeEstates.rich());
    FileTime written = Files.getLastModifiedTime(survey);
    String changed = Files.readString(survey).replace("\"rui\"", "\"ana\"");
    Files.writeString(survey, changed);
    Files.setLastModifiedTime(survey, written);
    assertThat(ask()).startsWith(changed).contains("\"ana\"");
    assertThat(notes).hasSize(1).first().asString().contains("is of an older survey");
    assertThat(look()).startsWith(changed);
    assertThat(notes).isEmpty();
  }

  @Test
  void aTrailerThatPointsBeforeTheBeginningIsNotFollowed() throws Exception {
    String text = prepared(SomeEstates.rich());
    byte[] wrong = Files.readAllBytes(ready);
    int end = wrong.length - ReadyWriter.TRAILER;
    java.nio.ByteBuffer.wrap(wrong, end, 12).putLong(-1000).putInt(end + 1000);
    Files.write(ready, wrong);
    assertThat(look()).isEqualTo(text);
    assertThat(notes).hasSize(1).first().asString().contains("it ends too early");
  }

  @Test
  void whateverKeepsOneFromBeingMadeTheAnswerStays() throws Exception {
    Access access = SomeEstates.rich();
    SurveyWriter.write(access, survey);
    List<Runnable> afterwards = new ArrayList<>();
    Access read = new ReadySurveys(notes::add, afterwards::add).read(survey);
    Files.delete(survey);
    afterwards.forEach(Runnable::run);
    assertThat(notes).hasSize(1).first().asString().contains("could not be written");
    assertThat(text(read)).isEqualTo(text(access));
    assertThat(ready).doesNotExist();
  }

  @Test
  void theFormOfAnotherSurveyIsNotBelieved() throws Exception {
    prepared(SomeEstates.withPolicies());
    byte[] other = Files.readAllBytes(ready);
    String text = prepared(SomeEstates.rich());
    Files.write(ready, other);
    assertThat(look()).isEqualTo(text);
    assertThat(notes).hasSize(1);
  }

  @Test
  void aDamagedFormOfASurveyThatReadsOtherwiseNowGivesNoAnswer() throws Exception {
    prepared(large());
    byte[] right = Files.readAllBytes(ready);
    flip(right, 5000);
    Access opened = new ReadySurveys(notes::add, later -> {}).read(survey);
    SurveyWriter.write(SomeEstates.rich(), survey);
    assertThatThrownBy(() -> all(opened))
        .isInstanceOf(UncheckedIOException.class)
        .hasMessageContaining("was damaged and is taken away; ask again");
    assertThat(ready).doesNotExist();
  }

  @Test
  void whatStandsInItsPlaceIsLeftAlone() throws Exception {
    SurveyWriter.write(SomeEstates.rich(), survey);
    Files.createDirectories(ready.resolve("something"));
    assertThat(ask()).startsWith(Files.readString(survey));
    assertThat(notes).hasSize(2);
    assertThat(notes.get(1)).contains("could not be written").contains("is no ordinary file");
    assertThat(ready.resolve("something")).exists();
  }

  @Test
  void aLinkToAFormIsNotFollowed() throws Exception {
    String text = prepared(SomeEstates.rich());
    Path elsewhere = folder.resolve("elsewhere");
    Files.move(ready, elsewhere);
    Files.createSymbolicLink(ready, elsewhere);
    assertThat(look()).isEqualTo(text);
    assertThat(notes).hasSize(1).first().asString().contains("is no ordinary file");
  }

  @Test
  void aFormThatOthersMayWriteIsNotBelieved() throws Exception {
    String text = prepared(SomeEstates.rich());
    Files.setPosixFilePermissions(
        ready, java.nio.file.attribute.PosixFilePermissions.fromString("rw-rw-rw-"));
    assertThat(look()).isEqualTo(text);
    assertThat(notes).hasSize(1).first().asString().contains("is not from whoever may write");
  }

  @Test
  void itIsForTheSameEyesAsTheSurvey() throws Exception {
    SurveyWriter.write(SomeEstates.rich(), survey);
    Files.setPosixFilePermissions(
        survey, java.nio.file.attribute.PosixFilePermissions.fromString("rw-r-----"));
    ask();
    assertThat(Files.getPosixFilePermissions(ready))
        .isEqualTo(Files.getPosixFilePermissions(survey));
  }

  @Test
  void severalAtOnceMakeOneThatIsRight() throws Exception {
    SurveyWriter.write(large(), survey);
    String text = Files.readString(survey);
    ExecutorService threads = Executors.newFixedThreadPool(6);
    try {
      List<Callable<String>> all = new ArrayList<>();
      for (int i = 0; i < 24; i++) {
        all.add(
            () -> {
              List<Runnable> afterwards = new ArrayList<>();
              List<String> said = new ArrayList<>();
              Access access = new ReadySurveys(said::add, afterwards::add).read(survey);
              afterwards.forEach(Runnable::run);
              assertThat(said).isEmpty();
              return text(access);
            });
      }
      for (Future<String> each : threads.invokeAll(all)) {
        assertThat(each.get()).isEqualTo(text);
      }
    } finally {
      threads.shutdownNow();
    }
    assertThat(ReadySurveys.verify(survey).wrong()).isNull();
    try (var files = Files.list(folder)) {
      assertThat(files).containsExactlyInAnyOrder(survey, ready);
    }
  }

  @Test
  void whatAKilledOneLeftIsTakenAwayAfterADay() throws Exception {
    SurveyWriter.write(SomeEstates.rich(), survey);
    Path old = Files.createFile(folder.resolve("." + ready.getFileName() + "17.part"));
    Path fresh = Files.createFile(folder.resolve("." + ready.getFileName() + "18.part"));
    Files.setLastModifiedTime(old, FileTime.from(Instant.now().minusSeconds(100_000)));
    ask();
    assertThat(old).doesNotExist();
    assertThat(fresh).exists();
    assertThat(ready).exists();
  }

  @Test
  void aFullDiskIsNoAnswer() {
    Access access = large();
    for (int room : new int[] {0, 10, 3000, 50_000}) {
      assertThatThrownBy(
              () -> {
                ColumnSink writer = new ReadyWriter(new Full(room));
                AccessColumns.put(access, AccessColumns.Extents.of(access), writer);
              })
          .isInstanceOf(UncheckedIOException.class)
          .hasMessageContaining("no space left");
    }
  }

  /** A disk on which there is only so much room. */
  private static final class Full extends OutputStream {
    private int room;

    Full(int room) {
      this.room = room;
    }

    @Override
    public void write(int b) throws IOException {
      if (--room < 0) {
        throw new IOException("no space left");
      }
    }
  }

  @Test
  void verifyingReadsAllOfIt() throws Exception {
    SurveyWriter.write(large(), survey);
    assertThat(ReadySurveys.verify(survey).wrong()).isEqualTo("is not there");
    ask();
    ReadySurveys.Verified right = ReadySurveys.verify(survey);
    assertThat(right.wrong()).isNull();
    assertThat(right.pieces()).isGreaterThan(60);
    byte[] form = Files.readAllBytes(ready);
    flip(form, headAt(form) / 2);
    assertThat(ReadySurveys.verify(survey).wrong()).contains("is damaged in");
  }

  @Test
  void aSurveyThatIsNoneIsNamed() {
    assertThatThrownBy(this::ask)
        .isInstanceOf(SurveyException.class)
        .hasMessageContaining("there is no survey file");
  }
}
