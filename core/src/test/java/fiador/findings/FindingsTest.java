package fiador.findings;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Revoke;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.findings.check.Asked;
import fiador.findings.check.Finding;
import fiador.findings.check.Limits;
import fiador.findings.check.Waiver;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.policies.Bypass;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Each check on an estate just large enough to have the trouble, and on one that has it not. */
final class FindingsTest extends FindingsFixture {
  @Test
  void theCatalogueHasEachIdOnce() {
    List<String> ids = Findings.catalogue().stream().map(Asked::id).toList();
    assertThat(ids).doesNotHaveDuplicates().hasSizeGreaterThanOrEqualTo(25);
  }

  @Test
  void grantsStraightToPeople() {
    tiny.grant("rui", "select", "d.s.a").grant("rui", "update", "d.s.a", "phone");
    assertThat(found("direct-grant"))
        .containsExactly("rui was granted select on d.s.a and 1 more, no role between");
    assertThat(repair("direct-grant")).hasSize(2).allMatch(Revoke.class::isInstance);
  }

  @Test
  void whatAnOwnerHasOfHisOwnWasNotGranted() {
    tiny.owned(NodeKind.TABLE, "d.s.mine", "rui").grant("rui", "select", "d.s.mine");
    assertThat(found("direct-grant")).isEmpty();
  }

  @Test
  void grantsToEverybody() {
    tiny.grant("PUBLIC", "select", "d.s.b").grant("PUBLIC", "usage", "d.s");
    assertThat(found("open-to-everybody")).containsExactly("d.s.b is open to everybody: select");
  }

  @Test
  void powersOfTheWholeServer() {
    tiny.roles("boss").power("boss", Power.READ_EVERYTHING).member("rui", "boss");
    assertThat(found("broad-power"))
        .containsExactly("rui has administrator's powers: read everything");
  }

  @Test
  void whoAdministersWithTheToolIsNoFinding() {
    tiny.power("rui", Power.SUPERUSER);
    expected = ours("rui");
    assertThat(found("broad-power")).isEmpty();
  }

  @Test
  void privilegesOnTheWholeServerOrByPattern() {
    int all = NodeKind.allObjects() | NodeKind.SCHEMA.bit();
    Terms everywhere = new Terms(fiador.estate.Privilege.SELECT.bit(), 0, all, Terms.FOREVER);
    TinyEstate estate =
        mariadb().grant("readers", "", everywhere).pattern("rui@10.1.%", "sales\\_%", "insert");
    assertThat(found("broad-scope", estate))
        .containsExactly(
            "readers was granted select on the whole server",
            "rui@10.1.% was granted insert on schemas like sales\\_%: 2 today");
  }

  @Test
  void theRightToGrantOn() {
    tiny.grant("readers", "select*", "d.s.a").grant("owners", "select*", "d.s.a");
    assertThat(found("grant-option")).containsExactly("readers may grant on select on d.s.a");
  }

  @Test
  void privilegesHeldTwice() {
    tiny.grant("readers", "select", "d.s.a")
        .grant("writers", "select", "d.s.a", "phone")
        .member("writers", "readers");
    assertThat(found("held-twice"))
        .containsExactly("writers has select on d.s.a already through readers");
  }

  @Test
  void ofTwoRolesInACircleNeitherGrantIsInExcess() {
    tiny.grant("readers", "select", "d.s.a")
        .grant("writers", "select", "d.s.a")
        .member("writers", "readers")
        .member("readers", "writers");
    assertThat(found("held-twice")).isEmpty();
  }

  @Test
  void whatOnlyTheRoleMayGrantOnIsNotHeldTwice() {
    tiny.grant("readers", "select", "d.s.a")
        .grant("writers", "select*", "d.s.a")
        .member("writers", "readers");
    assertThat(found("held-twice")).isEmpty();
  }

  @Test
  void privilegesBehindAShutGate() {
    tiny.grant("writers", "select", "d.s.b").member("rui", "writers").member("ines", "writers");
    assertThat(found("missing-gate"))
        .containsExactly(
            "writers holds rights in schema d.s that do nothing: usage on it is missing");
    Finding finding =
        look(tiny).open().stream()
            .filter(found -> found.asked().id().equals("missing-gate"))
            .findFirst()
            .orElseThrow();
    // ines comes through the gate by another role
    assertThat(finding.users().toIntArray()).containsExactly(tiny.principal("rui"));
  }

  @Test
  void writeWithoutRead() {
    tiny.grant("readers", "update", "d.s.a")
        .grant("readers", "delete", "d.s.b")
        .grant("readers", "select", "d.s.b");
    assertThat(found("write-without-read"))
        .containsExactly("readers may update on d.s.a and may not read it");
  }

  @Test
  void tablesThatWereForgotten() {
    tiny.grant("readers", "select", "d.s.a").grant("readers", "select", "d.s.b");
    assertThat(found("partly-covered"))
        .containsExactly("readers has select on 2 of 3 tables in d.s, not on d.s.c");
  }

  @Test
  void tablesStillToBeCreated() {
    for (String table : List.of("a", "b", "c")) {
      tiny.grant("readers", "select", "d.s." + table).grant("writers", "insert", "d.s." + table);
    }
    tiny.later("owners", "d.s", "insert", "writers");
    assertThat(found("later-uncovered"))
        .containsExactly(
            "readers has select on all 3 tables in d.s, but not on what owners will create there");
    assertThat(found("partly-covered")).isEmpty();
  }

  @Test
  void thingsMadeByTheWrongRole() {
    tiny.owned(NodeKind.VIEW, "d.s.v", "writers").owned(NodeKind.TABLE, "d.s.r", "rui");
    assertThat(found("odd-owner"))
        .containsExactly("d.s.v belongs to writers, the rest of d.s to owners");
    assertThat(found("person-owns")).containsExactly("rui owns table d.s.r");
    assertThat(repair("person-owns")).hasSize(1);
  }

  @Test
  void waysRoundPolicies() {
    TinyEstate estate =
        new TinyEstate(HsqldbRules.rules())
            .users("ines", "rui")
            .node(NodeKind.SCHEMA, "s")
            .table("s.t", null, "district:text", "phone:text")
            .node(NodeKind.VIEW, "s.t_safe", "district", "phone")
            .reads("s.t_safe", "s.t", "district", "phone")
            .node(NodeKind.VIEW, "s.v", "phone")
            .reads("s.v", "s.t", "phone")
            .kept(
                "s.t_safe",
                "s.t",
                true,
                "mask\tstars\ttrue\tphone\tstars",
                "any\tnorth\ttrue\tfalse\tdistrict = 'north'")
            .grant("ines", "select", "s.t_safe")
            .grant("rui", "select", "s.v");
    assertThat(found("mask-bypassed", estate))
        .containsExactly("s.v shows phone of s.t unmasked to rui");
    assertThat(found("rows-bypassed", estate))
        .containsExactly("s.v shows hidden rows of s.t to rui");
    assertThat(new Bypass(estate.build(), CLOCK).ways()).hasSize(1);
  }

  @Test
  void policiesChangedByHand() {
    tiny.kept("d.s.a", "d.s.a", false, "mask\tstars\ttrue\tphone\tstars");
    assertThat(found("policy-changed"))
        .containsExactly("d.s.a keeps the policies of d.s.a and was changed by hand");
  }

  @Test
  void whoPassesASeal() {
    tiny.grant("readers", "select", "d.s.a").member("rui", "readers");
    Seal seal = new Seal("vault", List.of(new Labelled("s", PLACE)), List.of("ines"), PLACE);
    expected = Expecting.nothing().seals(List.of(seal)).expected();
    assertThat(found("seal-passed")).containsExactly("rui passes the seal vault: select on d.s.a");
  }

  @Test
  void viewsWhoseAccountIsGone() {
    tiny.node(NodeKind.VIEW, "d.s.v").fact("d.s.v", NodeFact.ORPHANED);
    assertThat(found("orphaned-view"))
        .containsExactly("d.s.v is to act with the rights of an account that is gone, and fails");
  }

  @Test
  void waiversAcceptAFindingUntilTheirDay() {
    tiny.grant("rui", "select", "d.s.a").grant("ines", "select", "d.s.a");
    List<Waiver> waivers = new ArrayList<>();
    waivers.add(waiver("direct-grant", "user rui", "2026-11-23"));
    waivers.add(waiver("direct-grant", "user ines", "2026-11-22"));
    waivers.add(waiver("open-to-everybody", "s.a", "2027-01-01"));
    expected = Expecting.nothing().waivers(waivers).expected();
    Findings.Result result = look(tiny);
    assertThat(result.waived()).hasSize(1);
    assertThat(found("direct-grant")).hasSize(1).first().asString().startsWith("ines");
    assertThat(result.idle())
        .extracting(Findings.Idle::why)
        .containsExactly("ended on 2026-11-22", "fits nothing that was found");
  }

  @Test
  void checksThatAreOffOrCannotBeMadeAreNamed() {
    expected =
        Expecting.nothing()
            .limits(new Limits(5, 60, 90, 12, 365, 5, Set.of("empty-role")))
            .expected();
    assertThat(found("empty-role")).isEmpty();
    assertThat(look(tiny).notLooked())
        .extracting(missing -> missing.asked().id())
        .containsExactlyInAnyOrder(
            "unused-account",
            "refused-often",
            "left-person",
            "no-person",
            "several-accounts",
            "moved-person");
  }
}
