package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import java.time.Clock;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

class HoldingsTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines")
          .roles("reader", "all_data")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.t", "a", "b")
          .node(NodeKind.SEQUENCE, "d.s.q")
          .grant("PUBLIC", "usage", "d.s");

  /** What ines holds besides what everybody has, a line for each row. */
  private List<String> held(boolean system) {
    Access access = tiny.build();
    return new Holdings(access, Clock.systemUTC(), system)
        .of(tiny.principal("ines")).stream()
            .filter(row -> access.tree().kind(row.node()).isObject())
            .map(row -> text(access, row))
            .collect(Collectors.toList());
  }

  private static String text(Access access, Holding row) {
    String columns =
        row.columns() == null
            ? ""
            : row.columns().stream()
                .mapToObj(c -> access.tree().column(row.node(), c))
                .collect(Collectors.joining(",", "(", ")"));
    return row.privilege().text()
        + columns
        + " "
        + access.tree().path(row.node())
        + " "
        + row.state().text()
        + (row.grantable() ? " grantable" : "");
  }

  @Test
  void readingEverythingReadsTablesAndSequencesOnly() {
    tiny.power("all_data", Power.READ_EVERYTHING).member("ines", "all_data");
    assertThat(held(false)).containsExactly("select d.s.t live", "select d.s.q live");
  }

  @Test
  void catalogTablesAreWrittenBySuperusersOnly() {
    tiny.node(NodeKind.SCHEMA, "d.pg_catalog").fact("d.pg_catalog", NodeFact.SYSTEM);
    tiny.node(NodeKind.TABLE, "d.pg_catalog.c").fact("d.pg_catalog.c", NodeFact.GUARDED);
    tiny.grant("PUBLIC", "usage", "d.pg_catalog");
    tiny.grant("ines", "select", "d.pg_catalog.c").grant("ines", "update", "d.pg_catalog.c");
    assertThat(held(false)).isEmpty();
    assertThat(held(true)).containsExactly("select d.pg_catalog.c live");
  }

  @Test
  void aDenialOfTheWholeBeatsGrantsOnColumnsUnderViewsToo() {
    TinyEstate denying =
        new TinyEstate(RandomAccess.denying())
            .users("ines")
            .node(NodeKind.DATABASE, "d")
            .node(NodeKind.SCHEMA, "d.s")
            .node(NodeKind.TABLE, "d.s.t", "a", "b")
            .node(NodeKind.VIEW, "d.s.v", "a")
            .fact("d.s.v", NodeFact.INVOKER)
            .reads("d.s.v", "d.s.t", "a")
            .grant("ines", "select", "d.s.v")
            .grant("ines", "select", "d.s.t", "a");
    assertThat(state(denying, "d.s.v")).isEqualTo(State.LIVE);
    assertThat(state(denying.deny("PUBLIC", "select", "d.s.t"), "d.s.v"))
        .isNotIn(State.LIVE, State.ON_REQUEST);
  }

  private static State state(TinyEstate of, String path) {
    Access access = of.build();
    int node = new Lookup(access).node(path, 0, false).id();
    return new Tracer(access, Clock.systemUTC())
        .trace(of.principal("ines"), Privilege.SELECT, node, -1, 1)
        .state();
  }

  @Test
  void columnsOfOneStateStandTogetherAndGrantableOnesApart() {
    tiny.grant("ines", "select", "d.s.t", "a").grant("reader", "select*", "d.s.t", "b");
    tiny.member("ines", "reader");
    assertThat(held(false))
        .containsExactly("select(b) d.s.t live grantable", "select(a) d.s.t live");
  }

  @Test
  void holdingEveryColumnIsNotHoldingTheTable() {
    tiny.grant("ines", "select", "d.s.t", "a", "b");
    assertThat(held(false)).containsExactly("select(a,b) d.s.t live");
  }

  @Test
  void aWorseStateIsListedForWhatItAdds() {
    tiny.grant("ines", "select", "d.s.t", "a");
    tiny.grant("reader", "select*", "d.s.t").grant("reader", "usage", "d.s");
    tiny.member("ines", "reader", Membership.of(false, false, true));
    assertThat(held(false))
        .containsExactly("select(a) d.s.t live", "select d.s.t on-request grantable");
  }

  @Test
  void severalRowsOfOneMembershipUnite() {
    tiny.grant("reader", "select", "d.s.t");
    tiny.member("ines", "reader", Membership.of(false, false, false));
    assertThat(held(false)).isEmpty();
    tiny.member("ines", "reader", Membership.of(false, true, false));
    assertThat(held(false)).containsExactly("select d.s.t live");
  }

  @Test
  void aGrantThatReachesIntoAContainerIsListedOnAllOfItUnlessCompact() {
    long select = Privilege.SELECT.bit();
    tiny.grant("ines", "d.s", new Terms(select, 0, NodeKind.TABLE.bit(), Terms.FOREVER));
    assertThat(held(false)).containsExactly("select d.s.t live");
    Access access = tiny.build();
    assertThat(
            new Holdings(access, Clock.systemUTC(), false, true)
                .of(tiny.principal("ines")).stream()
                    .filter(row -> row.privilege() == Privilege.SELECT))
        .extracting(Holding::node)
        .containsExactly(tiny.at("d.s"));
  }

  @Test
  void circlesOfRolesDoNoHarm() {
    tiny.roles("a", "b", "c")
        .member("a", "b")
        .member("b", "c")
        .member("c", "a")
        .member("ines", "a");
    tiny.grant("c", "select", "d.s.t");
    assertThat(held(false)).containsExactly("select d.s.t live");
  }

  @Test
  void everybodyInTheRoleOfAnHsqldbAdministratorHoldsEverything() {
    TinyEstate hsqldb =
        new TinyEstate(HsqldbRules.rules())
            .users("SA")
            .roles("DBA")
            .power("DBA", Power.SUPERUSER)
            .node(NodeKind.SCHEMA, "S")
            .node(NodeKind.TABLE, "S.T", "A")
            .member("SA", "DBA", Membership.of(false, true, false));
    Access access = hsqldb.build();
    assertThat(new Holdings(access, Clock.systemUTC(), false).of(hsqldb.principal("SA")))
        .hasSize(6)
        .allMatch(Holding::grantable);
  }
}
