package fiador.servers.postgresql;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The same on older versions, whose rules differ, over half as many other estates each; a class of
 * its own so that both can run at once.
 */
class PostgresqlOlderConformanceTest {
  /** So that a fifth and a tenth are among the few, on which more is tried. */
  private static final int FIRST = Integer.getInteger("fiador.seed", 5);

  @ParameterizedTest
  @ValueSource(ints = {16, 14})
  void everyHoldingEqualsTheServersOwnAnswer(int major) throws Exception {
    int seeds = (PostgresqlConformanceTest.SEEDS + 1) / 2;
    PostgresqlConformanceTest.everyHoldingEqualsTheServersOwnAnswer(major, FIRST, seeds);
  }
}
