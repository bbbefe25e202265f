package fiador.files.fuzz;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import fiador.fuzz.Mutation;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Whatever stands in a file, it is read or refused in words, and soon. */
final class ReadersTest {
  private static final int INPUTS = Integer.getInteger("fiador.fuzz", 600);
  private static final long SLOWEST_NANOS = 10_000_000_000L;

  @TempDir Path place;

  @ParameterizedTest
  @EnumSource(Readers.class)
  void nothingThatIsReadBreaksTheReader(Readers reader) {
    Mutation mutation = new Mutation(reader.seeds(), Long.getLong("fiador.seed", 1));
    long slowest = 0;
    for (int i = 0; i < INPUTS; i++) {
      byte[] input = mutation.next();
      long begun = System.nanoTime();
      try {
        reader.tried(input, place);
      } catch (RuntimeException | StackOverflowError | OutOfMemoryError fault) {
        String shown =
            new String(Arrays.copyOf(input, Math.min(2_000, input.length)), StandardCharsets.UTF_8);
        List<StackTraceElement> top = Arrays.stream(fault.getStackTrace()).limit(8).toList();
        fail("input " + i + " of " + reader + ": " + shown + " at " + top, fault);
      }
      slowest = Math.max(slowest, System.nanoTime() - begun);
    }
    // two seconds on a machine that has nothing else to do
    assertThat(slowest).isLessThan(SLOWEST_NANOS);
  }
}
