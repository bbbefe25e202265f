package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import fiador.predicates.PredicateText;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

final class SeeingTest {
  private static final String OWN = "any\town\ttrue\tholds(chief)\tdistrict in user.districts";
  private static final String STARS = "mask\tstars\tholds(chief) is not true\tphone\tstars";

  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines", "rui", "root", "free", "keeper")
          .roles("chief", "clerk", "owners")
          .member("rui", "clerk")
          .member("clerk", "chief", Membership.of(false, false, true))
          .member("keeper", "owners")
          .power("root", Power.SUPERUSER)
          .power("free", Power.BYPASS_ROW_POLICIES)
          .node(NodeKind.SCHEMA, "d.s")
          .table("d.s.t", "owners", "district:text", "phone:text")
          .node(NodeKind.VIEW, "d.s.t_safe", "district", "phone");

  private Seeing.Answer answer(String user, String path) {
    Access access = tiny.build();
    return new Seeing(access).of(tiny.principal(user), tiny.at(path));
  }

  private static String rows(Seeing.Answer answer) {
    return PredicateText.of(answer.seen().condition());
  }

  @Test
  void whereNothingDecidesThereIsNoAnswer() {
    assertThat(answer("ines", "d.s.t")).isNull();
  }

  @Test
  void aSafeViewShowsWhatThePoliciesLeaveAUser() {
    tiny.kept("d.s.t_safe", "d.s.t", true, OWN, STARS).attribute("ines", "districts", "north");
    Seeing.Answer ines = answer("ines", "d.s.t_safe");
    assertThat(rows(ines)).isEqualTo("district in ('north')");
    assertThat(ines.seen().masks()).containsOnlyKeys("phone");
    assertThat(ines.isKnown()).isTrue();
    // nobody is exempt from a view
    assertThat(answer("keeper", "d.s.t_safe").seen().noRows()).isTrue();
  }

  @Test
  void aRoleCountsThroughAnyChainSwitchedOnOrNot() {
    tiny.kept("d.s.t_safe", "d.s.t", true, OWN, STARS);
    Seeing.Answer rui = answer("rui", "d.s.t_safe");
    assertThat(rui.seen().allRows()).isTrue();
    assertThat(rui.seen().exempt()).extracting(RowPolicy::name).containsExactly("own");
    assertThat(rui.seen().masks()).isEmpty();
  }

  @Test
  void theNameIsTheOneTheCharterGave() {
    tiny.kept("d.s.t_safe", "d.s.t", true, "all\tme\ttrue\tfalse\tphone = user.name")
        .attribute("ines", "name", "Ines Duarte");
    assertThat(rows(answer("ines", "d.s.t_safe"))).isEqualTo("phone = 'Ines Duarte'");
    assertThat(rows(answer("rui", "d.s.t_safe"))).isEqualTo("phone = 'rui'");
  }

  @Test
  void whatWasChangedByHandIsNotKnown() {
    tiny.kept("d.s.t_safe", "d.s.t", false, OWN);
    assertThat(answer("ines", "d.s.t_safe").isKnown()).isFalse();
  }

  @Test
  void policiesOnAColumnThatIsGoneAreNotKnown() {
    tiny.node(NodeKind.VIEW, "d.s.other", "phone")
        .kept("d.s.other", "d.s.t", true, "any\town\ttrue\tfalse\tgone = 'x'");
    assertThat(answer("ines", "d.s.other").isKnown()).isFalse();
  }

  @Test
  void whoOwnsATableOrIsAboveItIsNotFiltered() {
    tiny.filter("d.s.t", tiny.rule("own", true, "PUBLIC", "...", null))
        .kept("d.s.t", "d.s.t", true, OWN);
    assertThat(answer("root", "d.s.t").exempt()).isEqualTo("superuser");
    assertThat(answer("free", "d.s.t").exempt()).isEqualTo("may bypass row policies");
    assertThat(answer("keeper", "d.s.t").exempt()).isEqualTo("owns the table");
    assertThat(answer("ines", "d.s.t").exempt()).isNull();
  }

  @Test
  void rulesWrittenByHandCountForTheirRoles() {
    tiny.filter(
        "d.s.t",
        tiny.rule("north", true, "clerk", "(...)", "district = 'north'"),
        tiny.rule("phones", false, "PUBLIC", "(...)", "phone is not null"));
    assertThat(rows(answer("rui", "d.s.t"))).isEqualTo("district = 'north' and phone is not null");
    // none that lets anything through is for her
    assertThat(answer("ines", "d.s.t").seen().noRows()).isTrue();
  }

  @Test
  void aRuleBeyondPredicatesIsNeverLeftOut() {
    tiny.filter("d.s.t", tiny.rule("far", true, "PUBLIC", "(id IN (SELECT ...))", null));
    Seeing.Answer ines = answer("ines", "d.s.t");
    assertThat(ines.isKnown()).isFalse();
    assertThat(ines.beyond()).hasSize(1);
  }

  @Test
  void lookupTablesAreOpenUntilTheyAreRead() {
    tiny.kept("d.s.t_safe", "d.s.t", true, "any\tdesk\ttrue\tfalse\tdistrict in lookup(desk)");
    Access access = tiny.build();
    Seeing seeing = new Seeing(access);
    int ines = tiny.principal("ines");
    int view = tiny.at("d.s.t_safe");
    assertThat(rows(seeing.of(ines, view))).isEqualTo("district in lookup(desk)");
    Map<String, List<Object>> read = Map.of("desk", List.of("delta"));
    assertThat(rows(seeing.of(ines, view, read))).isEqualTo("district in ('delta')");
  }

  @Test
  void accountsOfOneNameShareAttributesAndRoles() {
    TinyEstate maria =
        new TinyEstate(MariadbRules.of(10, 11))
            .users("ines@10.%", "ines@%")
            .roles("chief")
            .member("ines@%", "chief")
            .node(NodeKind.SCHEMA, "s")
            .table("s.t", null, "district:text", "phone:text")
            .node(NodeKind.VIEW, "s.t_safe", "district", "phone")
            .kept("s.t_safe", "s.t", true, OWN, STARS);
    Seeing.Answer answer =
        new Seeing(maria.build()).of(maria.principal("ines@10.%"), maria.at("s.t_safe"));
    assertThat(answer.seen().allRows()).isTrue();
  }

  @Test
  void aSimulationCountsAndMasks() {
    TableSight sight =
        SightText.read(
            OWN + "\n" + STARS,
            List.of(
                new SafeColumn("district", fiador.estate.ColumnType.TEXT),
                new SafeColumn("phone", fiador.estate.ColumnType.TEXT)));
    tiny.attribute("ines", "districts", "north");
    Seeing seeing = new Seeing(tiny.build());
    Simulation simulation =
        new Simulation(
            sight,
            seeing.subject(tiny.principal("ines"), tiny.at("d"), Map.of()),
            List.of(
                new SafeColumn("district", fiador.estate.ColumnType.TEXT),
                new SafeColumn("phone", fiador.estate.ColumnType.TEXT)),
            null);
    assertThat(simulation.row(new Object[] {"north", "555"})).containsExactly("north", "*****");
    assertThat(simulation.row(new Object[] {"south", "555"})).isNull();
    assertThat(simulation.rows()).isEqualTo(2);
    assertThat(simulation.shown()).isEqualTo(1);
  }
}
