package fiador.columns;

import java.util.HashMap;
import java.util.Map;

/** Columns that are laid down in memory and found there again. */
public final class HeapColumns implements ColumnSink, ColumnSource {
  private final Map<String, Ints> ints = new HashMap<>();
  private final Map<String, Chars> chars = new HashMap<>();

  @Override
  public void ints(String name, Ints column) {
    ints.put(name, column);
  }

  @Override
  public void chars(String name, Chars column) {
    chars.put(name, column);
  }

  @Override
  public Ints ints(String name) {
    Ints column = ints.get(name);
    if (column == null) {
      throw new IllegalArgumentException("there is no column " + name);
    }
    return column;
  }

  @Override
  public Chars chars(String name) {
    Chars column = chars.get(name);
    if (column == null) {
      throw new IllegalArgumentException("there is no column " + name);
    }
    return column;
  }
}
