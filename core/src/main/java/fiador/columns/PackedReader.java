package fiador.columns;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Unpacks what a {@link PackedWriter} packed, in the same order. */
public final class PackedReader {
  private final Ints ints;
  private final Chars chars;
  private int at;
  private int inText;

  /** What was laid down under that name. */
  public PackedReader(String name, ColumnSource source) {
    this.ints = source.ints(name + ".ints");
    this.chars = source.chars(name + ".chars");
  }

  /** Unpacks a number. */
  public int number() {
    return ints.get(at++);
  }

  /** Unpacks a long number. */
  public long bits() {
    long high = number();
    return high << 32 | (number() & 0xFFFF_FFFFL);
  }

  /** Unpacks a yes or no. */
  public boolean flag() {
    return number() != 0;
  }

  /** Unpacks a text. */
  public String text() {
    int from = inText;
    inText += number();
    return chars.text(from, inText);
  }

  /** Unpacks a text, or that there is none. */
  public @Nullable String optional() {
    return flag() ? text() : null;
  }

  /** Unpacks as many as were packed. */
  public <T> List<T> list(Supplier<T> one) {
    int count = number();
    List<T> all = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      all.add(one.get());
    }
    return all;
  }
}
