package fiador.standin.queries;

import fiador.standin.estate.Thing;
import fiador.standin.estate.WayIn;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/**
 * A table that a query reads and another server has. Which of its columns are wanted is known once
 * the whole query was written.
 *
 * @param may the columns its reader may read
 * @param names whether the query names a column, by its name in small letters
 */
record Wanted(
    String into, Thing table, Thing.Far far, WayIn way, Set<String> may, Predicate<String> names) {

  Fetch known() {
    List<String> columns = may.stream().filter(one -> names.test(PlainText.lower(one))).toList();
    return new Fetch(into, table, far, way, columns);
  }
}
