package fiador.repairs;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.RandomAccess;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.evidence.Evidence;
import fiador.evidence.Evidence.Use;
import fiador.findings.Expecting;
import fiador.findings.check.Expected;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

final class TrimTest {
  private static final Clock CLOCK = Clock.systemUTC();
  private static final Instant AT = Instant.parse("2026-11-01T00:00:00Z");

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui")
          .roles("readers", "writers", "all")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.a", "id", "phone")
          .node(NodeKind.TABLE, "d.s.b", "id")
          .grant("readers", "usage", "d.s")
          .grant("readers", "select", "d.s.a")
          .grant("readers", "select", "d.s.b")
          .grant("writers", "usage", "d.s")
          .grant("writers", "update", "d.s.a")
          .member("all", "readers")
          .member("all", "writers");

  private final Map<Use, Instant> uses = new HashMap<>();

  private TrimTest use(String user, Privilege privilege, String path, int column) {
    uses.put(new Use(tiny.principal(user), privilege, tiny.at(path), column), AT);
    return this;
  }

  private Evidence evidence() {
    return new Evidence(AT, AT, uses, Map.of(), uses.size(), 0, List.of(), Map.of());
  }

  private List<Step> steps() {
    return Trim.of(tiny.build(), CLOCK, Expected.NOTHING, evidence()).gap().plan().steps();
  }

  @Test
  void aRoleNobodyNeededGoes() {
    tiny.member("ines", "readers").member("ines", "writers");
    use("ines", Privilege.SELECT, "d.s.a", 0);
    assertThat(steps())
        .anyMatch(step -> step instanceof TakeRole take && take.role().equals("writers"))
        .noneMatch(step -> step instanceof TakeRole take && take.role().equals("readers"));
  }

  @Test
  void aPrivilegeOfARoleThatNoneOfItsMembersUsedGoes() {
    tiny.member("ines", "readers").member("rui", "readers");
    use("ines", Privilege.SELECT, "d.s.a", Evidence.ALL);
    use("rui", Privilege.SELECT, "d.s.a", Evidence.ANY);
    List<Step> steps = steps();
    assertThat(steps).hasSize(1).first().isInstanceOf(Revoke.class);
    assertThat(((Revoke) steps.get(0)).on().parts()).containsExactly("s", "b");
  }

  @Test
  void theGateOfWhatIsUsedStays() {
    tiny.member("ines", "readers");
    use("ines", Privilege.SELECT, "d.s.a", Evidence.ALL);
    use("ines", Privilege.SELECT, "d.s.b", Evidence.ALL);
    assertThat(steps()).isEmpty();
  }

  @Test
  void aBroadRoleUsedForOneThingGivesWayToASmallerOne() {
    tiny.member("ines", "all").member("rui", "all");
    use("ines", Privilege.SELECT, "d.s.a", Evidence.ALL);
    use("rui", Privilege.SELECT, "d.s.b", Evidence.ALL);
    use("rui", Privilege.UPDATE, "d.s.a", Evidence.ALL);
    assertThat(steps())
        .containsExactlyInAnyOrder(
            new GiveRole("readers", "ines", Membership.PLAIN, null, true),
            new TakeRole("all", "ines", Membership.PLAIN, null, true));
  }

  @Test
  void aRoleThatASealNamesIsNotExchanged() {
    tiny.member("ines", "all");
    use("ines", Privilege.SELECT, "d.s.a", Evidence.ALL);
    Place place = new Place("fiador.yaml", 1, 1);
    Seal seal = new Seal("vault", List.of(new Labelled("s", place)), List.of("all"), place);
    Expected expected = Expecting.nothing().seals(List.of(seal)).expected();
    assertThat(Trim.of(tiny.build(), CLOCK, expected, evidence()).cuts())
        .noneMatch(cut -> cut.why() == Trim.Why.TOO_BROAD);
  }

  @Test
  void withoutEvidenceOnlyWhatIsInExcessGoes() {
    tiny.grant("all", "select", "d.s.a").member("ines", "all").member("ines", "readers");
    Trim.Result result = Trim.of(tiny.build(), CLOCK, Expected.NOTHING, null);
    assertThat(result.cuts()).extracting(Trim.Cut::why).containsOnly(Trim.Why.IN_EXCESS);
    assertThat(result.cuts()).hasSize(2);
    assertThat(result.gap().effects()).isEmpty();
  }

  @Test
  void whatWasTriedAndRefusedKeepsNothing() {
    tiny.member("ines", "readers");
    use("ines", Privilege.DELETE, "d.s.a", Evidence.ALL);
    assertThat(Trim.of(tiny.build(), CLOCK, Expected.NOTHING, evidence()).notHeld()).isPositive();
  }

  /** There the whole of a used table stayed on request only, while its columns stayed live. */
  @Test
  void whatWasLiveOnTheWholeStaysSo() {
    noUsedPrivilegeIsLostAndNobodyGains(-5970800L);
  }

  @Property(tries = 1500)
  void noUsedPrivilegeIsLostAndNobodyGains(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    Random random = new Random(seed);
    Holdings holdings = new Holdings(access, CLOCK, true);
    Map<Use, Instant> used = new HashMap<>();
    for (int user = 1; user <= 4; user++) {
      for (Holding row : holdings.of(user)) {
        boolean works = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
        if (works && random.nextInt(4) == 0) {
          int column = row.columns() == null ? Evidence.ALL : row.columns().nextSetBit(0);
          used.put(new Use(user, row.privilege(), row.node(), column), AT);
        }
      }
    }
    Evidence evidence = new Evidence(AT, AT, used, Map.of(), 1, 0, List.of(), Map.of());
    Trim.Result result = Trim.of(access, CLOCK, Expected.NOTHING, evidence);
    assertThat(result.gap().effects()).noneMatch(Change::isGain);
    Holdings after = new Holdings(result.gap().outcome().after(), CLOCK, true);
    for (Use use : used.keySet()) {
      assertThat(best(after, use)).as("%s", use).isEqualTo(best(holdings, use));
    }
  }

  private static State best(Holdings holdings, Use use) {
    return holdings.at(use.user(), use.node()).stream()
        .filter(row -> row.privilege() == use.privilege())
        .filter(
            row -> row.columns() == null || use.column() >= 0 && row.columns().get(use.column()))
        .map(Holding::state)
        .min(java.util.Comparator.naturalOrder())
        .orElse(null);
  }

  @Property(tries = 500)
  void whatIsInExcessChangesNothingForAnybody(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    Trim.Result result = Trim.of(access, CLOCK, Expected.NOTHING, null);
    assertThat(result.gap().effects()).noneMatch(change -> change.isGain() || change.isLoss());
  }
}
