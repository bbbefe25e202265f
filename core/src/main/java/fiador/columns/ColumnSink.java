package fiador.columns;

/** Takes columns by name, each once, to be found again by a {@link ColumnSource}. */
public interface ColumnSink {
  /** Takes ints. */
  void ints(String name, Ints column);

  /** Takes characters. */
  void chars(String name, Chars column);
}
