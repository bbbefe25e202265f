package fiador.sweep;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.sweep.tables.Field;
import fiador.sweep.tables.Table;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The contract of the tables. */
class TablesTest {
  /** Words that SQL, or one of the engines that read the tables, keeps for itself. */
  private static final List<String> RESERVED =
      List.of(
          "user", "right", "left", "rows", "columns", "column", "table", "grant", "order", "group",
          "select", "from", "to", "by", "all", "any", "level", "date", "time", "value", "row");

  @ParameterizedTest
  @EnumSource
  void eachIsDescribedWithItsColumnsInOrder(Table table) throws Exception {
    String line =
        Files.readAllLines(Path.of("../docs/sweep.md")).stream()
            .filter(each -> each.startsWith("| `" + table.folder() + "` |"))
            .findFirst()
            .orElseThrow();
    List<String> described =
        Arrays.stream(line.substring(line.indexOf('|', 2)).replaceAll("\\([^)]*\\)", "").split("`"))
            .filter(part -> part.matches("[a-z_]+"))
            .toList();
    assertThat(described).isEqualTo(table.fields().stream().map(Field::name).toList());
  }

  @ParameterizedTest
  @EnumSource
  void noNameHasToBeQuoted(Table table) {
    assertThat(table.fields())
        .extracting(Field::name)
        .allMatch(name -> name.matches("[a-z][a-z_]*"))
        .doesNotContainAnyElementsOf(RESERVED)
        .doesNotContain("server")
        .doesNotHaveDuplicates();
  }

  @Test
  void noTwoAreCalledTheSame() {
    assertThat(Table.values()).extracting(Table::folder).doesNotHaveDuplicates();
  }
}
