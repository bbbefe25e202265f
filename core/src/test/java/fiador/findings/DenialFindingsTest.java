package fiador.findings;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Revoke;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.evidence.Evidence;
import fiador.evidence.Evidence.Attempt;
import fiador.evidence.Evidence.Tries;
import fiador.evidence.EvidenceBuilder;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.Ownership;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What is found of denials, and of what was refused. */
class DenialFindingsTest extends FindingsFixture {
  /** Always on, and not switched to: else the one without the denial could be. */
  private static final Membership ON = Membership.of(false, true, false);

  private final TinyEstate denying =
      new TinyEstate(
              new HouseRulesBuilder("denying")
                  .on(NodeKind.SCHEMA, Privilege.SELECT)
                  .on(NodeKind.TABLE, Privilege.SELECT, Privilege.INSERT)
                  .onColumns(Privilege.SELECT)
                  .roles(Activation.ALL_ON)
                  .owners(Ownership.NONE)
                  .names(HsqldbRules.rules().names())
                  .with(HouseFact.DENIALS, HouseFact.COLUMNS_APART)
                  .build())
          .users("ines", "rui")
          .roles("readers", "others")
          .node(NodeKind.SCHEMA, "s")
          .node(NodeKind.TABLE, "s.a", "id", "phone")
          .node(NodeKind.TABLE, "s.b", "id")
          .member("ines", "readers", ON)
          .member("ines", "others", ON);

  @Test
  void whatTheSameOneWasGivenAndDenied() {
    denying.grant("readers", "select", "s.a", "phone").deny("readers", "select", "s.a");
    assertThat(found("denied-and-granted", denying))
        .containsExactly(
            "readers was given select on table s.a, and is denied select on table s.a");
    assertThat(found("denial-hides-grant", denying)).isEmpty();
    assertThat(found("denial-outlived", denying)).isEmpty();
    assertThat(
            look(denying).open().stream()
                .filter(found -> found.asked().id().equals("denied-and-granted"))
                .flatMap(found -> found.repair().stream()))
        .singleElement()
        .isInstanceOf(Revoke.class);
  }

  @Test
  void aDenialOfAPartContradictsNoGrantOfTheWhole() {
    denying.grant("readers", "select", "s.a").deny("readers", "select", "s.a", "phone");
    assertThat(found("denied-and-granted", denying)).isEmpty();
    assertThat(found("denial-hides-grant", denying))
        .containsExactly(
            "readers is denied select on phone of table s.a, which takes it from ines");
  }

  @Test
  void aDenialThatTakesWhatAnotherRoleGives() {
    denying.grant("others", "select", "s.a").deny("readers", "select", "s.a");
    assertThat(found("denial-hides-grant", denying))
        .containsExactly("readers is denied select on table s.a, which takes it from ines");
    assertThat(found("denied-and-granted", denying)).isEmpty();
  }

  @Test
  void aDenialThatStopsNobody() {
    denying.grant("others", "select", "s.a").deny("rui", "select", "s.a");
    assertThat(found("denial-outlived", denying))
        .containsExactly("rui is denied select on table s.a, and nobody there was given it");
    denying.grant("rui", "select", "s.a");
    assertThat(found("denial-outlived", denying)).isEmpty();
  }

  @Test
  void aRoleThatOnlyDeniesIsNotHollow() {
    denying.grant("others", "select", "s.a");
    assertThat(found("hollow-role", denying)).containsExactly("readers is held and gives nothing");
    denying.deny("readers", "insert", "s.a");
    assertThat(found("hollow-role", denying)).isEmpty();
  }

  @Test
  void whoIsRefusedTheSameAgainAndAgain() {
    assertThat(found("refused-often")).isEmpty();
    evidence = refused(4);
    assertThat(found("refused-often")).isEmpty();
    evidence = refused(5);
    assertThat(found("refused-often"))
        .containsExactly("rui was refused select on table d.s.a 5 times, last on 2026-11-23");
  }

  private Evidence refused(int times) {
    Access access = tiny.build();
    EvidenceBuilder builder = new EvidenceBuilder(access);
    for (int i = 0; i < times; i++) {
      builder.refused(tiny.principal("rui"), Privilege.SELECT, tiny.at("d.s.a"), NOW);
    }
    return builder.build();
  }

  @Test
  void whoIsRefusedManyThingsMayBeLookingAround() {
    Map<Attempt, Tries> tried = new java.util.HashMap<>();
    for (String thing : new String[] {"d.s.a", "d.s.b", "d.s.c", "d.s", "d"}) {
      tried.put(
          new Attempt(tiny.principal("rui"), Privilege.SELECT, tiny.at(thing)),
          new Tries(thing.equals("d.s.b") ? 2 : 1, NOW));
    }
    evidence = new Evidence(NOW, NOW, Map.of(), Map.of(), 6, 0, java.util.List.of(), tried);
    assertThat(found("refused-often"))
        .containsExactly(
            "rui tried 5 things they may not, select on table d.s.b most often; somebody looking"
                + " around?");
  }
}
