package fiador.changes.planning;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Governs;
import fiador.changes.wanted.Wanted.LoginTerms;
import fiador.changes.wanted.Wanted.Place;
import fiador.changes.wanted.WantedSight;
import fiador.grants.Membership;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.time.Clock;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Which role is on at login is decided where the charter speaks of it, and nowhere else. */
class DefaultRolesTest {
  private static final Place HERE = new Place("users.yaml", 1, 1);
  private static final Membership ON_REQUEST = Membership.of(false, false, true);

  private final TinyEstate tiny =
      new TinyEstate(MariadbRules.of(10, 11))
          .users("ines@%")
          .roles("reader", "keepers")
          .member("ines@%", "keepers", Membership.PLAIN)
          .member("ines@%", "reader", ON_REQUEST);

  private List<Step> steps(Governs governs, Wanted.Member... members) {
    Wanted wanted =
        new Wanted(
            List.of(new Wanted.Principal("reader", HERE)),
            List.of(new Wanted.Principal("ines", LoginTerms.PLAIN, HERE)),
            List.of(members),
            List.of(),
            List.of(),
            List.of(),
            governs,
            WantedSight.NONE);
    return Gap.between(tiny.build(), wanted, true, Set.of("keepers"), Clock.systemUTC())
        .plan()
        .steps();
  }

  private static Governs roles(String... names) {
    return new Governs(List.of(), List.of(names), List.of("*"));
  }

  private static Wanted.Member member(String role, Membership how) {
    return new Wanted.Member("ines", role, how, fiador.changes.wanted.Period.ALWAYS, HERE);
  }

  @Test
  void aRoleThatIsLeftAloneStaysOn() {
    Wanted.Member held = member("reader", ON_REQUEST);
    assertThat(steps(roles("*"), held)).isEmpty();
    assertThat(steps(Governs.NOTHING, held)).isEmpty();
  }

  @Test
  void anotherOneThatIsDemandedTakesItsPlace() {
    assertThat(steps(roles("*"), member("reader", Membership.PLAIN)))
        .containsExactly(new DefaultRole("ines@%", "reader", "keepers"));
  }

  @Test
  void oneThatIsDemandedOnRequestIsOnNoMore() {
    assertThat(steps(Governs.NOTHING, member("keepers", ON_REQUEST), member("reader", ON_REQUEST)))
        .containsExactly(new DefaultRole("ines@%", null, "keepers"));
  }
}
