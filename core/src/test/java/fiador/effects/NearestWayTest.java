package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.None;
import fiador.grants.Access;
import java.time.Clock;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

/** The nearest way to a holding is the first that a trace of it lists. */
final class NearestWayTest {
  @Test
  void isTheFirstThatATraceLists() {
    int ways = 0;
    for (long seed = 1; seed <= 120; seed++) {
      Access access = RandomAccess.of(seed);
      Tracer tracer = new Tracer(access, Clock.systemUTC());
      Holdings holdings = new Holdings(access, Clock.systemUTC(), true);
      for (int id = 0; id < access.principals().size(); id++) {
        List<Holding> rows = holdings.of(id);
        for (Holding row : rows) {
          // of several rows about one right a trace takes the best, and of parts any
          boolean alone =
              rows.stream()
                      .filter(each -> each.node() == row.node())
                      .filter(each -> each.privilege() == row.privilege())
                      .count()
                  == 1;
          if (alone) {
            same(tracer, row, seed);
            ways++;
          }
        }
      }
    }
    assertThat(ways).isGreaterThan(5000);
  }

  private static void same(Tracer tracer, Holding row, long seed) {
    int column = row.columns() == null ? None.COLUMN : row.columns().nextSetBit(0);
    Trace trace = tracer.trace(row.user(), row.privilege(), row.node(), column, 1);
    Path nearest = tracer.nearest(row);
    if (trace.paths().isEmpty()) {
      assertThat(nearest).as("seed %d: %s", seed, row).isNull();
    } else {
      Path first = trace.paths().get(0);
      assertThat(nearest).as("seed %d: %s", seed, row).isNotNull();
      assertThat(nearest.chain()).as("seed %d: %s", seed, row).isEqualTo(first.chain());
      assertThat(nearest.source()).isEqualTo(first.source());
      assertThat(nearest.state()).isEqualTo(first.state());
      assertThat(Arrays.stream(nearest.chain()).boxed()).first().isEqualTo(row.user());
    }
  }
}
