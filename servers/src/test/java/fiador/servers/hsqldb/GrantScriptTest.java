package fiador.servers.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.servers.hsqldb.GrantScript.Action;
import fiador.servers.hsqldb.GrantScript.Statement;
import java.util.List;
import org.junit.jupiter.api.Test;

class GrantScriptTest {
  @Test
  void privilegesWithAndWithoutColumnsAreRead() {
    assertThat(GrantScript.read("GRANT SELECT(A,\"odd \"\"C\"),INSERT ON TABLE S.T TO R"))
        .isEqualTo(
            new Statement(
                List.of(
                    new Action("select", List.of("A", "odd \"C")), new Action("insert", List.of())),
                "TABLE",
                List.of("S", "T"),
                "R"));
  }

  @Test
  void oddNamesAreReadExactly() {
    Statement statement = GrantScript.read("GRANT ALL ON TABLE \"s.x\".\"t y\" TO \"u,(z)\"");
    assertThat(statement.object()).containsExactly("s.x", "t y");
    assertThat(statement.grantee()).isEqualTo("u,(z)");
  }

  @Test
  void routinesAreNamedBySpecificName() {
    Statement statement = GrantScript.read("GRANT EXECUTE ON SPECIFIC FUNCTION S.F_101 TO R");
    assertThat(statement.kind()).isEqualTo("SPECIFIC FUNCTION");
    assertThat(statement.object()).containsExactly("S", "F_101");
  }

  @Test
  void rolesAndOtherStatementsAreNoGrantsOnObjects() {
    assertThat(GrantScript.read("GRANT R1 TO R2")).isNull();
    assertThat(GrantScript.read("CREATE USER X PASSWORD DIGEST 'secret'")).isNull();
  }
}
