package fiador.changes.outcome;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.CreateRole;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.Activation;
import fiador.grants.rules.Folding;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.NameRules;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.NameRules.Unit;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Giving a role to somebody who holds it through another does nothing on some servers. */
class HeldOnceTest {
  private static final Step TAKES = new TakeRole("team", "ines", Membership.PLAIN, null, false);
  private static final Step GIVES = new GiveRole("reader", "ines", Membership.PLAIN, null, false);
  private static final Step OTHER = new GiveRole("team", "rui", Membership.PLAIN, null, false);

  private static Access access(HouseFact... facts) {
    Length length = new Length(30, Unit.CHARACTERS);
    HouseRules rules =
        new HouseRulesBuilder("house/x")
            .on(NodeKind.TABLE, Privilege.SELECT)
            .roles(Activation.ALL_ON)
            .names(new NameRules(Folding.NONE, '"', length, length, true, true, Set.of(), Set.of()))
            .with(facts)
            .build();
    return new TinyEstate(rules)
        .users("ines", "rui")
        .roles("reader", "team")
        .member("team", "reader")
        .member("ines", "team")
        .build();
  }

  @Test
  void itIsGivenWhenTheOtherOneIsTaken() {
    List<Step> steps = List.of(new CreateRole("x"), GIVES, OTHER, TAKES, new DropRole("y"));
    assertThat(HeldOnce.inOrder(access(HouseFact.ROLES_HELD_ONCE), steps))
        .containsExactly(steps.get(0), OTHER, TAKES, GIVES, steps.get(4));
  }

  @Test
  void elsewhereTheOrderStays() {
    List<Step> steps = List.of(GIVES, OTHER, TAKES);
    assertThat(HeldOnce.inOrder(access(HouseFact.DIGESTS), steps)).isEqualTo(steps);
    assertThat(HeldOnce.inOrder(access(HouseFact.ROLES_HELD_ONCE), List.of(GIVES, OTHER)))
        .containsExactly(GIVES, OTHER);
  }
}
