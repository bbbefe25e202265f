package fiador.sweep.spark;

import fiador.refusal.BadInput;
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
  @Override
  public Outcome sweep(Order order, Consumer<String> progress) throws Refusal, IOException {
    SparkSession session = Engine.session(order.cores());
    JavaSparkContext spark = JavaSparkContext.fromSparkContext(session.sparkContext());
    try {
      return new Sweeping(spark, order, progress).run();
    } catch (java.io.FileNotFoundException missing) {
      throw new BadInput(order.surveys() + " is not there, or cannot be read");
    }
  }

  @Override
  public <T> T ask(String sweep, int cores, Question question, Reading<T> reading)
      throws Refusal, IOException {
    return new Answers(Engine.session(cores), sweep).to(question, reading);
  }
}
