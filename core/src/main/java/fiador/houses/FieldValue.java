package fiador.houses;

import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a field is made of.
 *
 * @param from the columns it is made of, and what stands around them
 * @param values what a value is taken for, as it stands there; empty for as it is
 * @param otherwise what all other values are taken for; null where others are a mistake
 */
public record FieldValue(Expression from, Map<String, String> values, @Nullable String otherwise) {
  /** A value as it stands there. */
  public FieldValue(Expression from) {
    this(from, Map.of(), null);
  }
}
