package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.Access;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import org.junit.jupiter.api.Test;

/** Counting holdings by state, against the holdings. */
class StateCountsTest {
  private static final Clock CLOCK = Clock.fixed(Instant.ofEpochSecond(1000), ZoneOffset.UTC);

  @Test
  void asManyInEachStateAsThereAreRows() {
    long all = 0;
    for (long seed = 1; seed <= 200; seed++) {
      Access access = RandomAccess.of(seed);
      Holdings holdings = new Holdings(access, CLOCK, false);
      for (int id = 1; id < access.principals().size(); id++) {
        StateCounts counted = holdings.countByState(id);
        StateCounts rows = StateCounts.of(holdings.of(id));
        for (State state : State.values()) {
          assertThat(counted.in(state)).as("seed %d, %s", seed, state).isEqualTo(rows.in(state));
        }
        assertThat(counted.total()).isEqualTo(holdings.count(id));
        all += counted.total();
      }
    }
    assertThat(all).isGreaterThan(5000);
  }
}
