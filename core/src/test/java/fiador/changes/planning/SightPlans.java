package fiador.changes.planning;

import fiador.changes.Gap;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.MariadbRules;
import fiador.grants.rules.PostgresqlRules;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.PredicateReader;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A charter with policies in the making, and what it comes to on a small estate. */
abstract class SightPlans {
  static final Place HERE = new Place("policies.yaml", 3, 5);

  final List<WantedSight.Rows> rows = new ArrayList<>();
  final List<WantedSight.Masks> masks = new ArrayList<>();
  final List<Wanted.Grant> grants = new ArrayList<>();
  final List<WantedSight.Seal> seals = new ArrayList<>();
  String governs = "s";
  String openLabel = "s.u";

  static TinyEstate shop(HouseRules rules, String top) {
    TinyEstate tiny = new TinyEstate(rules);
    if (!top.isEmpty()) {
      tiny.node(NodeKind.DATABASE, "d");
    }
    return tiny.users("ines")
        .roles("reader")
        .member("ines", "reader")
        .node(NodeKind.SCHEMA, top + "s")
        .table(top + "s.t", null, "district:text", "phone:text", "amount:decimal")
        .table(top + "s.u", null, "district:text");
  }

  static TinyEstate maria() {
    return shop(MariadbRules.of(10, 11), "");
  }

  static TinyEstate postgres() {
    return shop(PostgresqlRules.of(18), "d.");
  }

  void rows(String table, String predicate) throws Exception {
    rows.add(
        new WantedSight.Rows(
            "own",
            List.of(new Wanted.Single(NodeKind.TABLE, table)),
            Map.of(),
            Expression.TRUE,
            Expression.FALSE,
            PredicateReader.read(predicate),
            new Place("policies.yaml", 9, 11),
            true,
            ViewPlace.UNSAID,
            HERE));
  }

  void mask(String name, String column, String mask, int rank) {
    mask(name, column, mask, rank, ViewPlace.UNSAID);
  }

  void mask(String name, String column, String mask, int rank, ViewPlace place) {
    masks.add(
        new WantedSight.Masks(
            name,
            List.of(new Labelled(column, HERE)),
            List.of(),
            List.of(),
            Expression.TRUE,
            Map.of("otherwise", Mask.of(mask)),
            rank,
            place,
            HERE));
  }

  void grant(Wanted.Target target, boolean later) {
    Wanted.Action select = new Wanted.Action(Privilege.SELECT, List.of());
    grants.add(new Wanted.Grant("reader", List.of(select), target, true, later, false, HERE));
  }

  Plan plan(TinyEstate tiny) {
    return gap(tiny.build(), true).plan();
  }

  Gap gap(Access access, boolean decided) {
    return Gap.between(access, wanted(decided), false, Set.of(), Clock.systemUTC());
  }

  Wanted wanted(boolean decided) {
    WantedSight sight =
        new WantedSight(
            rows,
            masks,
            Map.of("ines", Map.of("districts", List.of("north"))),
            List.of(),
            Map.of("open", List.of(new Labelled(openLabel, HERE))),
            seals,
            decided);
    return new Wanted(
        List.of(new Wanted.Principal("reader", HERE)),
        List.of(new Wanted.Principal("ines", HERE)),
        List.of(new Wanted.Member("ines", "reader", HERE)),
        grants,
        List.of(),
        List.of(),
        new Wanted.Governs(List.of(governs), List.of("*"), List.of("*")),
        sight);
  }

  static List<String> kinds(Plan plan) {
    return plan.steps().stream().map(step -> step.getClass().getSimpleName()).toList();
  }
}
