package fiador.changes;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.effects.Need;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Whether several things are there in one session, and what would bring them there. */
final class RunningTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final Membership ON_REQUEST = Membership.of(false, false, true);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines")
          .roles("reads", "writes", "maker")
          .owned(NodeKind.SCHEMA, "d.s", "maker")
          .owned(NodeKind.TABLE, "d.s.t", "maker", "a", "b")
          .owned(NodeKind.TABLE, "d.s.u", "maker", "c")
          .node(NodeKind.TABLE, "d.s.w", "d")
          .grant("reads", "usage", "d.s")
          .grant("reads", "select", "d.s.t")
          .grant("writes", "usage", "d.s")
          .grant("writes", "update", "d.s.u");

  private Need reads(int... columns) {
    BitSet on = new BitSet();
    for (int column : columns) {
      on.set(column);
    }
    return new Need.Right(Privilege.SELECT.bit(), tiny.at("d.s.t"), on, false);
  }

  private Need updates() {
    BitSet on = new BitSet();
    on.set(0);
    return new Need.Right(Privilege.UPDATE.bit(), tiny.at("d.s.u"), on, false);
  }

  private Running.Answer ask(Need... needs) {
    return new Running(tiny.build(), CLOCK).of(tiny.principal("ines"), List.of(needs));
  }

  @Test
  void allOfItAfterLoginIsLive() {
    tiny.member("ines", "reads").member("ines", "writes");
    Running.Answer answer = ask(reads(0, 1), updates());
    assertThat(answer.state()).isEqualTo(State.LIVE);
    assertThat(answer.lines()).hasSize(3).allMatch(Running.Line::has);
    assertThat(answer.helps()).isEmpty();
  }

  @Test
  void eachInAnotherSessionIsNotEnough() {
    tiny.member("ines", "reads", ON_REQUEST).member("ines", "writes", ON_REQUEST);
    assertThat(ask(reads(0)).state()).isEqualTo(State.ON_REQUEST);
    assertThat(ask(reads(0)).role()).isEqualTo(tiny.principal("reads"));
    assertThat(ask(updates()).state()).isEqualTo(State.ON_REQUEST);
    Running.Answer both = ask(reads(0), updates());
    assertThat(both.works()).isFalse();
    assertThat(both.lines()).filteredOn(Running.Line::has).hasSize(1);
  }

  @Test
  void whatHelpsIsEnoughTogetherAndNoMore() {
    Running.Answer answer = ask(reads(0), updates());
    assertThat(answer.works()).isFalse();
    assertThat(answer.helps())
        .containsExactly(new GiveRole("reads", "ines"), new GiveRole("writes", "ines"));
    tiny.member("ines", "reads");
    assertThat(ask(reads(0), updates()).helps()).hasSize(1);
  }

  @Test
  void aGrantHelpsWhereNoRoleHasIt() {
    tiny.grant("ines", "usage", "d.s").grant("ines", "select", "d.s.t", "a");
    assertThat(ask(reads(0)).works()).isTrue();
    Need deletes = new Need.Right(Privilege.DELETE.bit(), tiny.at("d.s.w"), null, false);
    assertThat(ask(deletes).helps())
        .singleElement()
        .isInstanceOfSatisfying(
            Grant.class,
            grant -> {
              assertThat(grant.grantee()).isEqualTo("ines");
              assertThat(grant.privileges()).isEqualTo(Privilege.DELETE.bit());
            });
  }

  @Test
  void anyPartIsEnoughWhereOnlyThereBeingRowsCounts() {
    tiny.grant("ines", "usage", "d.s");
    Need any = new Need.Right(Privilege.SELECT.bit(), tiny.at("d.s.t"), null, true);
    assertThat(ask(any).works()).isFalse();
    tiny.grant("ines", "select", "d.s.t", "b");
    assertThat(ask(any).works()).isTrue();
  }

  @Test
  void ownersAndTheirMembersOwnAndNoGrantHelpsOthers() {
    Need owned = new Need.Ownership(tiny.at("d.s.t"));
    Running.Answer no = ask(owned);
    assertThat(no.works()).isFalse();
    assertThat(no.helps()).isEmpty();
    tiny.member("ines", "maker", ON_REQUEST);
    assertThat(ask(owned).state()).isEqualTo(State.ON_REQUEST);
  }
}
