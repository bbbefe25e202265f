package fiador.work.settling;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.Deny;
import fiador.changes.steps.On;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.files.journal.Journal;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.PostgresqlRules;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

final class LaidAsideTest {
  private static final On TABLE = new On(NodeKind.TABLE, null, List.of("s", "t"));
  private static final Deny BRIEF =
      new Deny(Privilege.SELECT.bit(), TABLE, List.of(), "ines", false, true);

  private final TinyEstate tiny =
      new TinyEstate(
              new HouseRulesBuilder("denying")
                  .on(NodeKind.TABLE, Privilege.SELECT)
                  .owners(Ownership.NONE)
                  .names(PostgresqlRules.of(18).names())
                  .with(HouseFact.DENIALS)
                  .build())
          .users("ines")
          .node(NodeKind.SCHEMA, "s")
          .node(NodeKind.TABLE, "s.t", "a");

  private static Journal.Contents run(boolean finished, boolean refused) {
    List<Step> steps = List.of(BRIEF, BRIEF.inverse());
    return new Journal.Contents("it", "", Instant.EPOCH, steps, finished, refused);
  }

  @Test
  void onlyWhatIsThereAndWasLeftIsLifted() {
    assertThat(LaidAside.lifts(run(false, false), tiny.build(), List.of())).isEmpty();
    tiny.deny("ines", "select", "s.t");
    assertThat(LaidAside.lifts(run(false, false), tiny.build(), List.of()))
        .containsExactly(BRIEF.inverse());
    assertThat(LaidAside.lifts(run(true, false), tiny.build(), List.of())).isEmpty();
    assertThat(LaidAside.lifts(run(false, true), tiny.build(), List.of())).isEmpty();
  }

  @Test
  void itIsSaidWhatBecomesOfThem() {
    assertThat(LaidAside.inWords(1, true))
        .contains("1 denial ")
        .endsWith("it is lifted at the end");
    assertThat(LaidAside.inWords(2, true))
        .contains("2 denials")
        .endsWith("they are lifted at the end");
    assertThat(LaidAside.inWords(1, false)).endsWith("settle --undo lifts it");
    assertThat(LaidAside.inWords(2, false)).endsWith("settle --undo lifts them");
  }
}
