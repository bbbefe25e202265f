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
  private String note = "";
  private boolean asNoted;

  /** The condition of rows that are there; null for all. */
  public @Nullable String rows() {
    return rows;
  }

  /** Says it; the veil is no longer as it was noted. */
  public void rows(@Nullable String condition) {
    this.rows = condition;
    this.asNoted = false;
  }

  /** What stands in the place of values, by the column's name. */
  public Map<String, String> columns() {
    return Map.copyOf(columns);
  }

  /** Says it of one column, or that it is as it is; the veil is no longer as it was noted. */
  public void column(String name, @Nullable String value) {
    if (value == null) {
      columns.remove(name);
    } else {
      columns.put(name, value);
    }
    this.asNoted = false;
  }

  /** What its maker noted of it; empty for nothing. */
  public String note() {
    return note;
  }

  /** Whether it was not changed since. */
  public boolean asNoted() {
    return asNoted;
  }

  /** Notes something of it as it is now; nothing takes what was noted away. */
  public void note(String text) {
    this.note = text;
    this.asNoted = !text.isEmpty();
  }

  /** Whether it hides nothing. */
  public boolean isOpen() {
    return rows == null && columns.isEmpty();
  }
}
