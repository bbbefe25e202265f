package fiador.across;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.across.Crossing.Crossed;
import fiador.across.Inflows.Inflow;
import fiador.across.Leg.Answer;
import fiador.across.Leg.Why;
import fiador.effects.State;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.grants.Abroad.Carrier;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class CrossingTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);

  private final TinyEstate dam = dam();
  private final TinyEstate archive = archive();

  /** People, and tables that lie in the archive. */
  private static TinyEstate dam() {
    return TinyEstate.postgresql()
        .reached("dam", "db.box:5432")
        .users("ines", "nuno", "rosa", "keeper")
        .roles("billing")
        .member("nuno", "billing", new Membership(false, false, true, Long.MAX_VALUE, false))
        .node(NodeKind.SCHEMA, "d.bills")
        .grant("PUBLIC", "usage", "d.bills")
        .node(NodeKind.TABLE, "d.bills.old", "number", "iban")
        .owned(NodeKind.VIEW, "d.bills.seen", "keeper", "number")
        .reads("d.bills.seen", "d.bills.old", "number")
        .shows("d.bills.seen", "number", "d.bills.old", "number", true)
        .grant("keeper", "select", "d.bills.old")
        .grant("ines", "select", "d.bills.old")
        .grant("billing", "select", "d.bills.old")
        .grant("rosa", "select", "d.bills.seen")
        .away("archive", Carrier.POSTGRESQL, "localhost", "5433")
        .foreign("d.bills.old", "archive", "store.bills", Map.of(1, "account"));
  }

  private static TinyEstate archive() {
    return TinyEstate.postgresql()
        .reached("archive", "db.box:5433")
        .users("reader", "half", "chief")
        .roles("readers")
        .node(NodeKind.SCHEMA, "d.store")
        .grant("PUBLIC", "usage", "d.store")
        .node(NodeKind.TABLE, "d.store.bills", "number", "account")
        .grant("reader", "select", "d.store.bills")
        .grant("half", "select", "d.store.bills", "number");
  }

  private Crossed read(String user, String table, int column) {
    Access near = dam.build();
    Atlas atlas = new Atlas(List.of(near, archive.build()));
    return new Crossing(near, atlas, CLOCK).read(dam.principal(user), dam.at(table), column);
  }

  private Leg leg(String user) {
    return read(user, "d.bills.old", None.COLUMN).legs().get(0);
  }

  @Test
  void theLoginsRightThereDecides() {
    dam.mapping("ines", "archive", "reader", true);
    Crossed open = read("ines", "d.bills.old", None.COLUMN);
    assertThat(open.answer()).isEqualTo(Answer.OPEN);
    assertThat(open.legs().get(0).user()).isEqualTo(archive.principal("reader"));
    assertThat(open.legs().get(0).node()).isEqualTo(archive.at("d.store.bills"));
  }

  @Test
  void aColumnThatIsCalledOtherwiseThereIsAskedByThatName() {
    dam.mapping("ines", "archive", "half", true);
    assertThat(read("ines", "d.bills.old", 0).answer()).isEqualTo(Answer.OPEN);
    assertThat(read("ines", "d.bills.old", 1).answer()).isEqualTo(Answer.CLOSED);
    Leg whole = leg("ines");
    assertThat(whole.answer()).isEqualTo(Answer.CLOSED);
    assertThat(whole.trace().column()).isEqualTo(1);
  }

  @Test
  void withoutAMappingNobodyGoesOn() {
    assertThat(leg("ines").why()).isEqualTo(Why.NO_MAPPING);
    dam.mapping("PUBLIC", "archive", "reader", true);
    assertThat(leg("ines").answer()).isEqualTo(Answer.OPEN);
    dam.mapping("ines", "archive", "nobody", true);
    assertThat(leg("ines").why()).isEqualTo(Why.NO_ACCOUNT);
  }

  @Test
  void onlyASuperuserGoesOnWithoutASecretAndMayBeAskedForOne() {
    dam.mapping("ines", "archive", "reader", false);
    assertThat(leg("ines").why()).isEqualTo(Why.NO_SECRET);
    dam.power("ines", fiador.estate.Power.SUPERUSER);
    assertThat(leg("ines").why()).isEqualTo(Why.MAYBE_ASKED);
    assertThat(leg("ines").answer()).isEqualTo(Answer.UNKNOWN);
  }

  @Test
  void whatTheSurveyWasNotShownIsNotGuessed() {
    dam.mapping("ines", "archive", null, true);
    assertThat(leg("ines").why()).isEqualTo(Why.LOGIN_NOT_SHOWN);
  }

  @Test
  void aRightThatCountsOnlyAfterSwitchingIsNone() {
    dam.mapping("ines", "archive", "chief", true);
    archive
        .member("chief", "readers", new Membership(false, false, true, Long.MAX_VALUE, false))
        .grant("readers", "select", "d.store.bills");
    assertThat(leg("ines").why()).isEqualTo(Why.NOT_SWITCHED);
  }

  @Test
  void aRolesMappingIsThatRolesAlone() {
    dam.mapping("billing", "archive", "reader", true);
    Crossed crossed = read("nuno", "d.bills.old", None.COLUMN);
    assertThat(crossed.answer()).isEqualTo(Answer.OPEN);
    assertThat(crossed.state()).isEqualTo(State.ON_REQUEST);
    assertThat(crossed.acting()).isEqualTo(dam.principal("billing"));
  }

  @Test
  void aViewGoesOnAsItsOwnerOrAsWhoAsks() {
    dam.mapping("keeper", "archive", "reader", true);
    Crossed asOwner = read("rosa", "d.bills.seen", None.COLUMN);
    assertThat(asOwner.answer()).isEqualTo(Answer.OPEN);
    assertThat(asOwner.legs().get(0).who()).isEqualTo(dam.principal("keeper"));
    dam.fact("d.bills.seen", NodeFact.INVOKER).grant("rosa", "select", "d.bills.old");
    Crossed asAsker = read("rosa", "d.bills.seen", None.COLUMN);
    assertThat(asAsker.legs().get(0).why()).isEqualTo(Why.NO_MAPPING);
  }

  @Test
  void whereItLeadsCountsAndNotWhatItIsCalled() {
    TinyEstate liar =
        TinyEstate.postgresql().reached("archive", "elsewhere.box:5433").users("reader");
    dam.mapping("ines", "archive", "reader", true);
    Access near = dam.build();
    Crossing crossing = new Crossing(near, new Atlas(List.of(liar.build())), CLOCK);
    Leg leg = crossing.read(dam.principal("ines"), dam.at("d.bills.old"), -1).legs().get(0);
    assertThat(leg.why()).isEqualTo(Why.NO_SURVEY);
  }

  @Test
  void anAddressOfTwoServersMeansNeither() {
    TinyEstate other = TinyEstate.postgresql().reached("copy", "db.box:5433").users("reader");
    dam.mapping("ines", "archive", "reader", true);
    Access near = dam.build();
    Atlas atlas = new Atlas(List.of(other.build(), archive.build()));
    Leg leg =
        new Crossing(near, atlas, CLOCK)
            .read(dam.principal("ines"), dam.at("d.bills.old"), -1)
            .legs()
            .get(0);
    assertThat(leg.why()).isEqualTo(Why.NO_SURVEY);
  }

  @Test
  void aLoopbackAddressIsOfTheMachineOfTheServerThatSaysSo() {
    TinyEstate here = TinyEstate.postgresql().reached("mine", "127.0.0.1:5433").users("reader");
    dam.mapping("ines", "archive", "reader", true);
    Access near = dam.build();
    Crossing crossing = new Crossing(near, new Atlas(List.of(here.build())), CLOCK);
    assertThat(crossing.read(dam.principal("ines"), dam.at("d.bills.old"), -1).legs().get(0).why())
        .isEqualTo(Why.NO_SURVEY);
  }

  @Test
  void whatLeadsBackToItselfEnds() {
    archive
        .away("dam", Carrier.POSTGRESQL, "db.box", "")
        .foreign("d.store.bills", "dam", "bills.old", Map.of(1, "iban"))
        .mapping("reader", "dam", "ines", true);
    dam.mapping("ines", "archive", "reader", true);
    Crossed crossed = read("ines", "d.bills.old", None.COLUMN);
    assertThat(crossed.answer()).isEqualTo(Answer.CLOSED);
    Leg back = crossed.legs().get(0).onward().get(0);
    assertThat(back.onward().get(0).why()).isEqualTo(Why.CIRCLE);
  }

  @Test
  void filesAreReadWhoeverAsks() {
    dam.away("files", Carrier.FILE, "", "").foreign("d.bills.old", "files", "a.csv", Map.of());
    Crossed crossed = read("ines", "d.bills.old", None.COLUMN);
    assertThat(crossed.answer()).isEqualTo(Answer.OPEN);
    assertThat(crossed.legs().get(0).why()).isEqualTo(Why.FILE);
  }

  @Test
  void aTableKnowsWhoComesFromElsewhere() {
    dam.mapping("ines", "archive", "reader", true).mapping("keeper", "archive", "half", true);
    Access near = dam.build();
    Access far = archive.build();
    List<Inflow> inflows =
        new Inflows(new Atlas(List.of(near, far)), CLOCK).to(far, archive.at("d.store.bills"));
    assertThat(inflows)
        .anySatisfy(
            each -> {
              assertThat(each.login()).isEqualTo(archive.principal("reader"));
              assertThat(each.columns().cardinality()).isEqualTo(2);
              assertThat(each.readers())
                  .containsExactly(
                      new Inflows.Reader(dam.principal("ines"), State.LIVE, Answer.OPEN));
            })
        .anySatisfy(
            each -> {
              assertThat(each.login()).isEqualTo(archive.principal("half"));
              assertThat(each.columns().stream().toArray()).containsExactly(0);
              assertThat(each.readers())
                  .extracting(Inflows.Reader::user)
                  .containsExactly(dam.principal("keeper"));
            })
        .anySatisfy(
            each ->
                assertThat(each.hops().get(0).path())
                    .containsExactly(dam.at("d.bills.seen"), dam.at("d.bills.old")));
  }

  private List<Inflow> inflows() {
    Access far = archive.build();
    return new Inflows(new Atlas(List.of(dam.build(), far)), CLOCK)
        .to(far, archive.at("d.store.bills"));
  }

  private static List<Integer> readers(List<Inflow> inflows) {
    return inflows.stream()
        .flatMap(each -> each.readers().stream())
        .map(Inflows.Reader::user)
        .toList();
  }

  @Test
  void aRightOfTheirOwnDoesNotHideTheWayThroughAView() {
    dam.mapping("keeper", "archive", "reader", true).grant("ines", "select", "d.bills.seen");
    assertThat(leg("ines").why()).isEqualTo(Why.NO_MAPPING);
    assertThat(readers(inflows())).contains(dam.principal("ines"), dam.principal("rosa"));
  }

  @Test
  void someColumnsOfAViewAreAWayToo() {
    dam.owned(NodeKind.VIEW, "d.bills.two", "keeper", "number", "iban")
        .reads("d.bills.two", "d.bills.old", "number", "iban")
        .shows("d.bills.two", "number", "d.bills.old", "number", true)
        .shows("d.bills.two", "iban", "d.bills.old", "iban", true)
        .users("tiago")
        .grant("tiago", "select", "d.bills.two", "iban")
        .mapping("keeper", "archive", "reader", true);
    assertThat(inflows())
        .filteredOn(each -> readers(List.of(each)).contains(dam.principal("tiago")))
        .singleElement()
        .satisfies(each -> assertThat(each.columns().stream().toArray()).containsExactly(1));
  }

  @Test
  void aStoredCopyGivesWhatItsOwnerFetched() {
    dam.users("tiago")
        .owned(NodeKind.MATERIALIZED_VIEW, "d.bills.kept", "keeper", "number")
        .reads("d.bills.kept", "d.bills.old", "number")
        .shows("d.bills.kept", "number", "d.bills.old", "number", true)
        .grant("tiago", "select", "d.bills.kept");
    assertThat(readers(inflows())).as("its owner has no mapping").isEmpty();
    dam.mapping("keeper", "archive", "reader", true);
    assertThat(readers(inflows())).contains(dam.principal("tiago"));
  }

  @Test
  void whoseLoginWasNotShownMayComeIn() {
    dam.mapping("ines", "archive", null, true);
    assertThat(inflows())
        .singleElement()
        .satisfies(
            each -> {
              assertThat(each.login()).isEqualTo(None.PRINCIPAL);
              assertThat(each.readers())
                  .containsExactly(
                      new Inflows.Reader(dam.principal("ines"), State.LIVE, Answer.UNKNOWN));
            });
  }

  @Test
  void andWhoComesOverAThirdServer() {
    dam.mapping("ines", "archive", "reader", true);
    TinyEstate branch =
        TinyEstate.postgresql()
            .reached("branch", "branch.box:5432")
            .users("rita")
            .node(NodeKind.SCHEMA, "d.s")
            .grant("PUBLIC", "usage", "d.s")
            .node(NodeKind.TABLE, "d.s.bills", "number")
            .grant("rita", "select", "d.s.bills")
            .away("dam", Carrier.POSTGRESQL, "db.box", "")
            .foreign("d.s.bills", "dam", "bills.old", Map.of())
            .mapping("rita", "dam", "ines", true);
    Access far = archive.build();
    List<Inflow> inflows =
        new Inflows(new Atlas(List.of(dam.build(), far, branch.build())), CLOCK)
            .to(far, archive.at("d.store.bills"));
    assertThat(inflows)
        .filteredOn(each -> each.hops().size() == 2)
        .singleElement()
        .satisfies(
            each -> {
              assertThat(each.from().about().server()).isEqualTo("branch");
              assertThat(each.login()).isEqualTo(archive.principal("reader"));
            });
  }

  @Test
  void aCircleThroughAViewIsOne() {
    TinyEstate far =
        TinyEstate.postgresql()
            .reached("archive", "db.box:5433")
            .users("reader")
            .node(NodeKind.SCHEMA, "d.store")
            .grant("PUBLIC", "usage", "d.store")
            .node(NodeKind.TABLE, "d.store.back", "number", "iban")
            .node(NodeKind.VIEW, "d.store.bills", "number", "account")
            .fact("d.store.bills", NodeFact.INVOKER)
            .reads("d.store.bills", "d.store.back", "number", "iban")
            .grant("reader", "select", "d.store.bills")
            .grant("reader", "select", "d.store.back")
            .away("dam", Carrier.POSTGRESQL, "db.box", "")
            .foreign("d.store.back", "dam", "bills.old", Map.of())
            .mapping("reader", "dam", "ines", true);
    dam.mapping("ines", "archive", "reader", true);
    Access near = dam.build();
    Crossed crossed =
        new Crossing(near, new Atlas(List.of(far.build())), CLOCK)
            .read(dam.principal("ines"), dam.at("d.bills.old"), None.COLUMN);
    assertThat(crossed.answer()).isEqualTo(Answer.CLOSED);
  }

  @Test
  void viewsOfViewsAreLookedAtOnceEach() {
    String[] below = {"d.bills.old", "d.bills.old"};
    for (int level = 0; level < 40; level++) {
      String[] here = {"d.bills.a" + level, "d.bills.b" + level};
      for (String view : here) {
        dam.owned(NodeKind.VIEW, view, "keeper", "number").grant("keeper", "select", view);
        dam.reads(view, below[0], "number").reads(view, below[1], "number");
      }
      below = here;
    }
    dam.grant("rosa", "select", below[0]).mapping("keeper", "archive", "reader", true);
    Crossed crossed = read("rosa", below[0], None.COLUMN);
    assertThat(crossed.answer()).isEqualTo(Answer.OPEN);
    assertThat(crossed.legs()).hasSize(1);
  }

  @Test
  void whatLeadsEverywhereEnds() {
    Access near = clique("near", "db.box:1", "db.box:2", "ines").build();
    Access far = clique("far", "db.box:2", "db.box:1", "ines").build();
    Atlas atlas = new Atlas(List.of(near, far));
    int ines = near.principals().named("ines");
    int all = near.tree().size() - 1;
    Crossed crossed = new Crossing(near, atlas, CLOCK).read(ines, all, None.COLUMN);
    assertThat(crossed.answer()).isEqualTo(Answer.CLOSED);
    assertThat(count(crossed.legs())).isBetween(200, 2000);
    Inflows inflows = new Inflows(atlas, CLOCK);
    inflows.to(near, all);
    assertThat(inflows.isCut()).isFalse();
  }

  private static int count(List<Leg> legs) {
    return legs.stream().mapToInt(leg -> 1 + count(leg.onward())).sum();
  }

  /** A view of foreign tables, each of which leads to the same view of the other server. */
  private static TinyEstate clique(String name, String at, String other, String user) {
    TinyEstate tiny =
        TinyEstate.postgresql()
            .reached(name, at)
            .users(user)
            .node(NodeKind.SCHEMA, "d.s")
            .grant("PUBLIC", "usage", "d.s")
            .away("other", Carrier.POSTGRESQL, "db.box", other.substring(other.indexOf(':') + 1))
            .mapping(user, "other", user, true);
    for (int table = 0; table < 8; table++) {
      tiny.node(NodeKind.TABLE, "d.s.f" + table, "c")
          .grant(user, "select", "d.s.f" + table)
          .foreign("d.s.f" + table, "other", "s.all", Map.of());
    }
    tiny.owned(NodeKind.VIEW, "d.s.all", user, "c");
    for (int table = 0; table < 8; table++) {
      tiny.reads("d.s.all", "d.s.f" + table, "c");
    }
    return tiny;
  }
}
