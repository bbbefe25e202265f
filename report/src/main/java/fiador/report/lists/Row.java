package fiador.report.lists;

import java.util.LinkedHashMap;
import java.util.Map;

/** A row in the making; what is null or empty is left out. */
final class Row {
  private final Map<String, Object> values = new LinkedHashMap<>();

  Row put(String field, Object value) {
    boolean nothing = value == null || value.equals("") || value.equals(false);
    if (!nothing) {
      values.put(field, value);
    }
    return this;
  }

  /** A number, also when it is 0. */
  Row count(String field, int number) {
    values.put(field, number);
    return this;
  }

  /** Whether something is so, also when it is not. */
  Row truth(String field, boolean so) {
    values.put(field, so);
    return this;
  }

  Map<String, Object> values() {
    return values;
  }
}
