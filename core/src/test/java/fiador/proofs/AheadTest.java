package fiador.proofs;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import fiador.proofs.Proof.Who;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What people could make themselves able to do. */
final class AheadTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final Membership MAY_GIVE = Membership.of(true, false, false);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "sa", "olga")
          .roles("steward", "keeper", "lab_owner")
          .power("sa", Power.SUPERUSER)
          .owned(NodeKind.SCHEMA, "d.lab", "lab_owner")
          .owned(NodeKind.TABLE, "d.lab.samples", "lab_owner", "id", "note")
          .grant("steward", "usage", "d.lab")
          .grant("steward", "select", "d.lab.samples")
          .member("ines", "steward");

  private static Prover.Result prove(TinyEstate tiny, Proof proof) {
    return new Prover(tiny.build(), CLOCK).prove(proof);
  }

  private Prover.Result only(String role) {
    return prove(
        tiny, new Proof.Only(List.of(new Who(role)), Privilege.SELECT, "lab.samples", true));
  }

  private Prover.Result never(String user) {
    return prove(tiny, new Proof.Cannot(new Who(user), Privilege.SELECT, "lab.samples", true));
  }

  @Test
  void whoHasNoMeansNeverCan() {
    Prover.Result only = only("steward");
    assertThat(only.holds()).isTrue();
    assertThat(only.remarks()).containsExactly(tiny.principal("sa"));
    assertThat(never("rui").holds()).isTrue();
  }

  @Test
  void whoCanAlreadyNeedsNoLadder() {
    Prover.Result ines = never("ines");
    assertThat(ines.holds()).isFalse();
    assertThat(ines.ways()).containsEntry(tiny.principal("ines"), List.of());
  }

  @Test
  void whoMayOnlyGiveTheRoleIsAgainstItWhileHoldersAreNot() {
    tiny.member("rui", "steward", MAY_GIVE);
    assertThat(
            prove(
                    tiny,
                    new Proof.Only(List.of(new Who("steward")), Privilege.SELECT, "lab.samples"))
                .holds())
        .isTrue();
    Prover.Result only = only("steward");
    assertThat(only.against()).containsExactly(tiny.principal("rui"));
    assertThat(only.ways().get(tiny.principal("rui"))).hasSize(1);
    assertThat(never("rui").holds()).isFalse();
  }

  @Test
  void whoActsAsTheOwnerGrantsWhatTheOwnerHasNotItself() {
    tiny.withheld("d.lab.samples", Privilege.SELECT).member("olga", "lab_owner");
    assertThat(
            prove(tiny, new Proof.Cannot(new Who("olga"), Privilege.SELECT, "lab.samples")).holds())
        .isTrue();
    assertThat(only("steward").against()).containsExactly(tiny.principal("olga"));
    List<Rung> rungs = never("olga").ways().get(tiny.principal("olga"));
    assertThat(rungs)
        .singleElement()
        .isInstanceOfSatisfying(
            Rung.Grants.class,
            grants -> {
              assertThat(grants.owner()).isTrue();
              assertThat(grants.node()).isEqualTo(tiny.at("d.lab.samples"));
              assertThat(grants.by()).isEqualTo(tiny.principal("lab_owner"));
            });
  }

  @Test
  void aGateIsOpenedByWhoMayGrantItToTheRoleItActsAs() {
    // acting as keeper there is no usage, and ines' own right does not count there
    tiny.grant("keeper", "select", "d.lab.samples")
        .member("rui", "keeper", Membership.of(false, false, true))
        .grant("rui", "usage*", "d.lab");
    assertThat(
            prove(tiny, new Proof.Cannot(new Who("rui"), Privilege.SELECT, "lab.samples")).holds())
        .isTrue();
    assertThat(only("steward").against()).containsExactly(tiny.principal("rui"));
    assertThat(never("rui").ways().get(tiny.principal("rui")))
        .singleElement()
        .isInstanceOfSatisfying(
            Rung.Grants.class,
            grants -> assertThat(grants.to()).isEqualTo(tiny.principal("keeper")));
  }

  @Test
  void aGateThatNobodyOpensKeepsOut() {
    tiny.grant("rui", "select", "d.lab.samples");
    assertThat(never("rui").holds()).isTrue();
    assertThat(only("steward").holds()).isTrue();
  }

  @Test
  void whoCanBecomeAdministratorCanDoAnything() {
    tiny.roles("pg_execute_server_program").member("rui", "pg_execute_server_program", MAY_GIVE);
    assertThat(only("steward").against()).containsExactly(tiny.principal("rui"));
    assertThat(never("rui").ways().get(tiny.principal("rui"))).hasSize(2);
  }

  @Test
  void theWayIsNoLongerThanItHasToBe() {
    tiny.roles("a", "b", "c")
        .member("rui", "a", MAY_GIVE)
        .member("a", "b", MAY_GIVE)
        .member("b", "steward", MAY_GIVE)
        .member("rui", "c", MAY_GIVE)
        .grant("c", "usage", "d.lab");
    assertThat(never("rui").ways().get(tiny.principal("rui")))
        .extracting(rung -> ((Rung.Climbs) rung).rung().gained())
        .containsExactly(tiny.principal("a"), tiny.principal("b"), tiny.principal("steward"));
  }

  @Test
  void whoMovesATableTakesItToWhereTheyRead() {
    TinyEstate mariadb =
        new TinyEstate(MariadbRules.of(10, 11))
            .users("rui@%", "ines@%")
            .node(NodeKind.SCHEMA, "lab")
            .node(NodeKind.TABLE, "lab.samples", "id")
            .node(NodeKind.SCHEMA, "own")
            .grant("rui@%", "alter", "lab.samples")
            .grant("rui@%", "drop", "lab.samples")
            .grant("rui@%", "select", "own")
            .grant("rui@%", "create", "own")
            .grant("ines@%", "select", "own")
            .grant("ines@%", "create", "own")
            .grant("ines@%", "insert", "own");
    Proof nobody = new Proof.Nobody(List.of(), Privilege.SELECT, "lab.samples", true);
    assertThat(prove(mariadb, nobody).holds()).isTrue();
    mariadb.grant("rui@%", "insert", "own");
    Prover.Result result = prove(mariadb, nobody);
    assertThat(result.against()).containsExactly(mariadb.principal("rui@%"));
    assertThat(result.ways().get(mariadb.principal("rui@%")))
        .containsExactly(
            new Rung.Moves(
                mariadb.principal("rui@%"), mariadb.at("lab.samples"), mariadb.at("own")));
  }

  @Test
  void whoTakesAnyPlaceCanWhatAnybodyCan() {
    TinyEstate hsqldb =
        new TinyEstate(HsqldbRules.rules())
            .users("ines", "rui", "olga")
            .roles("CHANGE_AUTHORIZATION")
            .member("rui", "CHANGE_AUTHORIZATION")
            .node(NodeKind.SCHEMA, "lab")
            .node(NodeKind.TABLE, "lab.samples", "id");
    Proof only = new Proof.Only(List.of(new Who("ines")), Privilege.SELECT, "lab.samples", true);
    assertThat(prove(hsqldb, only).against()).isEmpty();
    hsqldb.grant("ines", "select", "lab.samples");
    Prover.Result result = prove(hsqldb, only);
    assertThat(result.against()).containsExactly(hsqldb.principal("rui"));
    assertThat(result.ways().get(hsqldb.principal("rui"))).hasSize(1);
  }
}
