package fiador.cli.draw;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.Program;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What goes into a page, and what does not. */
final class PageCommandTest {
  private static final String WATERWORKS =
      Path.of("../examples/aguarela/trouble/waterworks.survey.jsonl.gz")
          .toAbsolutePath()
          .toString();

  @TempDir Path folder;

  private String packed(String... more) throws IOException {
    Path file = folder.resolve("page.html");
    String[] all = new String[more.length + 5];
    all[0] = "page";
    all[1] = "--from";
    all[2] = WATERWORKS;
    all[3] = "--to";
    all[4] = file.toString();
    System.arraycopy(more, 0, all, 5, more.length);
    Program made = Program.run(all);
    assertThat(made.code).as(made.err).isZero();
    return PackedPage.in(file);
  }

  @Test
  void aPageOfASchemaHoldsNothingElse() throws IOException {
    assertThat(packed())
        .contains(
            "metering.readings", "billing.customers", "laboratory", "vera.lobo", "clara.pinho");
    assertThat(packed("--schema", "laboratory"))
        .contains(
            "laboratory.samples",
            "clara.pinho",
            "lab_steward",
            "This page holds the schema laboratory")
        .doesNotContain(
            "metering", "billing", "network", "vera.lobo", "leak_analyst", "ines.duarte");
  }

  @Test
  void aPageForAnOwnerHoldsWhatIsTheirs() throws IOException {
    assertThat(packed("--for", "alda.monte"))
        .contains("network.", "what is alda.monte's")
        .doesNotContain("laboratory", "billing.", "metering.");
  }

  @Test
  void findingsLeadToTheirViews() {
    String rows =
        Program.run(
                "findings",
                "--from",
                WATERWORKS,
                "--page",
                "https://host:8443/e.html",
                "--format",
                "jsonl")
            .out;
    assertThat(rows.lines()).allMatch(row -> row.contains("\"page\":\"https://host:8443/e.html#"));
    assertThat(rows).contains("e.html#person=", "e.html#role=", "e.html#thing=");
    assertThat(Program.run("findings", "--from", WATERWORKS, "--format", "csv").out)
        .doesNotContain(",page\n");
    assertThat(Program.run("findings", "--from", WATERWORKS, "--page", "javascript:x.html").err)
        .contains("is no address of a page");
  }

  @Test
  void whatIsMissingIsSaid() {
    assertThat(Program.run("page", "--from", WATERWORKS).err).contains("--to estate.html");
    assertThat(Program.run("page", "--from", WATERWORKS, "--to", "x.txt").err)
        .contains("ends in .html");
    Program nothing =
        Program.run(
            "page",
            "--from",
            WATERWORKS,
            "--to",
            folder.resolve("n.html").toString(),
            "--for",
            "vera.lobo");
    assertThat(nothing.code).isEqualTo(1);
    assertThat(nothing.err).contains("nothing there is vera.lobo's");
    assertThat(folder.resolve("n.html")).doesNotExist();
  }
}
