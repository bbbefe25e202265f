package fiador.sweep.tables;

/**
 * A column of a table. Names are lower-case words that no SQL reserves.
 *
 * @param name what it is called
 * @param type what stands in it
 */
public record Field(String name, Type type) {
  /** What stands in a column. */
  public enum Type {
    /** Text in UTF-8. */
    TEXT,
    /** A whole number of 64 bits. */
    NUMBER,
    /** Yes or no. */
    FLAG,
    /** A moment in UTC, to the microsecond. */
    TIME,
    /** Texts in order. */
    TEXTS
  }

  static Field text(String name) {
    return new Field(name, Type.TEXT);
  }

  static Field number(String name) {
    return new Field(name, Type.NUMBER);
  }

  static Field flag(String name) {
    return new Field(name, Type.FLAG);
  }

  static Field time(String name) {
    return new Field(name, Type.TIME);
  }

  static Field texts(String name) {
    return new Field(name, Type.TEXTS);
  }
}
