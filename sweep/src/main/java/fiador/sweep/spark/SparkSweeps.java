package fiador.sweep.spark;

import fiador.refusal.Refusal;
import fiador.work.sweeping.Order;
import fiador.work.sweeping.Outcome;
import fiador.work.sweeping.Sweeps;
import java.io.IOException;
import java.util.function.Consumer;
import org.apache.spark.api.java.JavaSparkContext;
import org.apache.spark.sql.SparkSession;

/** Sweeps with Spark. */
public final class SparkSweeps implements Sweeps {
  /** Twice what a server of a million tables comes to. */
  private static final long TOGETHER = 700L << 20;

  private final long together;

  /** As usual. */
  public SparkSweeps() {
    this(TOGETHER);
  }

  /**
   * With another limit.
   *
   * @param together how many bytes of surveys of servers that lead to each other may be at hand at
   *     once, beyond what there is no answer without
   */
  public SparkSweeps(long together) {
    this.together = together;
  }

  @Override
  public Outcome sweep(Order order, Consumer<String> progress) throws Refusal, IOException {
    return told(
        () -> {
          SparkSession session = Engine.session(order.cores());
          JavaSparkContext spark = JavaSparkContext.fromSparkContext(session.sparkContext());
          return new Sweeping(spark, order, progress, together).run();
        });
  }

  @Override
  public <T> T ask(String sweep, int cores, Question question, Reading<T> reading)
      throws Refusal, IOException {
    return told(() -> new Answers(Engine.session(cores), sweep).to(question, reading));
  }

  private interface Work<T> {
    T work() throws Refusal, IOException;
  }

  /** What is written in Scala throws whatever it likes, declared or not. */
  @SuppressWarnings("CatchingUnchecked")
  private static <T> T told(Work<T> work) throws Refusal, IOException {
    try {
      return work.work();
    } catch (Refusal | IOException | RuntimeException known) {
      throw known;
    } catch (Exception other) {
      String first = String.valueOf(other.getMessage()).lines().findFirst().orElse("");
      throw new IOException("Spark gave up: " + first, other);
    }
  }
}
