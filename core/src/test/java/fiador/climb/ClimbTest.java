package fiador.climb;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.climb.Climb.Means;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import fiador.grants.rules.PostgresqlRules;
import org.junit.jupiter.api.Test;

final class ClimbTest {
  private static final Membership MAY_GIVE = Membership.of(true, false, false);

  private static Climb.Result climb(TinyEstate tiny, String user) {
    return new Climb(tiny.build()).of(tiny.principal(user));
  }

  @Test
  void whoMayGiveNothingComesToNothing() {
    TinyEstate tiny = TinyEstate.postgresql().users("ines").roles("r").member("ines", "r");
    Climb.Result result = climb(tiny, "ines");
    assertThat(result.administrator()).isNull();
    assertThat(result.ladders()).isEmpty();
  }

  @Test
  void theShortestLadderToEachRoleIsFound() {
    TinyEstate tiny =
        TinyEstate.postgresql()
            .users("ines")
            .roles("a", "b", "c")
            .member("ines", "a", MAY_GIVE)
            .member("a", "b", MAY_GIVE)
            .member("b", "c", MAY_GIVE)
            .member("a", "c", MAY_GIVE);
    Climb.Result result = climb(tiny, "ines");
    assertThat(result.ladders())
        .extracting(ladder -> ladder.gained() + ":" + ladder.rungs().size())
        .containsExactly(
            tiny.principal("a") + ":1", tiny.principal("b") + ":2", tiny.principal("c") + ":2");
  }

  @Test
  void aSuperusersRoleCannotBeGivenByOthers() {
    TinyEstate tiny =
        TinyEstate.postgresql()
            .users("ines")
            .roles("boss")
            .power("boss", Power.SUPERUSER)
            .member("ines", "boss", MAY_GIVE);
    assertThat(climb(tiny, "ines").administrator()).isNull();
  }

  @Test
  void whoManagesRolesTakesAnyUntil15() {
    for (int major : new int[] {14, 18}) {
      TinyEstate tiny =
          new TinyEstate(PostgresqlRules.of(major))
              .users("ines", "rui")
              .roles("pg_execute_server_program")
              .power("ines", Power.MANAGE_ROLES);
      Climb.Result result = climb(tiny, "ines");
      assertThat(result.administrator() == null).isEqualTo(major == 18);
      if (major == 14) {
        assertThat(result.administrator().rungs())
            .extracting(Climb.Rung::means)
            .containsExactly(Means.MANAGES_ROLES, Means.LEAVES_THE_SERVER);
      }
    }
  }

  private static TinyEstate mariadb() {
    return new TinyEstate(MariadbRules.of(10, 11))
        .users("ines@%")
        .node(NodeKind.SCHEMA, "mysql")
        .node(NodeKind.TABLE, "mysql.global_priv")
        .node(NodeKind.SCHEMA, "s")
        .node(NodeKind.TABLE, "s.global_priv");
  }

  private static Means firstMeans(TinyEstate tiny) {
    Climb.Ladder ladder = climb(tiny, "ines@%").administrator();
    return ladder == null ? null : ladder.rungs().get(0).means();
  }

  @Test
  void accountsAreSetOrWrittenOnMariadb() {
    assertThat(firstMeans(mariadb().grant("ines@%", "create user", "")))
        .isEqualTo(Means.SETS_SECRETS);
    assertThat(firstMeans(mariadb().grant("ines@%", "update", "mysql.global_priv")))
        .isEqualTo(Means.WRITES_ACCOUNTS);
    assertThat(firstMeans(mariadb().grant("ines@%", "update", "s.global_priv"))).isNull();
    assertThat(firstMeans(mariadb().grant("ines@%", "select", "mysql.global_priv"))).isNull();
  }

  @Test
  void actingInAnothersNameNeedsARoutineToo() {
    assertThat(firstMeans(mariadb().grant("ines@%", "set user", ""))).isNull();
    assertThat(
            firstMeans(
                mariadb().grant("ines@%", "set user", "").grant("ines@%", "create routine", "s")))
        .isEqualTo(Means.ACTS_IN_HIS_NAME);
  }

  @Test
  void whoChangesAuthorizationTakesUsersPlacesButNoAdministrators() {
    TinyEstate tiny =
        new TinyEstate(HsqldbRules.rules())
            .users("ines", "rui", "boss")
            .roles("DBA", "CHANGE_AUTHORIZATION")
            .power("DBA", Power.SUPERUSER)
            .member("boss", "DBA")
            .member("ines", "CHANGE_AUTHORIZATION");
    Climb.Result result = climb(tiny, "ines");
    assertThat(result.administrator()).isNull();
    assertThat(result.ladders())
        .extracting(Climb.Ladder::gained)
        .containsExactly(tiny.principal("rui"));
  }

  @Test
  void whoIsAdministratorNeedsNoLadder() {
    TinyEstate tiny = TinyEstate.postgresql().users("ines").power("ines", Power.SUPERUSER);
    assertThat(climb(tiny, "ines").alreadyAdministrator()).isTrue();
    assertThat(climb(tiny, "ines").administrator()).isNull();
  }
}
