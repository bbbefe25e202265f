package fiador.servers.postgresql;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The same on older versions, whose rules differ; a class of its own so that both can run at once.
 */
class PostgresqlOlderConformanceTest {
  @ParameterizedTest
  @ValueSource(ints = {16, 14})
  void everyHoldingEqualsTheServersOwnAnswer(int major) throws Exception {
    new PostgresqlConformanceTest().everyHoldingEqualsTheServersOwnAnswer(major);
  }
}
