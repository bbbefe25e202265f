package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.outcome.Done;
import fiador.changes.steps.Step;
import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.PredicateReader;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Views have policies of their own, where those who may change them gain nothing by that. */
final class ViewPolicies {
  private static final Wanted.Place HERE = SightScenario.HERE;

  private final SightScenario scenario;
  private NodeKind kind = NodeKind.VIEW;

  /** On the tables of that scenario. */
  ViewPolicies(SightScenario scenario) {
    this.scenario = scenario;
  }

  /** Settles, changes, takes away and brings back. */
  void run() throws Exception {
    scenario.execute("CREATE VIEW shop.listed AS SELECT id, name, phone FROM shop.people");
    Access before = scenario.survey();
    Wanted meant = onView("(id = 2) is true", true);
    if (before.rules().has(HouseFact.OWNER_STANDS_FOR_ASKER)) {
      Gap gap = Gap.between(before, meant, false, Set.of(scenario.login.user()), Clock.systemUTC());
      assertThat(gap.plan().problems()).hasSize(2).asString().contains("shop.listed is a view");
      scenario.execute("DROP VIEW shop.listed");
      return;
    }
    if (scenario.maskedOnly) {
      // what default privileges gave
      scenario.execute("REVOKE ALL ON shop.listed FROM PUBLIC");
    }
    scenario.settle(scenario.survey(), meant);
    Access after = scenario.survey();
    scenario.assertNoGap(after, meant);
    assertThat(scenario.sees(after, "ann", "shop.listed")).isEqualTo(2);
    assertThat(scenario.sees(after, "eve", "shop.listed")).isEqualTo(2);
    assertThat(scenario.canReadItself(after, "ann", "listed")).isFalse();
    scenario.settle(after, onView("id = 1", false));
    assertThat(scenario.sees(scenario.survey(), "bob", "shop.listed")).isEqualTo(3);
    List<Step> steps = scenario.settle(scenario.survey(), SightScenario.wanted(null, null));
    assertThat(scenario.survey().sights().kept()).isEmpty();
    scenario.carryOut(new Done(scenario.survey()).undo(steps));
    scenario.assertNoGap(scenario.survey(), onView("id = 1", false));
    scenario.settle(scenario.survey(), SightScenario.wanted(null, null));
    scenario.execute("DROP VIEW shop.listed");
    if (scenario.maskedOnly) {
      stored();
    }
  }

  /** What is stored is shown safely like any other view. */
  private void stored() throws Exception {
    kind = NodeKind.MATERIALIZED_VIEW;
    scenario.execute(
        "CREATE MATERIALIZED VIEW shop.listed AS SELECT id, name, phone FROM shop.people");
    scenario.execute("REVOKE ALL ON shop.listed FROM PUBLIC");
    scenario.settle(scenario.survey(), onView("id = 2", true));
    // nothing holds what is stored as it is while it is read, so it is not previewed
    String read = "SELECT id, phone FROM shop.%s ORDER BY id";
    assertThat(asAnn(read.formatted("listed_safe"))).isEqualTo("2|555-0102|\n3|*******3|\n");
    assertThat(asAnn(read.formatted("listed"))).contains("permission denied");
    scenario.settle(scenario.survey(), SightScenario.wanted(null, null));
    scenario.execute("DROP MATERIALIZED VIEW shop.listed");
  }

  private String asAnn(String sql) throws Exception {
    try (Connection connection = scenario.server.connect(scenario.login, scenario.database);
        Statement statement = connection.createStatement()) {
      statement.execute("SET SESSION AUTHORIZATION ann");
      return LeakAttempts.outcome(connection, sql);
    }
  }

  private Wanted onView(String clearWhere, boolean rows) throws Exception {
    Wanted.Target listed = new Wanted.Single(kind, "shop.listed");
    List<WantedSight.Rows> notFirst =
        List.of(
            new WantedSight.Rows(
                "not the first",
                List.of(listed),
                Map.of("number", "id"),
                Expression.TRUE,
                Expression.FALSE,
                PredicateReader.read("number > 1 or phone is null"),
                HERE,
                true,
                ViewPlace.UNSAID,
                HERE));
    WantedSight.Masks phones =
        new WantedSight.Masks(
            "phones",
            List.of(new WantedSight.Labelled("shop.listed.phone", HERE)),
            List.of(),
            List.of(),
            Map.of(),
            Expression.TRUE,
            PredicateReader.read(clearWhere),
            HERE,
            Map.of("text", Mask.of("keep_last(1)")),
            0,
            ViewPlace.UNSAID,
            HERE);
    Wanted plain = SightScenario.wanted(null, null);
    List<Wanted.Grant> grants = new ArrayList<>(plain.grants());
    grants.add(
        new Wanted.Grant(
            "readers",
            List.of(new Wanted.Action(Privilege.SELECT, List.of())),
            listed,
            true,
            false,
            false,
            HERE));
    return new Wanted(
        plain.roles(),
        plain.users(),
        plain.memberships(),
        grants,
        plain.refused(),
        plain.owned(),
        plain.governs(),
        new WantedSight(
            rows ? notFirst : List.of(),
            List.of(phones),
            Map.of(),
            List.of(),
            Map.of(),
            List.of(),
            true));
  }
}
