package fiador.files.extracts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.Privilege;
import fiador.files.houses.HouseSheets;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.files.yaml.Mistakes;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.houses.HouseSheet;
import io.airlift.compress.zstd.ZstdOutputStream;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Extracts of a made-up warehouse, and what can be wrong with them. */
class ExtractsTest {
  private static final Path EXAMPLE = Path.of("../examples/represa/extracts");

  @TempDir Path folder;
  private final List<String> notes = new ArrayList<>();
  private HouseSheet sheet;

  @BeforeEach
  void copy() throws IOException {
    sheet = HouseSheets.shipped("cascade", new Mistakes());
    try (Stream<Path> files = Files.list(EXAMPLE)) {
      for (Path file : files.toList()) {
        Files.copy(file, folder.resolve(file.getFileName()));
      }
    }
  }

  private Access read() throws Exception {
    return Extracts.read(sheet, folder, "dw", notes::add);
  }

  private void write(String name, String text) throws IOException {
    Files.writeString(folder.resolve(name), text);
  }

  private String problems() {
    try {
      Extracts.read(sheet, folder, "dw", notes::add);
    } catch (ExtractException wrong) {
      return wrong.getMessage();
    } catch (IOException failed) {
      throw new AssertionError(failed);
    }
    throw new AssertionError("nothing was wrong");
  }

  private static String text(Access access) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    SurveyWriter.write(access, out);
    return out.toString(StandardCharsets.UTF_8);
  }

  private static State state(Access access, String user, Privilege privilege, String path) {
    for (Holding row :
        new Holdings(access, Clock.systemUTC(), false).of(access.principals().named(user))) {
      if (row.privilege() == privilege && access.tree().path(row.node()).equals(path)) {
        return row.state();
      }
    }
    return null;
  }

  @Test
  void denialsFromAboveBeatGrants() throws Exception {
    Access access = read();
    assertThat(state(access, "clara.sequeira", Privilege.SELECT, "represa.billing.invoices"))
        .isEqualTo(State.LIVE);
    assertThat(state(access, "nuno.valadas", Privilege.SELECT, "represa.billing.customers"))
        .isEqualTo(State.DENIED);
    assertThat(state(access, "rui.antunes", Privilege.SELECT, "represa.laboratory.samples"))
        .isEqualTo(State.DENIED);
    assertThat(notes).isEmpty();
  }

  @Test
  void theSurveyCarriesItsHouseRules() throws Exception {
    Access access = read();
    String written = text(access);
    assertThat(written).contains("\"kind\":\"house/cascade\"").contains("\"rules\":\"{");
    Access again =
        SurveyReader.read("x", new ByteArrayInputStream(written.getBytes(StandardCharsets.UTF_8)));
    assertThat(again.rules()).isEqualTo(access.rules());
    assertThat(text(again)).isEqualTo(written);
    assertThat(text(Forms.of(access))).isEqualTo(written);
    String without = written.replaceFirst(",\"rules\":\"[^\\n]*}\"", "");
    assertThatThrownBy(
            () ->
                SurveyReader.read(
                    "x", new ByteArrayInputStream(without.getBytes(StandardCharsets.UTF_8))))
        .hasMessageContaining("the rules of a server of kind house/cascade are missing");
    String foreign = written.replaceFirst("house/cascade", "postgresql");
    assertThatThrownBy(
            () ->
                SurveyReader.read(
                    "x", new ByteArrayInputStream(foreign.getBytes(StandardCharsets.UTF_8))))
        .hasMessageContaining("a survey brings none of its own");
  }

  @Test
  void packedFilesSeveralFilesAndOtherFormsAreTheSame() throws Exception {
    String expected = text(read());
    Path permissions = folder.resolve("permissions.csv");
    List<String> lines = Files.readAllLines(permissions);
    Files.delete(permissions);
    try (OutputStream one =
        new GZIPOutputStream(Files.newOutputStream(folder.resolve("permissions-1.csv.gz")))) {
      one.write(String.join("\r\n", lines.subList(0, 5)).getBytes(StandardCharsets.UTF_8));
    }
    try (OutputStream two =
        new ZstdOutputStream(Files.newOutputStream(folder.resolve("permissions-2.csv.zst")))) {
      String rest =
          "\uFEFF" + lines.get(0) + "\n" + String.join("\n", lines.subList(5, lines.size()));
      two.write(rest.replace(',', ';').getBytes(StandardCharsets.UTF_8));
    }
    Files.setLastModifiedTime(
        folder.resolve("permissions-1.csv.gz"), FileTime.from(Instant.now().plusSeconds(3)));
    String head = "\"taken\":\"[^\"]*\"";
    assertThat(text(read()).replaceFirst(head, "")).isEqualTo(expected.replaceFirst(head, ""));
  }

  @Test
  void jsonLinesAreReadToo() throws Exception {
    HouseSheet json =
        fiador.files.houses.HouseSheetReader.read(
            "j",
            """
            house: j
            rules: {privileges: {table: [select, insert]}, names: {}}
            reading:
              principals: [{extract: p.jsonl, name: '{n}', kind: '{k}'}]
              containers: [{extract: s.jsonl, kind: schema, name: '{s}'}]
              objects: [{extract: o.jsonl, kind: table, schema: '{s}', name: '{o}'}]
              grants: [{extract: g.jsonl, to: '{n}', privilege: '{p}', schema: '{s}', name: '{o}'}]
            """,
            new Mistakes());
    write(
        "p.jsonl",
        "{\"n\":\"=cmd|'x'\",\"k\":\"user\",\"more\":null}\n{\"k\":\"role\",\"n\":\"r\"}\n");
    write("s.jsonl", "{\"s\":\"a\"}\n");
    write("o.jsonl", "{\"s\":\"a\",\"o\":\"t\"}\n");
    write(
        "g.jsonl", "{\"n\":\"=cmd|'x'\",\"p\":[\"SELECT\",\"insert\"],\"s\":\"a\",\"o\":\"t\"}\n");
    Access access = Extracts.read(json, folder, "dw", notes::add);
    assertThat(state(access, "=cmd|'x'", Privilege.INSERT, "a.t")).isEqualTo(State.LIVE);
    write("g.jsonl", "{\"n\":{\"deep\":1},\"p\":\"select\",\"s\":\"a\",\"o\":\"t\"}\n");
    assertThatThrownBy(() -> Extracts.read(json, folder, "dw", notes::add))
        .hasMessage("g.jsonl:1: \"n\" is an object; a value was expected");
  }

  @Test
  void everythingWrongIsSaidAtOnceWithFileLineAndColumn() throws Exception {
    Files.writeString(
        folder.resolve("permissions.csv"),
        Files.readString(folder.resolve("permissions.csv"))
            + "nobody,READ,allowed,,represa,,,,no,keeper\n"
            + "rui.antunes,FLY,allowed,,represa,,,,no,keeper\n"
            + "rui.antunes,READ,allowed,TABLE,represa,levels,nothing,,no,keeper\n"
            + "rui.antunes,READ,allowed,TABLE,represa\n"
            + "rui.antunes,READ,allowed,,represa,,,,perhaps,keeper\n");
    write("role_members.csv", "role_name,member_name,may_pass_on\nbilling,,no\n");
    Files.delete(folder.resolve("schemas.csv"));
    write("columns.csv", "database_name,schema_name,object_name\nx,y,z\n");
    assertThat(problems().lines())
        .contains(
            "there is no file schemas*.csv with the containers",
            "columns.csv:1: there is no column column_name, data_type; found database_name,"
                + " object_name, schema_name",
            "role_members.csv:2:member_name: member is missing",
            "permissions.csv:15:principal_name: there is no user or role \"nobody\"",
            "permissions.csv:16:permission: \"FLY\" is no privilege the sheet knows; add it to words"
                + " or to ignored",
            "permissions.csv:18: the row has 5 fields, and the header names 10",
            "permissions.csv:19:may_pass_on: \"perhaps\" is neither yes nor no");
  }

  @Test
  void noMoreThanAHundredAreNamed() throws Exception {
    StringBuilder rows = new StringBuilder("role_name,member_name,may_pass_on\n");
    for (int i = 0; i < 500; i++) {
      rows.append("nobody").append(i).append(",rui.antunes,no\n");
    }
    write("role_members.csv", rows.toString());
    assertThat(problems().lines()).hasSize(101);
  }

  @Test
  void damagedFilesAndOtherEncodingsAreSaid() throws Exception {
    Files.write(
        folder.resolve("principals.csv"),
        "principal_name,principal_type\nJos\u00e9,person\n".getBytes(StandardCharsets.ISO_8859_1));
    assertThat(problems()).contains("principals.csv:1: behind this line something is not in UTF-8");
    byte[] whole;
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (OutputStream out = new GZIPOutputStream(packed)) {
      out.write("role_name,member_name\n".repeat(5000).getBytes(StandardCharsets.UTF_8));
    }
    whole = packed.toByteArray();
    Files.delete(folder.resolve("role_members.csv"));
    Files.write(
        folder.resolve("role_members.csv.gz"), java.util.Arrays.copyOf(whole, whole.length / 2));
    assertThat(problems()).contains("role_members.csv.gz:").contains("damaged, or cut off");
  }

  @Test
  void aFieldWithoutEndDoesNotFillTheMemory() throws Exception {
    try (OutputStream out = Files.newOutputStream(folder.resolve("role_members.csv"))) {
      out.write("role_name,member_name,may_pass_on\n\"".getBytes(StandardCharsets.UTF_8));
      byte[] piece = "x".repeat(1 << 16).getBytes(StandardCharsets.UTF_8);
      for (int i = 0; i < 64; i++) {
        out.write(piece);
      }
    }
    assertThat(problems()).startsWith("role_members.csv:2: this is no row: ");
  }

  @Test
  void filesOfDifferentAgesAreSaid() throws Exception {
    Files.setLastModifiedTime(
        folder.resolve("principals.csv"), FileTime.from(Instant.now().minusSeconds(9 * 86_400)));
    Access access = read();
    assertThat(notes).anyMatch(note -> note.matches("principals.csv was written [89] day.*"));
    assertThat(access.about().taken()).isBefore(Instant.now().minusSeconds(8 * 86_400));
  }

  @Test
  void aLinkOutOfTheFolderIsNotFollowed() throws Exception {
    Files.delete(folder.resolve("role_members.csv"));
    Files.createSymbolicLink(folder.resolve("role_members.csv"), Path.of("/etc/passwd"));
    assertThat(problems()).contains("there is no file role_members*.csv with the memberships");
  }
}
