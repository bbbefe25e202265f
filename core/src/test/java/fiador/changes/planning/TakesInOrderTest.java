package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Grant;
import fiador.changes.steps.LetIn;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.PostgresqlRules;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Givers have to take what they gave themselves, and need the way in for it. */
class TakesInOrderTest {
  private static final On SCHEMA = new On(NodeKind.SCHEMA, "d", List.of("s"));
  private static final On TABLE = new On(NodeKind.TABLE, "d", List.of("s", "t"));

  private static Revoke revoke(Privilege privilege, On on, String from, String by) {
    return new Revoke(privilege.bit(), on, List.of(), from, false, by);
  }

  private final TinyEstate tiny =
      new TinyEstate(PostgresqlRules.of(18))
          .users("giver", "taker")
          .roles("door")
          .member("giver", "door")
          .node(NodeKind.DATABASE, "d")
          .node(NodeKind.SCHEMA, "d.s")
          .table("d.s.t", null, "a:integer");

  @Test
  void thingsComeBeforeSchemasAndSchemasBeforeRoles() {
    Access access = tiny.grant("door", "connect", "d").grant("door", "usage", "d.s").build();
    Step role = new TakeRole("door", "giver", Membership.PLAIN, null, true);
    Step gate = revoke(Privilege.USAGE, SCHEMA, "giver", null);
    Step thing = revoke(Privilege.SELECT, TABLE, "taker", "giver");
    assertThat(TakesInOrder.among(access, List.of(role, gate, thing), Clock.systemUTC()))
        .containsExactly(thing, gate, role);
  }

  @Test
  void whoLacksTheWayInIsLetInForThat() {
    Step thing = revoke(Privilege.SELECT, TABLE, "taker", "giver");
    assertThat(TakesInOrder.among(tiny.build(), List.of(thing), Clock.systemUTC()))
        .containsExactly(new LetIn(thing, SCHEMA, "giver"));
  }

  @Test
  void whatIsGivenAgainComesAfterItWasTaken() {
    Access access = tiny.grant("door", "connect", "d").grant("door", "usage", "d.s").build();
    Step all = revoke(Privilege.SELECT, TABLE, "taker", null);
    Step part = new Grant(Privilege.SELECT.bit(), TABLE, List.of("a"), "taker", false);
    Step other = new Grant(Privilege.SELECT.bit(), TABLE, List.of(), "door", false);
    assertThat(TakesInOrder.among(access, List.of(all, part, other), Clock.systemUTC()))
        .containsExactly(other, all, part);
  }
}
