package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import org.junit.jupiter.api.Test;

/** A routine that runs as its owner needs an owner who may run it and gets into its schema. */
class RoutineOwnerTest {
  private final TinyEstate tiny =
      new TinyEstate(MariadbRules.of(10, 11))
          .fact("", NodeFact.PUBLIC_USED)
          .users("asker@%", "owner@%")
          .node(NodeKind.SCHEMA, "s")
          .table("s.t", null, "a:integer")
          .owned(NodeKind.ROUTINE, "s.g", "owner@%")
          .grant("asker@%", "execute", "s.g");

  private State execute() {
    Access access = tiny.build();
    return new Tracer(access, Clock.systemUTC())
        .trace(tiny.principal("asker@%"), Privilege.EXECUTE, tiny.at("s.g"), -1, 5)
        .state();
  }

  @Test
  void whatEverybodyHasOnSingleThingsLetsTheOwnerNotIn() {
    assertThat(execute()).isEqualTo(State.BLOCKED);
    tiny.grant("PUBLIC", "execute", "s.g");
    assertThat(execute()).isEqualTo(State.BLOCKED);
    tiny.grant("PUBLIC", "select", "s.t");
    assertThat(execute()).isEqualTo(State.BLOCKED);
  }

  @Test
  void somethingOfTheOwnersOwnInTheSchemaDoes() {
    tiny.grant("PUBLIC", "execute", "s.g").grant("owner@%", "select", "s.t");
    assertThat(execute()).isEqualTo(State.LIVE);
  }

  @Test
  void soDoesSomethingOnTheWholeOfIt() {
    tiny.grant("owner@%", "execute", "s.g");
    assertThat(execute()).isEqualTo(State.LIVE);
  }
}
