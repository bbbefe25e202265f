package fiador.findings;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.DropRole;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.estate.Account;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Secret;
import fiador.evidence.Evidence;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.findings.check.Asked;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.findings.check.Limits;
import fiador.findings.check.Phrase;
import fiador.findings.check.Waiver;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.MariadbRules;
import fiador.policies.Bypass;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Each check on an estate just large enough to have the trouble, and on one that has it not. */
final class FindingsTest {
  private static final Instant NOW = Instant.parse("2026-11-23T12:00:00Z");
  private static final Clock CLOCK = Clock.fixed(NOW, ZoneOffset.UTC);
  private static final Place PLACE = new Place("fiador.yaml", 1, 1);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .roles("readers", "writers", "owners")
          .owned(NodeKind.SCHEMA, "d.s", "owners")
          .grant("readers", "usage", "d.s")
          .owned(NodeKind.TABLE, "d.s.a", "owners", "id", "phone")
          .owned(NodeKind.TABLE, "d.s.b", "owners", "id")
          .owned(NodeKind.TABLE, "d.s.c", "owners", "id")
          .member("ines", "readers");

  private Expected expected = Expected.NOTHING;
  private Evidence evidence;
  private Identities identities;

  private static String text(Access access, Finding found) {
    StringBuilder text = new StringBuilder();
    if (found.principal() >= 0) {
      text.append(access.principals().name(found.principal())).append(' ');
    } else {
      text.append(access.tree().path(found.node())).append(' ');
    }
    for (Phrase.Part part : found.said().parts()) {
      if (part instanceof Phrase.Words words) {
        text.append(words.text());
      } else if (part instanceof Phrase.Who who) {
        text.append(access.principals().name(who.principal()));
      } else if (part instanceof Phrase.Where where) {
        text.append(where.withKind() ? access.tree().kind(where.node()).text() + " " : "");
        text.append(
            where.columns() == null
                ? access.tree().path(where.node())
                : where.columns().stream()
                    .mapToObj(column -> access.tree().column(where.node(), column))
                    .collect(Collectors.joining(", ")));
      }
    }
    return text.toString();
  }

  private Findings.Result look(TinyEstate estate) {
    return Findings.of(estate.build(), CLOCK, expected, evidence, identities);
  }

  private List<String> found(String check) {
    return found(check, tiny);
  }

  private List<String> found(String check, TinyEstate estate) {
    Access access = estate.build();
    return Findings.of(access, CLOCK, expected, evidence, identities).open().stream()
        .filter(found -> found.asked().id().equals(check))
        .map(found -> text(access, found))
        .toList();
  }

  private List<Step> repair(String check) {
    return look(tiny).open().stream()
        .filter(found -> found.asked().id().equals(check))
        .flatMap(found -> found.repair().stream())
        .toList();
  }

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

  private static Expected ours(String name) {
    return Expecting.nothing().ours(Set.of(name)).expected();
  }

  private static TinyEstate mariadb() {
    return new TinyEstate(MariadbRules.of(10, 11))
        .users("ines@%", "rui@10.1.%")
        .roles("readers")
        .node(NodeKind.SCHEMA, "sales_a")
        .node(NodeKind.SCHEMA, "sales_b")
        .node(NodeKind.TABLE, "sales_a.t");
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
  void accountsOpenToAnyHost() {
    assertThat(found("any-host", mariadb())).containsExactly("ines@% may log in from any host");
  }

  @Test
  void accountsWithoutAName() {
    assertThat(found("nameless-account", mariadb().users("@localhost")))
        .containsExactly("@localhost lets anybody in under any name");
  }

  @Test
  void theRightToGrantOn() {
    tiny.grant("readers", "select*", "d.s.a").grant("owners", "select*", "d.s.a");
    assertThat(found("grant-option")).containsExactly("readers may grant on select on d.s.a");
  }

  @Test
  void theRightToGiveRoles() {
    tiny.member("rui", "writers", Membership.of(true, true, true));
    assertThat(found("role-admin")).containsExactly("rui may give to anybody: writers");
  }

  @Test
  void rolesNobodyHolds() {
    assertThat(found("empty-role")).containsExactly("writers is held by nobody");
    assertThat(repair("empty-role")).containsExactly(new DropRole("writers"));
  }

  @Test
  void rolesOutsideTheUmbrella() {
    tiny.roles("umbrella").member("umbrella", "readers").member("umbrella", "owners");
    expected = Expecting.nothing().umbrella("umbrella").expected();
    assertThat(found("outside-umbrella"))
        .containsExactly("writers is not under the umbrella umbrella");
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
  void rolesHeldTwice() {
    tiny.member("writers", "readers").member("ines", "writers");
    assertThat(found("role-held-twice"))
        .containsExactly("ines holds readers directly, and already through writers");
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
  void accountsNobodyUses() {
    Instant from = NOW.minus(Duration.ofDays(100));
    Map<Integer, Instant> seen = Map.of(tiny.principal("ines"), NOW.minus(Duration.ofDays(1)));
    evidence = new Evidence(from, NOW, Map.of(), seen, 10, 0, List.of());
    assertThat(found("unused-account"))
        .containsExactly("rui did nothing in the 100 days that were watched");
    evidence = new Evidence(NOW.minus(Duration.ofDays(5)), NOW, Map.of(), seen, 10, 0, List.of());
    assertThat(found("unused-account")).isEmpty();
  }

  @Test
  void peopleWhoLeftAndAccountsOfNobody() {
    tiny.users("ines2", "ghost");
    identities =
        new Identities(
            List.of(
                new Identity("1", "Ines Duarte", true, null, null, List.of("ines", "INES2")),
                new Identity("2", "Rui Teles", false, null, null, List.of("rui"))));
    assertThat(found("left-person")).containsExactly("rui belongs to Rui Teles, who has left");
    assertThat(found("no-person")).containsExactly("ghost belongs to nobody in the identity list");
    assertThat(found("several-accounts"))
        .containsExactly("ines belongs to Ines Duarte, who also has ines2");
  }

  @Test
  void whoMovedAndKeptWhatNobodyElseHasThere() {
    tiny.users("new1", "new2").roles("shared", "old_work");
    for (String user : new String[] {"new1", "new2"}) {
      tiny.member(user, "shared", Membership.PLAIN);
    }
    tiny.member("new1", "old_work", Membership.PLAIN);
    Identities now =
        new Identities(
            List.of(
                new Identity("1", "One", true, null, "Network", List.of("new1")),
                new Identity("2", "Two", true, null, "Network", List.of("new2"))));
    identities = now;
    assertThat(found("moved-person")).isEmpty();
    identities =
        now.after(
            new Identities(
                List.of(
                    new Identity("1", "One", true, null, "Billing", List.of("new1")),
                    new Identity("2", "Two", true, null, "Billing", List.of("new2")))));
    assertThat(found("moved-person"))
        .containsExactly("new1 moved from Billing to Network, where nobody else has old_work");
  }

  @Test
  void accessPastItsDate() {
    tiny.account("ines", new Account(false, NOW.minusSeconds(86_400), null));
    tiny.member("rui", "writers", new Membership(false, true, true, 1000, false));
    expected = Expecting.nothing().ends(Map.of("rui", LocalDate.parse("2026-10-31"))).expected();
    assertThat(found("past-date"))
        .containsExactly(
            "ines ended on 2026-11-22 and still holds roles or grants",
            "rui was to end on 2026-10-31 and can still log in",
            "rui still holds writers, whose time is over");
  }

  private void duties(String umbrella) {
    expected =
        Expecting.nothing()
            .umbrella(umbrella)
            .duties(Map.of("both_hands", List.of("readers", "writers")))
            .expected();
  }

  @Test
  void bothHalvesOfADuty() {
    tiny.roles("all").member("all", "readers").member("all", "writers");
    tiny.member("rui", "all").member("ines", "writers");
    duties("all");
    assertThat(found("duty-conflict"))
        .containsExactly("ines holds readers and writers, which both_hands keeps apart");
    duties(null);
    assertThat(found("duty-conflict")).hasSize(2);
  }

  @Test
  void whoCanMakeItselfAdministrator() {
    tiny.roles("keys", "boss")
        .power("boss", Power.SUPERUSER)
        .member("keys", "boss")
        .member("rui", "keys", Membership.of(true, false, false));
    assertThat(found("climbs-to-administrator"))
        .containsExactly(
            "rui can make itself administrator: gives itself keys, then switches to a superuser");
  }

  @Test
  void missingAndOutdatedSecrets() {
    tiny.account("ines", new Account(false, null, null, false, Secret.OUTDATED))
        .account("rui", new Account(true, null, null, false, Secret.NONE));
    assertThat(found("weak-secret")).containsExactly("ines has a secret kept in an outdated way");
    assertThat(found("disabled-holder")).isEmpty();
    tiny.member("rui", "readers");
    assertThat(found("disabled-holder"))
        .containsExactly("rui is disabled and still holds roles or grants");
  }

  @Test
  void namesAgainstTheConvention() {
    tiny.roles("TempFix").grant("TempFix", "select", "d.s.a");
    expected =
        Expecting.nothing()
            .names(Map.of("access_role", "{schema}(ers|_read)", "user", "[a-z]{4}"))
            .purposes(Map.of("writers", "access", "owners", "owner"))
            .expected();
    assertThat(found("odd-name"))
        .containsExactly(
            "rui is not named like [a-z]{4}", "TempFix is not named like {schema}(ers|_read)");
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
  void longChainsAndManyRoles() {
    String last = "rui";
    for (int i = 0; i < 6; i++) {
      tiny.roles("r" + i).member(last, "r" + i);
      last = "r" + i;
    }
    for (int i = 0; i < 13; i++) {
      tiny.roles("m" + i).member("ines", "m" + i);
    }
    assertThat(found("long-chain")).containsExactly("rui holds r5 over 6 roles");
    assertThat(found("many-roles")).containsExactly("ines was given 14 roles one by one");
  }

  @Test
  void rolesThatAreNotOn() {
    tiny.member("rui", "writers", Membership.of(false, false, true));
    assertThat(found("not-switched-on"))
        .containsExactly("rui has no role on after login, only to switch to: writers");
  }

  @Test
  void viewsWhoseAccountIsGone() {
    tiny.node(NodeKind.VIEW, "d.s.v").fact("d.s.v", NodeFact.ORPHANED);
    assertThat(found("orphaned-view"))
        .containsExactly("d.s.v is to act with the rights of an account that is gone, and fails");
  }

  @Test
  void rolesThatGiveTheSame() {
    tiny.roles("twin", "other").grant("twin", "usage", "d.s").grant("other", "create", "d.s");
    assertThat(found("alike-roles")).containsExactly("twin gives exactly what readers gives");
  }

  @Test
  void usersHeldLikeRoles() {
    tiny.member("rui", "ines");
    assertThat(found("user-as-role")).containsExactly("ines is held like a role by rui");
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

  private static Waiver waiver(String finding, String on, String until) {
    return new Waiver(finding, on, "agreed", LocalDate.parse(until), PLACE);
  }

  @Test
  void checksThatAreOffOrCannotBeMadeAreNamed() {
    expected =
        Expecting.nothing().limits(new Limits(5, 60, 90, 12, Set.of("empty-role"))).expected();
    assertThat(found("empty-role")).isEmpty();
    assertThat(look(tiny).notLooked())
        .extracting(missing -> missing.asked().id())
        .containsExactlyInAnyOrder(
            "unused-account", "left-person", "no-person", "several-accounts", "moved-person");
  }
}
