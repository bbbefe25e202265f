package fiador.changes.steps;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.List;
import org.junit.jupiter.api.Test;

class ColumnsFirstTest {
  private static Revoke select(String table, String grantee, String... columns) {
    On on = new On(NodeKind.TABLE, null, List.of("s", table));
    return new Revoke(Privilege.SELECT.bit(), on, List.of(columns), grantee, false, null);
  }

  @Test
  void whatIsOnColumnsGoesBeforeTheWhole() {
    Revoke whole = select("t", "ines");
    Revoke other = select("t", "rui", "a");
    Revoke columns = select("t", "ines", "a");
    assertThat(ColumnsFirst.of(List.of(whole, other, columns)))
        .containsExactly(columns, whole, other);
  }

  @Test
  void allElseStaysWhereItWas() {
    Revoke one = select("t", "ines");
    Revoke another = select("u", "ines", "a");
    assertThat(ColumnsFirst.of(List.of(one, another))).containsExactly(one, another);
  }
}
