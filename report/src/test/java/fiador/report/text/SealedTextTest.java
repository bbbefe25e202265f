package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.climb.Climb;
import fiador.effects.Tracer;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.Ownership;
import fiador.report.shown.Shown;
import java.time.Clock;
import java.time.Instant;
import org.junit.jupiter.api.Test;

/** What is said to administrators of what is sealed. */
class SealedTextTest {
  private final TinyEstate tiny =
      new TinyEstate(
              new HouseRulesBuilder("house/x")
                  .on(NodeKind.SCHEMA, Privilege.USAGE)
                  .on(NodeKind.TABLE, Privilege.SELECT)
                  .gate(Gate.ofSealed(NodeKind.SCHEMA, Privilege.USAGE))
                  .owners(Ownership.OBJECT)
                  .names(HsqldbRules.rules().names())
                  .build())
          .users("ana", "chief")
          .power("chief", Power.SUPERUSER)
          .owned(NodeKind.SCHEMA, "lab", "ana")
          .owned(NodeKind.TABLE, "lab.t", "ana", "a");

  private String climbed() {
    Access access = tiny.build();
    return new ClimbText(access, 100, Instant.EPOCH)
        .text(new Climb(access).of(tiny.principal("chief")), null);
  }

  @Test
  void anAdministratorIsHeldByWhatIsSealedAlone() {
    assertThat(climbed()).contains("already: nothing holds it").doesNotContain("sealed");
    tiny.fact("lab", NodeFact.SEALED);
    assertThat(climbed()).contains("nothing holds it but what is sealed: schema lab");
    tiny.grant("chief", "usage", "lab");
    assertThat(climbed()).doesNotContain("sealed");
  }

  @Test
  void whatWouldHelpIsNothingThatAnAdministratorCanDo() {
    Access access = tiny.fact("lab", NodeFact.SEALED).build();
    var trace =
        new Tracer(access, Clock.systemUTC())
            .trace(tiny.principal("chief"), Privilege.SELECT, tiny.at("lab.t"), -1, 10);
    TraceWords words = new TraceWords(access, Shown.brief(access));
    assertThat(words.remedy(trace.remedies().get(0), -1))
        .isEqualTo("usage on schema lab to chief, by somebody who is let in there and may give it");
  }
}
