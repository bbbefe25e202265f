package fiador.findings;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.across.Atlas;
import fiador.changes.steps.DropRole;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.Wanted;
import fiador.estate.Account;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.Secret;
import fiador.evidence.Evidence;
import fiador.evidence.Identities;
import fiador.evidence.Identities.Identity;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Sights;
import fiador.grants.TinyEstate;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Each check about accounts and roles finds what it is for, and nothing where that is not so. */
class AccountFindingsTest extends FindingsFixture {
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
  void theRightToGiveRoles() {
    tiny.member("rui", "writers", Membership.of(true, true, true));
    assertThat(found("role-admin")).containsExactly("rui may give to anybody: writers");
  }

  @Test
  void rolesThatGiveNothing() {
    tiny.roles("once", "opener").member("rui", "once").member("rui", "opener");
    assertThat(found("hollow-role"))
        .containsExactly("once is held and gives nothing", "opener is held and gives nothing");
    tiny.grant("once", "select", "d.s.a").member("opener", "readers");
    assertThat(found("hollow-role")).isEmpty();
  }

  @Test
  void rolesThatAreThereForSomethingElseAreNotHollow() {
    tiny.roles("named", "ruled", "coming", "named_too");
    for (String role : List.of("named", "ruled", "coming", "named_too")) {
      tiny.member("rui", role);
    }
    tiny.kept("d.s.b", "d.s.a", true, "any\tp\tholds(named)\tfalse\ttrue")
        .filter(
            "d.s.a",
            new Sights.Rule("r", true, 1, List.of(tiny.principal("ruled")), "true", "true"))
        .later("owners", "d.s", "select", "coming");
    // a name that only begins like one that is named
    assertThat(found("hollow-role")).containsExactly("named_too is held and gives nothing");
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
  void rolesHeldTwice() {
    tiny.member("writers", "readers").member("ines", "writers");
    assertThat(found("role-held-twice"))
        .containsExactly("ines holds readers directly, and already through writers");
  }

  @Test
  void accountsNobodyUses() {
    Instant from = NOW.minus(Duration.ofDays(100));
    Map<Integer, Instant> seen = Map.of(tiny.principal("ines"), NOW.minus(Duration.ofDays(1)));
    evidence = new Evidence(from, NOW, Map.of(), seen, 10, 0, List.of(), Map.of());
    assertThat(found("unused-account"))
        .containsExactly("rui did nothing in the 100 days that were watched");
    evidence =
        new Evidence(
            NOW.minus(Duration.ofDays(5)), NOW, Map.of(), seen, 10, 0, List.of(), Map.of());
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
    expected =
        Expecting.nothing().ends(Map.of("rui", Instant.parse("2026-11-01T00:00:00Z"))).expected();
    assertThat(found("past-date"))
        .containsExactly(
            "ines ended on 2026-11-22 and still holds roles or grants",
            "rui was to end on 2026-10-31 and can still log in",
            "rui still holds writers, whose time is over");
  }

  @Test
  void whatWasGivenForATimeThatIsOver() {
    Instant over = Instant.parse("2026-11-01T00:00:00Z");
    tiny.member("rui", "writers").grant("rui", "select", "d.s.a").grant("rui", "select", "d.s.b");
    Wanted.Action select = new Wanted.Action(Privilege.SELECT, List.of());
    Wanted.Target all = new Wanted.Every(Set.of(NodeKind.TABLE), "s");
    Wanted demanded =
        new Wanted(
            List.of(new Wanted.Principal("writers", PLACE)),
            List.of(new Wanted.Principal("rui", PLACE)),
            List.of(new Wanted.Member("rui", "writers", PLACE).at(new Period(null, over))),
            List.of(
                new Wanted.Grant("rui", List.of(select), all, true, false, false, PLACE)
                    .at(new Period(null, over))));
    expected = Expecting.nothing().demanded(demanded).expected();
    assertThat(found("past-term"))
        .containsExactlyInAnyOrder(
            "rui still has grants on d.s.a and 1 more, given until 2026-10-31",
            "rui still holds writers, given until 2026-10-31");
    expected = Expecting.nothing().demanded(demanded.at(NOW)).expected();
    assertThat(found("past-term")).isEmpty();
  }

  @Test
  void secretsThatAreOld() {
    Account since = Account.PLAIN.withSecretSince(NOW.minus(Duration.ofDays(366)));
    tiny.account("ines", since)
        .account("rui", Account.PLAIN.withSecretSince(NOW.minus(Duration.ofDays(365))));
    assertThat(found("old-secret"))
        .containsExactly("ines has had the same secret since 2025-11-22, 366 days");
    tiny.account("ines", since.with(true, null));
    assertThat(found("old-secret")).as("one who cannot log in").isEmpty();
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
  void halvesOfADutyOnTwoServers() {
    TinyEstate branch =
        TinyEstate.postgresql()
            .reached("branch", "branch.box:5432")
            .users("duarte", "rui")
            .roles("writers")
            .member("duarte", "writers")
            .member("rui", "writers");
    identities =
        new Identities(
            List.of(
                new Identity("1", "Ines", true, null, null, List.of("box:ines", "branch:duarte")),
                new Identity("2", "Rui", true, null, null, List.of("rui"))));
    duties(null);
    Access access = tiny.build();
    Atlas atlas = new Atlas(List.of(branch.build()));
    assertThat(
            Findings.of(access, CLOCK, expected, evidence, identities, atlas).open().stream()
                .filter(found -> found.asked().id().equals("duty-conflict"))
                .map(found -> text(access, found)))
        .containsExactly(
            "ines holds readers here and writers on branch as duarte, which both_hands keeps apart");
    identities = null;
    assertThat(found("duty-conflict")).as("nobody says who is who").isEmpty();
  }

  @Test
  void anAccountOfOneServerIsNobodysOnAnother() {
    identities =
        new Identities(
            List.of(new Identity("1", "Ines", false, null, null, List.of("branch:ines"))));
    assertThat(found("left-person")).isEmpty();
    identities =
        new Identities(List.of(new Identity("1", "Ines", false, null, null, List.of("box:ines"))));
    assertThat(found("left-person")).containsExactly("ines belongs to Ines, who has left");
  }

  @Test
  void loginsToOtherServersThatAreNobodysOwn() {
    tiny.away("far", Abroad.Carrier.POSTGRESQL, "far.box", "")
        .mapping("ines", "far", "reader", true)
        .mapping("PUBLIC", "far", "guest", true);
    assertThat(found("shared-login"))
        .containsExactly("d everybody without a mapping of their own goes on to far as guest");
  }
}
