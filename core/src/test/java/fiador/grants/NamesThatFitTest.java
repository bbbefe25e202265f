package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import fiador.grants.rules.PostgresqlRules;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** A name made of another's is kept whole by the server, and is nobody else's. */
final class NamesThatFitTest {
  private static final HouseRules POSTGRESQL = PostgresqlRules.of(18);

  @Test
  void aShortNameGetsTheEndingAndNothingElse() {
    assertThat(POSTGRESQL.names().with("customers", "_safe")).isEqualTo("customers_safe");
    assertThat(POSTGRESQL.names().with("x".repeat(58), "_safe"))
        .isEqualTo("x".repeat(58) + "_safe");
  }

  @Test
  void aLongNameIsCutMarkedAndStaysTheSame() {
    String made = POSTGRESQL.names().with("x".repeat(63), "_safe");
    assertThat(made).hasSize(63).endsWith("_safe").startsWith("xxx");
    assertThat(POSTGRESQL.names().with("x".repeat(63), "_safe")).isEqualTo(made);
    HouseRules mariadb = KnownHouses.of("mariadb", "10.11");
    assertThat(mariadb.names().with("y".repeat(64), "_safe")).hasSize(64).endsWith("_safe");
  }

  @Test
  void lettersOfSeveralBytesAreNotCutInTwo() {
    for (String letter : new String[] {"é", "名", "😀"}) {
      String name = letter.repeat(63 / letter.getBytes(StandardCharsets.UTF_8).length);
      String made = POSTGRESQL.names().with(name, "_safe");
      assertThat(made.getBytes(StandardCharsets.UTF_8)).hasSizeLessThanOrEqualTo(63);
      assertThat(made).doesNotContain("\ufffd").endsWith("_safe");
      assertThat(new String(made.getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8))
          .isEqualTo(made);
    }
  }

  @Test
  void namesThatDifferAtTheirEndOnlyStayApart() {
    Set<String> made = new HashSet<>();
    for (int i = 0; i < 1_000; i++) {
      made.add(POSTGRESQL.names().with("z".repeat(59) + String.format("%04d", i), "_safe"));
    }
    assertThat(made).hasSize(1_000);
  }
}
