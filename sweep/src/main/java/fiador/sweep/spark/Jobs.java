package fiador.sweep.spark;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.apache.spark.api.java.JavaRDD;
import scala.collection.Iterator;
import scala.jdk.javaapi.CollectionConverters;
import scala.reflect.ClassTag;
import scala.runtime.AbstractFunction1;
import scala.runtime.AbstractFunction2;
import scala.runtime.BoxedUnit;

/** What Spark's Java interface has no method for. */
final class Jobs {
  private Jobs() {}

  /**
   * Works all of it out and takes what comes as it comes, in no order, by one thread at a time.
   * Collecting it would take nothing before the last is there.
   */
  static <T> void each(JavaRDD<T> work, Consumer<T> to) {
    ClassTag<List<T>> tag = ClassTag.apply(List.class);
    work.context()
        .runJob(
            work.rdd(),
            new All<T>(),
            new AbstractFunction2<Object, List<T>, BoxedUnit>() {
              @Override
              public BoxedUnit apply(Object partition, List<T> results) {
                results.forEach(to);
                return BoxedUnit.UNIT;
              }
            },
            tag);
  }

  /** All of a partition. */
  private static final class All<T> extends AbstractFunction1<Iterator<T>, List<T>>
      implements java.io.Serializable {
    private static final long serialVersionUID = 1L;

    @Override
    public List<T> apply(Iterator<T> results) {
      List<T> list = new ArrayList<>();
      CollectionConverters.asJava(results).forEachRemaining(list::add);
      return list;
    }
  }
}
