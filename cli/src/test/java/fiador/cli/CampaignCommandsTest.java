package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import fiador.files.ledger.ReviewKey;
import fiador.files.sheets.SheetReader;
import fiador.reviews.Returned;
import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A review from opening to evidence, with sheets that were altered on the way. */
class CampaignCommandsTest {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String FORMULA = "=cmd|' /C calc'!A0";
  private static final String SCRIPT = "<script>alert(1)</script>";

  @TempDir Path folder;

  @BeforeEach
  void estate() throws Exception {
    run(
        "create schema s",
        "create schema p",
        "create table s.t (a int, b int)",
        "create table p.u (a int)",
        "create role readers",
        "create role writers",
        "grant select on s.t to readers",
        "grant select on p.u to writers",
        "grant readers to writers",
        "grant insert on s.t to writers");
    for (String user : List.of("ines", "rui", FORMULA, SCRIPT, "@sum", "+1", "-2")) {
      run(
          "create user \"" + user + "\" password 'x'",
          "grant " + (user.equals("rui") ? "writers" : "readers") + " to \"" + user + "\"");
    }
    Files.writeString(
        folder.resolve("fiador.yaml"),
        "fiador: 1\nservers: {box: {kind: hsqldb, url: \"" + url() + "\", login: SA}}\n");
    assertThat(fiador("survey").code).isZero();
  }

  private String url() {
    return "jdbc:hsqldb:file:" + folder.resolve("data/db") + ";shutdown=true";
  }

  private void run(String... statements) throws Exception {
    try (Connection db = DriverManager.getConnection(url(), "SA", "");
        Statement sql = db.createStatement()) {
      for (String statement : statements) {
        sql.execute(statement);
      }
    }
  }

  private Program fiador(String... args) {
    List<String> all = new ArrayList<>(List.of(args));
    all.addAll(List.of("--charter", folder.toString()));
    return Program.run(all.toArray(String[]::new));
  }

  private Program open() {
    return fiador("review", "open", "spring", "--schema", "s", "--else", "boss");
  }

  private Path sheet(String ending) {
    fiador("review", "sheets", "spring", "--to", folder.resolve("out").toString());
    return folder.resolve("out/spring-boss." + ending);
  }

  /** The sheet with every line kept, and a change made to it. */
  private Path changed(java.util.function.UnaryOperator<String> change) throws Exception {
    String text = Files.readString(sheet("csv")).replace(",,,spring", ",keep,,spring");
    Path file = folder.resolve("back.csv");
    Files.writeString(file, change.apply(text));
    return file;
  }

  private Program decide(Path file) {
    return fiador("review", "decide", "spring", file.toString());
  }

  private long decided() throws Exception {
    String rows = fiador("review", "status", "spring", "--format", "jsonl").out;
    long count = 0;
    for (String row : rows.lines().toList()) {
      count += JSON.readTree(row).has("decision") ? 1 : 0;
    }
    return count;
  }

  @Test
  void namesOfASheetLeadToThePageAndNowhereElse() throws Exception {
    open();
    String out = folder.resolve("linked").toString();
    fiador("review", "sheets", "spring", "--to", out, "--page", "../estate.html");
    assertThat(Files.readString(Path.of(out, "spring-boss.html")))
        .contains("<a href=\"../estate.html#person=");
    assertThat(Files.readString(sheet("html"))).doesNotContain("<a href");
    for (String bad :
        new String[] {"javascript:alert(1)//.html", "x.html\" onclick=\"y.html", "data:x"}) {
      Program refused = fiador("review", "sheets", "spring", "--page", bad);
      assertThat(refused.code).as(bad).isEqualTo(2);
      assertThat(refused.err).contains("is no address of a page");
    }
  }

  @Test
  void fromOpeningToEvidence() throws Exception {
    assertThat(open().out).startsWith("spring: 0 of 7 lines decided").contains("boss");
    Path back =
        changed(
            text ->
                text.lines()
                    .map(
                        line ->
                            line.contains(",ines,")
                                ? line.replace(",keep,,", ",Revoke,\"left, for good\",")
                                : line)
                    .reduce("", (one, two) -> one + two + "\r\n"));
    assertThat(decide(back).out).contains("7 decisions taken in").contains("all lines are decided");
    assertThat(decide(back).out).contains("no new decisions taken in");
    assertThat(fiador("review", "status").code).isZero();
    Path script = folder.resolve("spring.sql");
    Program close = fiador("review", "close", "spring", "--script", script.toString());
    assertThat(close.code).isEqualTo(1);
    assertThat(close.out)
        .startsWith("spring: 1 statement carries the revocations out")
        .contains("ines")
        .contains("loses select on table s.t");
    String statement = "REVOKE \"READERS\" FROM \"ines\" RESTRICT";
    assertThat(Files.readString(script)).endsWith("\n\n" + statement + ";\n");
    run(statement);
    fiador("survey");
    assertThat(Program.run("trace", "ines", "select", "s.t", "--from", folder.toString()).code)
        .isEqualTo(1);
    String hash = close.out.lines().reduce((one, two) -> two).orElseThrow().strip();
    Path evidence = folder.resolve("spring.review.jsonl");
    String file = evidence.toString();
    assertThat(fiador("review", "verify", file).out)
        .startsWith("not known: whole in itself, not anchored, 3 entries of the review spring")
        .contains("the ledger has the same")
        .contains("only claimed")
        .contains(hash);
    assertThat(fiador("review", "verify", file).code).isEqualTo(1);
    assertThat(Program.run("review", "verify", file, "--digest", hash).code).isZero();
    signedBy(folder.resolve("keys/marta.key"), evidence, hash);
    assertThat(Files.readString(evidence))
        .contains("left, for good")
        .contains("\"answer\":\"REVOKE\"");
    assertThat(decide(back).err).contains("the review spring is closed");
  }

  /**
   * A key that the charter knows vouches for the whole; another one, or one of before, does not.
   */
  private void signedBy(Path file, Path evidence, String hash) throws Exception {
    Program made = Program.run("review", "key", "--to", file.toString());
    assertThat(made.code).isZero();
    assertThat(Program.run("review", "key", "--to", file.toString()).code).isEqualTo(2);
    ReviewKey key = ReviewKey.read(file);
    assertThat(made.out).contains(key.shown()).doesNotContain(Files.readAllLines(file).get(1));
    Path signed = folder.resolve("signed.jsonl");
    String text = Files.readString(evidence);
    Files.writeString(signed, text + key.signed("spring", hash) + "\n");
    assertThat(fiador("review", "verify", signed.toString()).out)
        .startsWith("not known")
        .contains("by no known key");
    Program known = Program.run("review", "verify", signed.toString(), "--key", key.shown());
    assertThat(known.code).isZero();
    assertThat(known.out).startsWith("yes: whole").contains("signed by");
    Path charter = folder.resolve("fiador.yaml");
    String before = Files.readString(charter);
    Files.writeString(charter, before + "\nreview_keys: {marta: " + key.shown() + "}\n");
    Program trusted = fiador("review", "verify", signed.toString());
    assertThat(trusted.code).isZero();
    assertThat(trusted.out).contains("signed by marta");
    Files.writeString(signed, text + key.signed("spring", "0".repeat(64)) + "\n");
    assertThat(fiador("review", "verify", signed.toString()).code).isEqualTo(1);
    Files.writeString(charter, before + "\nreview_keys: {marta: nothing}\n");
    assertThat(Program.run("check", folder.toString()).err)
        .contains("this is no public part of a key");
    Files.writeString(charter, before);
  }

  @Test
  void anyLaterChangeOfTheEvidenceIsSeen() throws Exception {
    open();
    decide(changed(text -> text));
    fiador("review", "close", "spring");
    Path evidence = folder.resolve("spring.review.jsonl");
    List<String> lines = Files.readAllLines(evidence);
    assertThat(lines).hasSize(3);
    Path forged = folder.resolve("forged.jsonl");
    for (int line = 0; line < 3; line++) {
      for (String[] edit :
          new String[][] {
            {"KEEP", "REVOKE"}, {"\"boss\"", "\"bass\""}, {"T", " "}, {"\"at\"", "\"it\""}
          }) {
        List<String> other = new ArrayList<>(lines);
        other.set(line, lines.get(line).replaceFirst(edit[0], edit[1]));
        if (!other.equals(lines)) {
          Files.write(forged, other);
          assertThat(fiador("review", "verify", forged.toString()).code).isEqualTo(1);
        }
      }
      List<String> without = new ArrayList<>(lines);
      without.remove(line);
      Files.write(forged, without);
      // what was cut off at the end is only seen against what was kept apart
      assertThat(fiador("review", "verify", forged.toString()).code).isEqualTo(1);
    }
    List<String> swapped = List.of(lines.get(0), lines.get(2), lines.get(1));
    Files.write(forged, swapped);
    assertThat(fiador("review", "verify", forged.toString()).out).startsWith("no: ");
    assertThat(Program.run("review", "verify", evidence.toString(), "--digest", "00").code)
        .isEqualTo(1);
  }

  @Test
  void alteredSheetsAreRefusedRowByRowAndChangeNothing() throws Exception {
    open();
    Map<java.util.function.UnaryOperator<String>, String> edits =
        Map.of(
            text -> text.replace("ines", "INES"), "\"person\" is not what line",
            text -> text.replaceFirst("keep", "perhaps"), "\"perhaps\" is no decision",
            text -> text.replaceFirst("keep,", "keep,=1+1"), "\"remark\" holds a formula",
            text -> text.replaceFirst("spring", "autumn"), "belongs to the review autumn",
            text -> text.replaceFirst("(?m)^1-.*\\R", ""), "is missing",
            text -> text.replaceFirst("(?m)^(1-.*\\R)", "$1$1"), "is already in row 2",
            text -> text.replaceFirst("(?m)^1-....", "99-abcd"), "there is no line 99-abcd",
            text -> text.replace("decision", "answer"), "the column \"decision\" is missing",
            text -> "hello\n" + text, "the column \"line\" is missing");
    for (var edit : edits.entrySet()) {
      Program program = decide(changed(edit.getKey()));
      assertThat(program.code).as(edit.getValue()).isEqualTo(2);
      assertThat(program.err).contains(edit.getValue()).contains("nothing was taken in");
      assertThat(decided()).isZero();
    }
    assertThat(decide(folder.resolve("nowhere.csv")).err).contains("there is no ");
  }

  @Test
  void rowsInAnotherOrderAndOtherSeparatorsAreFine() throws Exception {
    open();
    Path back =
        changed(
            text -> {
              List<String> lines = new ArrayList<>(text.lines().toList());
              java.util.Collections.reverse(lines.subList(1, lines.size()));
              return String.join("\r\n", lines).replace(",", ";") + "\r\n";
            });
    assertThat(decide(back).out).contains("7 decisions taken in");
  }

  @Test
  void namesCannotRunAsFormulasNorAsScripts() throws Exception {
    open();
    String csv = Files.readString(sheet("csv"));
    assertThat(csv).contains("'" + FORMULA).contains("'@sum").contains("'+1").contains("'-2");
    for (String line : csv.lines().toList()) {
      assertThat(line).doesNotContainPattern("(^|,)\"?[=@+]");
    }
    String html = Files.readString(sheet("html"));
    assertThat(html).doesNotContain(SCRIPT).contains("&lt;script&gt;alert(1)&lt;/script&gt;");
    assertThat(html.split("<script>", -1)).hasSize(2);
    try (ZipFile zip = new ZipFile(sheet("xlsx").toFile())) {
      String xml =
          new String(
              zip.getInputStream(zip.getEntry("xl/worksheets/sheet1.xml")).readAllBytes(),
              StandardCharsets.UTF_8);
      assertThat(xml).doesNotContain("<f>").contains("dataValidation");
    }
  }

  @Test
  void aWorkbookComesBackToo() throws Exception {
    open();
    Path book = sheet("xlsx");
    SheetReader.Sheet sheet = SheetReader.read(book);
    assertThat(sheet.columns()).isEqualTo(Returned.COLUMNS);
    assertThat(sheet.rows()).hasSize(7);
    assertThat(decide(book).out)
        .contains("no new decisions taken in")
        .contains("7 lines still open");
    Path back = folder.resolve("back.xlsx");
    rewrite(
        book,
        back,
        "<c r=\"H3\"[^>]*>.*?</c>",
        "<c r=\"H3\" t=\"inlineStr\"><is><t>unsure</t></is></c>");
    assertThat(decide(back).out).contains("1 decision taken in");
    rewrite(
        book, back, "<c r=\"H3\"[^>]*>.*?</c>", "<c r=\"H3\" t=\"str\"><f>A1</f><v>keep</v></c>");
    assertThat(decide(back).err).contains("row 3: \"decision\" holds a formula");
    Files.write(back, java.util.Arrays.copyOf(Files.readAllBytes(book), 900));
    assertThat(decide(back).code).isEqualTo(2);
    assertThat(decide(back).err).contains("cannot be read as xlsx");
  }

  /** Edits the first sheet of a workbook the way a program for tables would write it. */
  private static void rewrite(Path from, Path to, String pattern, String by) throws Exception {
    try (ZipFile zip = new ZipFile(from.toFile());
        ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(to))) {
      for (ZipEntry entry : zip.stream().toList()) {
        String text = new String(zip.getInputStream(entry).readAllBytes(), StandardCharsets.UTF_8);
        if (entry.getName().equals("xl/worksheets/sheet1.xml")) {
          text = replaced(text, pattern, by);
        }
        out.putNextEntry(new ZipEntry(entry.getName()));
        try (InputStream in = new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8))) {
          in.transferTo(out);
        }
      }
    }
  }

  private static String replaced(String text, String pattern, String by) {
    assertThat(text).containsPattern(pattern);
    return text.replaceFirst(pattern, by);
  }

  @Test
  void whatChangedMeanwhileIsFlaggedAndAskedAnew() throws Exception {
    open();
    decide(changed(text -> text));
    run("grant delete on s.t to writers", "create user late password 'x'", "grant readers to late");
    fiador("survey");
    Program status = fiador("review", "status");
    assertThat(status.out)
        .contains("no longer as it was when it was asked")
        .containsPattern("gives something else +\\S+ +rui +role writers")
        .containsPattern("is new +late +role readers");
    assertThat(fiador("review", "close", "spring").err)
        .contains("0 lines open, 2 lines no longer as asked or new");
    assertThat(fiador("review", "refresh").out)
        .contains("1 line asked anew because they give something else, 1 line new, 0 lines gone");
    assertThat(fiador("review", "status").out).startsWith("spring: 6 of 8 lines decided");
    assertThat(fiador("review", "refresh").out).contains("nothing to do");
  }

  @Test
  void linesAreDecidedOneByOneToo() throws Exception {
    open();
    String csv = fiador("review", "status", "spring", "--format", "csv").out;
    String key = csv.lines().skip(1).findFirst().orElseThrow().split(",", 2)[0];
    String[] said = {"review", "decide", "spring", "--as", "boss", "--line", key, "--answer", "k"};
    assertThat(fiador(said).out).contains("6 lines still open");
    said[8] = "never";
    assertThat(fiador(said).err).contains("keep, revoke or unsure");
    said[4] = "nobody";
    assertThat(fiador(said).err).contains("nothing is asked of nobody; reviewers are boss");
    assertThat(fiador("review", "decide", "spring", "--as", "boss").err)
        .contains("this is no terminal");
  }

  @Test
  void withoutAnybodyToAskNothingIsOpened() {
    assertThat(fiador("review", "open", "x", "--schema", "s").err)
        .contains("nobody can be asked about s (7 lines)");
    assertThat(fiador("review", "status").err).contains("there is no review yet");
    open();
    assertThat(open().err).contains("there is a review spring already");
    assertThat(fiador("review", "status", "sprong").err).contains("did you mean spring");
  }
}
