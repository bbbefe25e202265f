package fiador.changes.wanted;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.wanted.Wanted.Governs;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.Origin;
import fiador.grants.rules.MariadbRules;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class GovernedTest {
  private static final Governs ALL = new Governs(List.of("*"), List.of("*"), List.of("*"));

  private static Access mariadb(String... users) {
    AccessBuilder builder = new AccessBuilder();
    for (String user : users) {
      builder.estate().principal(PrincipalKind.USER, user, 0, -1);
    }
    builder.estate().node(-1, NodeKind.SERVER, "m", -1);
    builder.estate().node(0, NodeKind.SCHEMA, "Odd name", -1);
    builder.estate().node(0, NodeKind.SCHEMA, "other", -1);
    Origin about = new Origin("m", "mariadb", "10.11", Instant.EPOCH);
    return builder.build(about, MariadbRules.of(10, 11));
  }

  @Test
  void whoSettlesIsLeftAloneWhateverHostHeComesFrom() {
    Governed governed =
        new Governed(mariadb("admin@%", "ines@%", "root@::1"), ALL, Set.of("admin"));
    assertThat(governed.principal(1)).isFalse();
    assertThat(governed.principal(2)).isTrue();
    assertThat(governed.principal(3)).isFalse();
  }

  @Test
  void aSchemaInQuotesIsMeantAsItStands() {
    Governs one = new Governs(List.of("\"Odd name\""), List.of(), List.of());
    Governed governed = new Governed(mariadb(), one, Set.of());
    assertThat(governed.node(1)).isTrue();
    assertThat(governed.node(2)).isFalse();
  }
}
