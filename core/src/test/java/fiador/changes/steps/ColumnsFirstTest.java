package fiador.changes.steps;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.List;
import org.junit.jupiter.api.Test;

class ColumnsFirstTest {
  private static Step.Revoke select(String table, String grantee, String... columns) {
    Step.On on = new Step.On(NodeKind.TABLE, null, List.of("s", table));
    return new Step.Revoke(Privilege.SELECT.bit(), on, List.of(columns), grantee, false, null);
  }

  @Test
  void whatIsOnColumnsGoesBeforeTheWhole() {
    Step.Revoke whole = select("t", "ines");
    Step.Revoke other = select("t", "rui", "a");
    Step.Revoke columns = select("t", "ines", "a");
    assertThat(ColumnsFirst.of(List.of(whole, other, columns)))
        .containsExactly(columns, whole, other);
  }

  @Test
  void allElseStaysWhereItWas() {
    Step.Revoke one = select("t", "ines");
    Step.Revoke another = select("u", "ines", "a");
    assertThat(ColumnsFirst.of(List.of(one, another))).containsExactly(one, another);
  }
}
