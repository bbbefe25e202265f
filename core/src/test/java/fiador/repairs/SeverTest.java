package fiador.repairs;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.RandomAccess;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HsqldbRules;
import java.time.Clock;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

final class SeverTest {
  private static final Clock CLOCK = Clock.systemUTC();

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "lia")
          .roles("readers", "analysts", "boss")
          .node(NodeKind.SCHEMA, "d.s")
          .grant("readers", "usage", "d.s")
          .node(NodeKind.TABLE, "d.s.a")
          .node(NodeKind.TABLE, "d.s.b")
          .grant("readers", "select", "d.s.a")
          .grant("readers", "select", "d.s.b")
          .member("analysts", "readers")
          .member("rui", "readers")
          .member("lia", "readers");

  private Sever.Result sever(String user) {
    return new Sever(tiny.build(), CLOCK)
        .of(tiny.principal(user), Privilege.SELECT, tiny.at("d.s.a"), -1);
  }

  private static List<Step> steps(Sever.Result result) {
    return result.ways().get(0).gap().plan().steps();
  }

  @Test
  void aMembershipGoesWhereTheGrantServesOthers() {
    tiny.member("ines", "analysts");
    Sever.Result result = sever("ines");
    assertThat(steps(result)).hasSize(1).first().isInstanceOf(TakeRole.class);
    assertThat(result.ways().get(0).others()).isZero();
  }

  @Test
  void aGrantGoesWhereTheUserIsAloneInNeedingMore() {
    tiny.roles("own").grant("own", "select", "d.s.a").grant("own", "update", "d.s.a");
    tiny.member("ines", "own").grant("own", "insert", "d.s.a").grant("own", "delete", "d.s.b");
    Sever.Result result = sever("ines");
    assertThat(steps(result)).hasSize(1).first().isInstanceOf(Revoke.class);
    assertThat(result.ways().get(0).lostBesides()).isZero();
  }

  @Test
  void allWaysAreClosed() {
    tiny.member("ines", "analysts").member("ines", "readers").grant("ines", "select", "d.s.a");
    assertThat(steps(sever("ines"))).hasSize(3);
  }

  @Test
  void whatNoRevocationTakesIsNamed() {
    tiny.owned(NodeKind.TABLE, "d.s.mine", "ines");
    Sever.Result result =
        new Sever(tiny.build(), CLOCK)
            .of(tiny.principal("ines"), Privilege.SELECT, tiny.at("d.s.mine"), -1);
    assertThat(result.held()).isTrue();
    assertThat(result.ways()).isEmpty();
    assertThat(result.inTheWay()).extracting(Sever.Firm::node).containsExactly(tiny.at("d.s.mine"));
  }

  @Test
  void aRoleWithAPowerCanBeTaken() {
    TinyEstate estate =
        new TinyEstate(HsqldbRules.rules())
            .users("ines")
            .roles("DBA")
            .power("DBA", Power.SUPERUSER)
            .node(NodeKind.SCHEMA, "s")
            .node(NodeKind.TABLE, "s.t")
            .member("ines", "DBA");
    Sever.Result result =
        new Sever(estate.build(), CLOCK)
            .of(estate.principal("ines"), Privilege.SELECT, estate.at("s.t"), -1);
    assertThat(steps(result)).hasSize(1).first().isInstanceOf(TakeRole.class);
  }

  @Test
  void whatIsNotHeldIsSaid() {
    assertThat(sever("ines").held()).isFalse();
  }

  @Property(tries = 1500)
  void afterwardsItIsGoneAndNobodyGained(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    Holdings holdings = new Holdings(access, CLOCK, true);
    List<Holding> theirs = holdings.of(1);
    if (theirs.isEmpty()) {
      return;
    }
    Holding one = theirs.get((int) Math.floorMod(seed, (long) theirs.size()));
    Sever.Result result = new Sever(access, CLOCK).of(1, one.privilege(), one.node(), -1);
    assertThat(result.held()).isTrue();
    if (!access.rules().has(HouseFact.DENIALS)) {
      assertThat(result.ways().isEmpty()).isNotEqualTo(result.inTheWay().isEmpty());
    }
    for (Sever.Way way : result.ways()) {
      Access after = way.gap().outcome().after();
      assertThat(new Holdings(after, CLOCK, true).at(1, one.node()))
          .noneMatch(
              row -> row.privilege() == one.privilege() && (!way.denies() || row.state().works()));
      assertThat(way.gap().effects()).noneMatch(Change::isGain);
    }
  }

  @Property(tries = 500)
  void everyStepOfAWayIsNeeded(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    List<Holding> theirs = new Holdings(access, CLOCK, true).of(2);
    if (theirs.isEmpty() || access.rules().has(HouseFact.DENIALS)) {
      return;
    }
    Holding one = theirs.get((int) Math.floorMod(seed, (long) theirs.size()));
    for (Sever.Way way : new Sever(access, CLOCK).of(2, one.privilege(), one.node(), -1).ways()) {
      List<Step> steps = way.gap().plan().steps();
      for (int left = 0; left < steps.size(); left++) {
        List<Step> fewer = new java.util.ArrayList<>(steps);
        fewer.remove(left);
        Access after = fiador.changes.Gap.of(access, fewer, CLOCK).outcome().after();
        assertThat(new Holdings(after, CLOCK, true).at(2, one.node()))
            .anyMatch(row -> row.privilege() == one.privilege());
      }
    }
  }
}
