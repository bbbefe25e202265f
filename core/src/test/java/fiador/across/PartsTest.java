package fiador.across;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.across.Crossing.Crossed;
import fiador.across.Inflows.Inflow;
import fiador.across.Leg.Answer;
import fiador.effects.State;
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

/** A table whose parts are elsewhere, in an order of columns of their own. */
class PartsTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);

  private final TinyEstate dam =
      TinyEstate.postgresql()
          .reached("dam", "db.box:5432")
          .users("ines", "rosa", "keeper", "nuno")
          .node(NodeKind.SCHEMA, "d.bills")
          .grant("PUBLIC", "usage", "d.bills")
          .node(NodeKind.TABLE, "d.bills.all", "number", "iban")
          .node(NodeKind.TABLE, "d.bills.y18", "iban", "number", "more")
          .node(NodeKind.TABLE, "d.bills.y19", "number", "iban")
          .owned(NodeKind.VIEW, "d.bills.seen", "keeper", "number")
          .reads("d.bills.seen", "d.bills.all", "number")
          .shows("d.bills.seen", "number", "d.bills.all", "number", true)
          .grant("keeper", "select", "d.bills.all")
          .grant("ines", "select", "d.bills.all")
          .grant("nuno", "select", "d.bills.all", "iban")
          .grant("rosa", "select", "d.bills.seen")
          .away("archive", Carrier.POSTGRESQL, "db.box", "5433")
          .mapping("PUBLIC", "archive", "reader", true)
          .foreign("d.bills.y18", "archive", "store.y18", Map.of(0, "account"))
          .foreign("d.bills.y19", "archive", "store.y19", Map.of())
          .part("d.bills.y18", "d.bills.all")
          .part("d.bills.y19", "d.bills.all");

  private final TinyEstate archive =
      TinyEstate.postgresql()
          .reached("archive", "db.box:5433")
          .users("reader")
          .node(NodeKind.SCHEMA, "d.store")
          .grant("PUBLIC", "usage", "d.store")
          .node(NodeKind.TABLE, "d.store.y18", "number", "account", "more")
          .node(NodeKind.TABLE, "d.store.y19", "number", "iban")
          .grant("reader", "select", "d.store.y18");

  private Crossed read(String user, int column) {
    Access near = dam.build();
    Crossing crossing = new Crossing(near, new Atlas(List.of(near, archive.build())), CLOCK);
    assertThat(crossing.leaves(dam.at("d.bills.all"))).isTrue();
    assertThat(crossing.leaves(dam.at("d.bills.seen"))).isTrue();
    return crossing.read(dam.principal(user), dam.at("d.bills.all"), column);
  }

  @Test
  void theWholeIsOpenOnlyWhereAllPartsAre() {
    Crossed half = read("ines", None.COLUMN);
    assertThat(half.answer()).isEqualTo(Answer.CLOSED);
    assertThat(half.legs()).extracting(Leg::answer).containsExactly(Answer.OPEN, Answer.CLOSED);
    archive.grant("reader", "select", "d.store.y19");
    assertThat(read("ines", None.COLUMN).answer()).isEqualTo(Answer.OPEN);
  }

  @Test
  void columnsAreFollowedByTheirNames() {
    archive.grant("reader", "select", "d.store.y19", "number");
    assertThat(read("ines", 0).answer()).isEqualTo(Answer.OPEN);
    assertThat(read("nuno", 1).answer()).isEqualTo(Answer.CLOSED);
    assertThat(read("nuno", 1).legs())
        .extracting(Leg::answer)
        .containsExactly(Answer.OPEN, Answer.CLOSED);
  }

  @Test
  void whoReadsTheWholeComesToThePartThatIsOpen() {
    Access far = archive.build();
    Inflows inflows = new Inflows(new Atlas(List.of(dam.build(), far)), CLOCK);
    List<Inflow> found = inflows.to(far, archive.at("d.store.y18"));
    assertThat(found)
        .extracting(each -> each.hops().get(0).path() + " " + each.columns())
        .containsExactlyInAnyOrder(
            path("d.bills.all", "d.bills.y18") + " {0, 1}",
            path("d.bills.all", "d.bills.y18") + " {1}",
            path("d.bills.seen", "d.bills.all", "d.bills.y18") + " {0}");
    assertThat(found.stream().flatMap(each -> each.readers().stream()).map(Inflows.Reader::user))
        .contains(dam.principal("ines"), dam.principal("nuno"), dam.principal("rosa"));
    assertThat(inflows.to(far, archive.at("d.store.y19"))).isEmpty();
    assertThat(inflows.targets(far))
        .containsExactly(archive.at("d.store.y18"), archive.at("d.store.y19"));
  }

  @Test
  void aPartMayOpenToOneRoleAndAnotherToAnother() {
    dam.users("tiago")
        .roles("second")
        .member("tiago", "second", new Membership(false, false, true, Long.MAX_VALUE, false))
        .grant("tiago", "select", "d.bills.all")
        .grant("second", "select", "d.bills.all")
        .mapping("second", "archive", "other", true);
    archive.users("other").grant("other", "select", "d.store.y19");
    Access far = archive.build();
    Inflows inflows = new Inflows(new Atlas(List.of(dam.build(), far)), CLOCK);
    assertThat(state(inflows.to(far, archive.at("d.store.y18")))).isEqualTo(State.LIVE);
    assertThat(state(inflows.to(far, archive.at("d.store.y19")))).isEqualTo(State.ON_REQUEST);
  }

  private State state(List<Inflow> found) {
    return found.stream()
        .flatMap(each -> each.readers().stream())
        .filter(reader -> reader.user() == dam.principal("tiago"))
        .map(Inflows.Reader::state)
        .findFirst()
        .orElse(null);
  }

  private List<Integer> path(String... names) {
    return java.util.Arrays.stream(names).map(dam::at).toList();
  }
}
