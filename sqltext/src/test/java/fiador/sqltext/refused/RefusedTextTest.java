package fiador.sqltext.refused;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What servers say, as they say it. */
final class RefusedTextTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "ERROR: permission denied for table invoices | invoices | TABLE",
        "permission denied for schema billing | billing | SCHEMA",
        "ERROR:  permission denied for function total_of | total_of | ROUTINE",
        "permission denied for sequence invoices_id_seq | invoices_id_seq | SEQUENCE",
        "permission denied for database waterworks | waterworks | DATABASE",
        "permission denied for materialized view daily | daily | VIEW",
        "permission denied for table odd name | odd name | TABLE",
        "(conn=12) SELECT command denied to user 'u'@'h' for table `s`.`t` | s.t | TABLE",
        "SELECT, INSERT command denied to user 'u'@'h' for table 't' | t | TABLE",
        "execute command denied to user 'u'@'%' for routine 's.f' | s.f | ROUTINE",
        "Access denied for user 'u'@'h' to database 'billing' | billing | SCHEMA",
        "user lacks privilege or object not found: INVOICES in statement [SELECT] | INVOICES | TABLE"
      })
  void theThingIsFound(String said, String name, NodeKind kind) {
    RefusedText read = RefusedText.read(said).orElseThrow();
    assertThat(read.name()).isEqualTo(name);
    assertThat(read.kinds()).contains(kind);
  }

  @Test
  void privilegesAndColumnsWhereTheServerSaysThem() {
    RefusedText some =
        RefusedText.read("SELECT, INSERT command denied to user 'u'@'h' for table `s`.`t`")
            .orElseThrow();
    assertThat(some.privileges()).isEqualTo(List.of(Privilege.SELECT, Privilege.INSERT));
    RefusedText column =
        RefusedText.read("SELECT command denied to user 'u'@'h' for column 'c' in table 't'")
            .orElseThrow();
    assertThat(column.column()).isEqualTo("c");
    assertThat(column.name()).isEqualTo("t");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"", "syntax error at or near \"selct\"", "permission denied", "denied for table"})
  void otherTextsAreNone(String said) {
    assertThat(RefusedText.read(said)).isEmpty();
  }
}
