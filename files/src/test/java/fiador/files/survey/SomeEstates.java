package fiador.files.survey;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Sights;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import java.util.List;
import java.util.Map;

/** Estates with much in them, for tests of files. */
public final class SomeEstates {
  private SomeEstates() {}

  /** One with a little of everything that grants can say. */
  public static Access rich() {
    return TinyEstate.postgresql()
        .users("ines \"x\"\n", "rui")
        .roles("readers", "pg_database_owner")
        .power("rui", Power.SUPERUSER)
        .owned(NodeKind.SCHEMA, "d.s", "readers")
        .owned(NodeKind.TABLE, "d.s.t", "readers", "a", "b", "ünï")
        .node(NodeKind.VIEW, "d.s.v", "a")
        .fact("d.s.v", NodeFact.INVOKER)
        .withheld("d.s.t", Privilege.DELETE)
        .reads("d.s.v", "d.s.t", "a", "ünï")
        .shows("d.s.v", "a", "d.s.t", "ünï", false)
        .shows("d.s.v", "a", "d.s.t", "a", true)
        .node(NodeKind.VIEW, "d.s.fixed", "x")
        .showsNothing("d.s.fixed", "x")
        .member("ines \"x\"\n", "readers", new Membership(true, true, false, 99, false))
        .grant("readers", "select*", "d.s.t", "b")
        .grant("PUBLIC", "usage", "d.s")
        .grant("readers", "d", new Terms(1, 1, NodeKind.TABLE.bit(), 5_000_000_000L))
        .deny("rui", "insert", "d.s.t", "a")
        .reached("box", "db.box:5432")
        .away("far \"x\"\n", Abroad.Carrier.POSTGRESQL, "far.box", "5433")
        .away("files", Abroad.Carrier.FILE, "", "")
        .foreign("d.s.t", "far \"x\"\n", "store.t", Map.of(1, "ünï there", 2, "c"))
        .part("d.s.t", "d.s.fixed")
        .mapping("PUBLIC", "far \"x\"\n", "reader", true)
        .mapping("rui", "far \"x\"\n", null, false)
        .build();
  }

  /** One with all that decides on rows and columns. */
  public static Access withPolicies() {
    TinyEstate tiny =
        TinyEstate.postgresql()
            .users("ines")
            .roles("crew")
            .node(NodeKind.SCHEMA, "d.s")
            .node(NodeKind.SCHEMA, "d.fiador_guard")
            .table("d.s.t", "crew", "a:text", "b:decimal", "c:other")
            .table("d.s.desk", "crew", "who:text", "what:padded")
            .node(NodeKind.VIEW, "d.s.t_safe", "a", "b", "c")
            .guard("d", "d.fiador_guard")
            .kept("d.s.t_safe", "d.s.t", false, "any\tx\ttrue\tfalse\ta = 'tab\\t'")
            .attribute("ines", "districts", "north", "it's \"odd\"\n")
            .lookup("desk", "d.s.desk", "who", "what")
            .fills(
                "d.s.t",
                new Sights.Fills(
                    Map.of("b", "1.50", "c", "'it''s'"), List.of("c"), List.of("a", "b")));
    return tiny.filter(
            "d.s.t",
            tiny.rule("one", true, "PUBLIC", "(a = 1)", null),
            tiny.rule("two", false, "crew", null, "a = 'x'"))
        .build()
        .sealed(List.of(new Sights.Seal("lab \"x\"", List.of(2, 4), List.of(1))));
  }
}
