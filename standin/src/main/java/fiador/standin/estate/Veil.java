package fiador.standin.estate;

import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What lies over a table for all but administrators: which rows are there, and what stands in the
 * place of values.
 */
public final class Veil {
  private final Map<String, String> columns = new LinkedHashMap<>();
  private @Nullable String rows;
  private @Nullable String note;

  /** The condition of rows that are there; null for all. */
  public @Nullable String rows() {
    return rows;
  }

  /** Says it; what was noted of the veil holds no more. */
  public void rows(@Nullable String condition) {
    this.rows = condition;
    this.note = null;
  }

  /** What stands in the place of values, by the column's name. */
  public Map<String, String> columns() {
    return Map.copyOf(columns);
  }

  /** Says it of one column, or that it is as it is; what was noted holds no more. */
  public void column(String name, @Nullable String value) {
    if (value == null) {
      columns.remove(name);
    } else {
      columns.put(name, value);
    }
    this.note = null;
  }

  /** What its maker noted of it as it is now; null for nothing. */
  public @Nullable String note() {
    return note;
  }

  /** Notes something of it, until it is changed. */
  public void note(String text) {
    this.note = text;
  }

  /** Whether it hides nothing. */
  public boolean isOpen() {
    return rows == null && columns.isEmpty();
  }
}
