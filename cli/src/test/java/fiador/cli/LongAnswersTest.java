package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Answers too long to be read, on an estate of 200 people and tables. */
final class LongAnswersTest {
  private static final int PEOPLE = 200;

  @TempDir private Path folder;
  private String survey;

  @BeforeEach
  void write() throws IOException {
    Path file = folder.resolve("wide.survey.jsonl");
    WideSurvey.write(file);
    survey = file.toString();
  }

  private Program ask(String... words) {
    return Program.run(
        Stream.concat(Stream.of(words), Stream.of("--from", survey)).toArray(String[]::new));
  }

  @Test
  void holdersOfATableAreSummedUpUnlessEachIsAskedFor() {
    Program summed = ask("holders", WideSurvey.TABLE);
    assertThat(summed.out)
        .startsWith("200 users hold something on table wide.table_1, 1 of them live")
        .contains("199 users   ! blocked   select, insert   shut_out, user_3, user_4 and 196 more")
        .containsPattern("through\n  200 users   through   select, insert")
        .endsWith("--full lists each\n");
    assertThat(summed.out.lines().count()).isLessThan(12);
    Program each = ask("holders", WideSurvey.TABLE, "--full");
    assertThat(each.out).contains("user_200 ").doesNotContain("--full");
    assertThat(ask("holders", WideSurvey.TABLE, "--format", "jsonl").out.lines())
        .hasSize(2 * PEOPLE);
  }

  @Test
  void thoseInsideASchemaAreSummedUpToo() {
    Program summed = ask("holders", "wide.wide", "--inside");
    assertThat(summed.out)
        .startsWith("200 users hold something on schema wide or what is in it")
        .containsPattern("199 users +schema wide +! blocked +200 tables +select, insert");
    assertThat(ask("holders", "wide.wide", "--inside", "--full").out.lines())
        .hasSizeGreaterThan(PEOPLE);
  }

  /** They are counted side by side, and one by one as rows. */
  @Test
  void everyoneIsCountedAsTheRowsSay() {
    for (String[] narrowed :
        new String[][] {
          {}, {"--without", "public"}, {"--kind", "table"}, {"--privilege", "insert"}
        }) {
      String[] text =
          Stream.of(new String[] {"holdings", "--everyone"}, narrowed)
              .flatMap(Stream::of)
              .toArray(String[]::new);
      String[] rows =
          Stream.concat(Stream.of(text), Stream.of("--format", "jsonl")).toArray(String[]::new);
      List<String> all = ask(rows).out.lines().toList();
      long counted = 0;
      List<String> lines = ask(text).out.lines().skip(2).toList();
      assertThat(lines).hasSize(PEOPLE);
      for (String line : lines) {
        String[] words = line.strip().split(" +", -1);
        long mine = all.stream().filter(row -> row.contains('"' + words[0] + '"')).count();
        assertThat(Long.parseLong(words[2])).as(line).isEqualTo(mine);
        counted += mine;
      }
      assertThat(counted).isEqualTo(all.size()).isPositive();
    }
  }
}
