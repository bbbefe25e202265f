package fiador.grants.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What differs between versions of one server, and what a version's text makes of it. */
final class HouseRulesTest {
  @ParameterizedTest
  @CsvSource({
    "15.4, PER_MEMBER, false, true",
    "16.0, PER_MEMBERSHIP, false, false",
    "17.2, PER_MEMBERSHIP, true, false",
    "18beta1, PER_MEMBERSHIP, true, false"
  })
  void aVersionOfPostgresqlHasItsRoles(
      String version, Activation when, boolean maintain, boolean managers) {
    HouseRules rules = KnownHouses.of("postgresql", version);
    assertThat(rules.activation()).isEqualTo(when);
    assertThat(rules.privilegesOn(NodeKind.TABLE) & Privilege.MAINTAIN.bit())
        .isEqualTo(maintain ? Privilege.MAINTAIN.bit() : 0);
    assertThat(rules.has(HouseFact.MANAGERS_TAKE_ANY_ROLE)).isEqualTo(managers);
    assertThat(rules.has(HouseFact.MEMBERSHIPS_BY_GRANTOR)).isNotEqualTo(managers);
  }

  @ParameterizedTest
  @CsvSource({"10.11.6-MariaDB, false", "11.2.0, false", "11.3, true", "12.0.1, true"})
  void aVersionOfMariadbShowsRoutines(String version, boolean shows) {
    HouseRules rules = KnownHouses.of("mariadb", version);
    assertThat((rules.privilegesOn(NodeKind.ROUTINE) & Privilege.SHOW_CREATE_ROUTINE.bit()) != 0)
        .isEqualTo(shows);
  }

  @Test
  void eachKnownKindHasNewestRulesOfItsName() {
    for (String kind : KnownHouses.kinds()) {
      assertThat(KnownHouses.newest(kind).kind()).isEqualTo(kind);
    }
    assertThat(KnownHouses.newest("another")).isNull();
    assertThat(KnownHouses.of("another", "1")).isNull();
  }

  @Test
  void viewsOfQuotedColumnsAreRefusedWhereTheyCannotBeMade() {
    List<String> columns = List.of("a", "b\"c");
    assertThat(HsqldbRules.rules().refusesSafeView(columns)).contains("quote");
    assertThat(HsqldbRules.rules().refusesSafeView(List.of("a"))).isNull();
    assertThat(PostgresqlRules.of(18).refusesSafeView(columns)).isNull();
  }

  @Test
  void rulesWithoutNamesAreNoRules() {
    HouseRulesBuilder rules = new HouseRulesBuilder("another");
    assertThatThrownBy(rules::build).isInstanceOf(IllegalStateException.class);
  }
}
