package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Effects on people, condensed to what one can read. */
class ChangeTextTest {
  private static TinyEstate estate(int members, int tables) {
    TinyEstate tiny =
        TinyEstate.postgresql().roles("analyst", "writer").node(NodeKind.SCHEMA, "d.s");
    for (int i = 0; i < tables; i++) {
      tiny.node(NodeKind.TABLE, "d.s.t" + i, "a", "b");
    }
    for (int i = 0; i < members; i++) {
      tiny.users("u" + i).member("u" + i, "analyst");
    }
    return tiny.grant("analyst", "usage", "d.s");
  }

  private static On table(String name) {
    return new On(NodeKind.TABLE, "d", List.of("s", name));
  }

  private static Step grant(String name, long privileges, String... columns) {
    return new Grant(privileges, table(name), List.of(columns), "analyst", false);
  }

  private static String text(TinyEstate tiny, Step... steps) {
    return new ChangeText(Gap.of(tiny.build(), List.of(steps), Clock.systemUTC()), 100).text();
  }

  @Test
  void manyPeopleAndManyThingsAreNumbers() {
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < 5; i++) {
      steps.add(grant("t" + i, Privilege.SELECT.bit()));
    }
    assertThat(text(estate(14, 5), steps.toArray(Step[]::new)))
        .contains("14 members of analyst")
        .contains("gain select on 5 tables in s");
  }

  @Test
  void fewAreNamed() {
    String said =
        text(
            estate(2, 1),
            grant("t0", PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT)),
            grant("t0", Privilege.UPDATE.bit(), "b"));
    assertThat(said).contains("select, insert on table s.t0").contains("(b)");
  }

  @Test
  void whatGoesIsALoss() {
    TinyEstate tiny = estate(1, 1).grant("analyst", "select", "d.s.t0");
    String said =
        text(
            tiny,
            new Revoke(Privilege.SELECT.bit(), table("t0"), List.of(), "analyst", false, null));
    assertThat(said).contains("u0").contains("loses select on table s.t0");
  }

  @Test
  void whatStillWorksButOnlyAfterSwitchingIsSaidSo() {
    TinyEstate tiny = estate(1, 1).grant("analyst", "select", "d.s.t0");
    Membership request = Membership.of(false, false, true);
    String said = text(tiny, new GiveRole("analyst", "u0", request, Membership.PLAIN, true));
    assertThat(said).contains("select on table s.t0: live before, on-request after");
  }

  @Test
  void nothingForAnybodyIsSaidInSoManyWords() {
    TinyEstate tiny = estate(1, 1).grant("analyst", "select", "d.s.t0");
    Gap gap =
        Gap.of(tiny.build(), List.of(grant("t0", Privilege.SELECT.bit(), "a")), Clock.systemUTC());
    assertThat(gap.effects()).isEmpty();
    assertThat(new ChangeText(gap, 100).summary()).isNotBlank();
  }
}
