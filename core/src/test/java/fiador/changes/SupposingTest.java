package fiador.changes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.Supposing.Holds;
import fiador.changes.Supposing.May;
import fiador.changes.Supposing.Supposed;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.Wanted.Single;
import fiador.effects.State;
import fiador.effects.Tracer;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.refusal.BadInput;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What would be so if. */
final class SupposingTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final Place HERE = new Place("--suppose", 1, 1);

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "boss")
          .roles("reader", "writer")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.t", "a", "b")
          .grant("PUBLIC", "usage", "d.s")
          .grantBy("boss", "reader", "select", "d.s.t")
          .grant("writer", "insert", "d.s.t", "b")
          .member("rui", "reader");

  private State state(String user, Privilege privilege, int column, Supposed... all)
      throws BadInput {
    Access access = Supposing.of(tiny.build(), List.of(all), CLOCK).outcome().after();
    return new Tracer(access, CLOCK)
        .trace(tiny.principal(user), privilege, tiny.at("d.s.t"), column, 1)
        .state();
  }

  private static May may(boolean not, String grantee, Privilege privilege, String... columns) {
    Action action = new Action(privilege, List.of(columns));
    return new May(
        grantee,
        List.of(
            new Wanted.Grant(
                grantee, List.of(action), new Single(null, "s.t"), true, false, false, HERE)),
        not);
  }

  @Test
  void aRoleIsHeldOrNot() throws BadInput {
    assertThat(state("ines", Privilege.SELECT, -1)).isNull();
    assertThat(state("ines", Privilege.SELECT, -1, new Holds("ines", "reader", false)))
        .isEqualTo(State.LIVE);
    assertThat(state("rui", Privilege.SELECT, -1, new Holds("rui", "reader", true))).isNull();
  }

  @Test
  void somethingIsGrantedOrTakenWhoeverGaveIt() throws BadInput {
    assertThat(state("ines", Privilege.DELETE, -1, may(false, "ines", Privilege.DELETE)))
        .isEqualTo(State.LIVE);
    assertThat(state("ines", Privilege.SELECT, 1, may(false, "ines", Privilege.SELECT, "b")))
        .isEqualTo(State.LIVE);
    assertThat(state("rui", Privilege.SELECT, -1, may(true, "reader", Privilege.SELECT))).isNull();
    assertThat(
            state(
                "ines",
                Privilege.INSERT,
                1,
                new Holds("ines", "writer", false),
                may(true, "writer", Privilege.INSERT, "b")))
        .isNull();
  }

  @Test
  void oneFollowsTheOther() throws BadInput {
    assertThat(
            state(
                "ines",
                Privilege.SELECT,
                -1,
                new Holds("ines", "reader", false),
                new Holds("ines", "reader", true)))
        .isNull();
    Gap gap = Supposing.of(tiny.build(), List.of(new Holds("ines", "reader", false)), CLOCK);
    assertThat(gap.effects()).hasSize(1);
    assertThat(gap.effects().get(0).isGain()).isTrue();
  }

  @Test
  void whatChangesNothingIsSaid() {
    assertThatThrownBy(() -> state("rui", Privilege.SELECT, -1, new Holds("rui", "reader", false)))
        .hasMessage("rui holds reader already");
    assertThatThrownBy(() -> state("rui", Privilege.SELECT, -1, new Holds("rui", "writer", true)))
        .hasMessageContaining("was not given writer directly");
    assertThatThrownBy(() -> state("rui", Privilege.SELECT, -1, may(true, "rui", Privilege.SELECT)))
        .hasMessageContaining("nothing of that directly");
    assertThatThrownBy(
            () -> state("rui", Privilege.SELECT, -1, may(false, "reader", Privilege.SELECT)))
        .hasMessageContaining("all of that already");
    assertThatThrownBy(() -> state("rui", Privilege.SELECT, -1, new Holds("rui", "writr", false)))
        .hasMessageContaining("did you mean writer");
  }
}
