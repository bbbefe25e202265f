package fiador.cli.draw;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.cli.Program;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Pictures of the demo, from the command line. */
final class DrawCommandTest {
  private static final String WATERWORKS =
      Path.of("../examples/aguarela/trouble/waterworks.survey.jsonl.gz")
          .toAbsolutePath()
          .toString();

  @TempDir Path folder;

  private static Program draw(String... words) {
    return Program.run(
        Stream.of(Stream.of("draw"), Stream.of(words), Stream.of("--from", WATERWORKS))
            .flatMap(part -> part)
            .toArray(String[]::new));
  }

  private String svg(String... words) throws IOException {
    Path file = folder.resolve("p.svg");
    Program drawn =
        draw(
            Stream.concat(Stream.of(words), Stream.of("--to", file.toString()))
                .toArray(String[]::new));
    assertThat(drawn.out).as(drawn.err).startsWith("drawn to ");
    assertThat(drawn.code).isZero();
    return Files.readString(file);
  }

  @Test
  void aUserARoleAThingAndAColumn() throws IOException {
    assertThat(svg("ines.duarte"))
        .contains(">What ines.duarte holds, and through what<", ">leak_analyst<");
    assertThat(svg("leak_analyst")).contains(">Around the role leak_analyst<");
    assertThat(svg("roles", "--around", "leak_analyst")).contains(">Around the role leak_analyst<");
    assertThat(svg("role", "leak_analyst")).contains(">Around the role leak_analyst<");
    assertThat(svg("billing.customers")).contains(">Who gets to billing.customers<");
    assertThat(svg("billing.customers.iban")).contains(">Who gets to billing.customers.iban<");
    assertThat(svg("roles")).contains(">Roles of waterworks<", ">platform_admin<");
  }

  @Test
  void aMatrixByTablesOfRoles() throws IOException {
    assertThat(svg("matrix", "--of", "roles", "--by", "tables", "--schema", "billing"))
        .contains(">Who can do what, by table<", ">billing.customers<", "billing_read");
    assertThat(draw("matrix", "--who", "ines.duarte").out)
        .startsWith("Who can do what, by schema\n")
        .containsPattern("ines.duarte .*read");
  }

  @Test
  void whatIsSupposedIsDrawnAsAChange() {
    assertThat(draw("gap", "--suppose", "rui.teles holds billing_read").out)
        .startsWith("What the change gives and takes\n\nrui.teles\n")
        .contains("comes with the change");
  }

  @Test
  void asTextWithoutAFile() {
    assertThat(draw("ines.duarte").out)
        .startsWith("What ines.duarte holds, and through what\n\nines.duarte\n")
        .contains("└─ ", "leak_analyst", "(survey of waterworks, ");
  }

  @Test
  void whatCannotBeDrawnIsSaidBeforeAnythingIsRead() {
    assertThat(draw("roles", "--to", "x.gif").err).contains(".svg, .png or .pdf");
    assertThat(draw("roles", "--size", "10x10").err).contains("are for a file");
    assertThat(draw("roles", "--to", "x.svg", "--size", "wide").err).contains("1280x800");
    assertThat(draw("roles", "--to", "x.svg", "--dark", "--print").err).contains("only one");
    assertThat(draw("roles", "--to", "x.svg", "--terminal").err).contains("only one");
    assertThat(draw("matrix", "--by", "rows").err).contains("neither schemas nor tables");
    assertThat(draw("ines.duarte", "--around", "x").err).contains("--around goes with roles");
    assertThat(draw("roles", "--around", "ines.duarte").err).contains("is a user");
    assertThat(draw("user", "leak_analyst").err).contains("is a role and no user");
    assertThat(draw("nobody_of_that_name").code).isEqualTo(2);
  }
}
