package fiador.repairs;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Revoke;
import fiador.effects.RandomAccess;
import fiador.estate.NodeKind;
import fiador.findings.check.Expected;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class RegroupTest {
  private static final Clock NOW =
      Clock.fixed(Instant.parse("2026-01-01T00:00:00Z"), ZoneOffset.UTC);

  private static Regroup.Result regroup(Access access) {
    return Regroup.of(access, NOW, Expected.NOTHING, null);
  }

  private static TinyEstate tables() {
    return TinyEstate.postgresql()
        .node(NodeKind.SCHEMA, "d.s")
        .node(NodeKind.TABLE, "d.s.a", "x", "y")
        .node(NodeKind.TABLE, "d.s.b", "x");
  }

  @Test
  void rolesThatGiveTheSameBecomeOne() {
    TinyEstate tiny = tables().users("u1", "u2", "u3").roles("r1", "r2", "r3");
    for (String role : new String[] {"r1", "r2", "r3"}) {
      tiny.grant(role, "select", "d.s.a").grant(role, "usage", "d.s");
    }
    tiny.member("u1", "r1", Membership.PLAIN)
        .member("u2", "r2", Membership.PLAIN)
        .member("u3", "r3", Membership.PLAIN);
    Regroup.Result result = regroup(tiny.build());
    assertThat(result.rolesNow()).isEqualTo(3);
    assertThat(result.atLeast()).isEqualTo(1);
    assertThat(result.exact()).isTrue();
    assertThat(result.groups())
        .singleElement()
        .satisfies(
            group -> {
              assertThat(group.role()).isPositive();
              assertThat(group.users().size()).isEqualTo(3);
            });
  }

  @Test
  void whatPeopleHaveThemselvesBecomesARole() {
    TinyEstate tiny = tables().users("u1", "u2");
    for (String user : new String[] {"u1", "u2"}) {
      tiny.grant(user, "select", "d.s.a", "x")
          .grant(user, "select", "d.s.b")
          .grant(user, "delete", "d.s.b");
    }
    Regroup.Result result = regroup(tiny.build());
    assertThat(result.groups()).hasSize(1);
    assertThat(result.groups().get(0).name()).isEqualTo("regrouped_1");
    assertThat(result.grantsNow()).isEqualTo(6);
    assertThat(result.gap().plan().steps())
        .anyMatch(step -> step instanceof GiveRole give && give.member().equals("u2"))
        .filteredOn(step -> step instanceof Revoke)
        .hasSize(6);
    assertThat(result.gap().effects()).isEmpty();
    assertThat(result.exact()).isTrue();
  }

  @Test
  void whatANewRoleCouldNotCarryIsLeftAlone() {
    Access access =
        tables()
            .users("u1", "u2", "u3")
            .roles("owner", "switched", "granting")
            .owned(NodeKind.TABLE, "d.s.c", "owner", "x")
            .grant("switched", "select", "d.s.a")
            .grant("granting", "select*", "d.s.b")
            .member("u1", "owner", Membership.PLAIN)
            .member("u2", "switched", Membership.of(false, false, true))
            .member("u3", "granting", Membership.PLAIN)
            .build();
    Regroup.Result result = regroup(access);
    assertThat(result.groups()).isEmpty();
    assertThat(result.gap().plan().steps()).isEmpty();
  }

  @Property(tries = 500)
  void nobodyGainsOrLosesAnything(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    if (Regroup.isPossible(access)) {
      Regroup.Result result = regroup(access);
      assertThat(result.gap().effects()).isEmpty();
      assertThat(result.exact()).isTrue();
      assertThat(result.groups().size()).isGreaterThanOrEqualTo(result.atLeast());
    }
  }

  @Test
  void theRandomEstatesHaveSomethingToRegroup() {
    int regrouped = 0;
    for (long seed = 0; seed < 100; seed++) {
      Access access = RandomAccess.of(seed);
      boolean possible = Regroup.isPossible(access);
      regrouped += possible && !regroup(access).gap().plan().steps().isEmpty() ? 1 : 0;
    }
    assertThat(regrouped).isGreaterThan(30);
  }
}
