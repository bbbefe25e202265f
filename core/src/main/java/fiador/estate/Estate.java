package fiador.estate;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;

/**
 * The things and the people of one server, immutable.
 *
 * @param names every text, interned
 * @param tree what privileges are on
 * @param principals who may hold them
 */
public record Estate(Names names, Tree tree, Principals principals) {
  /** The estate that {@link #put} laid down. Cost: hardly any; it is read as it is asked. */
  public static Estate take(ColumnSource source) {
    Names names = Names.take(source);
    return new Estate(names, Tree.take(names, source), Principals.take(names, source));
  }

  /**
   * Lays it down. Cost: its size.
   *
   * @param texts how many of the texts belong to it; others came later
   */
  public void put(int texts, ColumnSink sink) {
    names.put(texts, sink);
    tree.put(sink);
    principals.put(sink);
  }
}
