package fiador.columns;

import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.Collection;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Packs what is small and of many shapes into two columns, to be unpacked in the same order by a
 * {@link PackedReader}.
 */
public final class PackedWriter {
  private final IntArrayList ints = new IntArrayList();
  private final StringBuilder chars = new StringBuilder();

  /** Packs a number. */
  public PackedWriter number(int value) {
    ints.add(value);
    return this;
  }

  /** Packs a long number. */
  public PackedWriter bits(long value) {
    ints.add((int) (value >>> 32));
    ints.add((int) value);
    return this;
  }

  /** Packs a yes or no. */
  public PackedWriter flag(boolean value) {
    return number(value ? 1 : 0);
  }

  /** Packs a text that is there. */
  public PackedWriter text(String value) {
    ints.add(value.length());
    chars.append(value);
    return this;
  }

  /** Packs a text, or that there is none. */
  public PackedWriter optional(@Nullable String value) {
    flag(value != null);
    return value == null ? this : text(value);
  }

  /** Packs how many there are, and each. */
  public <T> PackedWriter each(Collection<T> all, Consumer<T> packed) {
    number(all.size());
    all.forEach(packed);
    return this;
  }

  /** Lays down what was packed. */
  public void put(String name, ColumnSink sink) {
    sink.ints(name + ".ints", Ints.of(ints.toIntArray()));
    sink.chars(name + ".chars", Chars.of(chars.toString()));
  }
}
