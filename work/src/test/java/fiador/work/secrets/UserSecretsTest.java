package fiador.work.secrets;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;

/** Each user's secret stands in a variable of the environment that is theirs alone. */
final class UserSecretsTest {
  @Test
  void secretsThatLookAlikeInCapitalsAreAskedForApart() {
    UserSecrets apart =
        new UserSecrets(List.of("a.b", "a_b", "müller", "möller", "ines.duarte"), false);
    assertThat(apart.variable("ines.duarte")).isEqualTo("FIADOR_SECRET_INES_DUARTE");
    assertThat(apart.variable("a.b"))
        .startsWith("FIADOR_SECRET_A_B_")
        .isNotEqualTo(apart.variable("a_b"));
    assertThat(apart.variable("müller")).isNotEqualTo(apart.variable("möller"));
    assertThat(new UserSecrets(List.of("tb@%", "tb@localhost"), true).variable("tb@localhost"))
        .isEqualTo("FIADOR_SECRET_TB");
  }
}
