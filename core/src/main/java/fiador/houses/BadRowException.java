package fiador.houses;

/** A row that is no such fact. */
public final class BadRowException extends Exception {
  private static final long serialVersionUID = 1;

  private final int column;

  /**
   * What is wrong.
   *
   * @param column in which column of the row, from 0; -1 where it is a matter of the row
   */
  public BadRowException(int column, String message) {
    super(message, null, false, false);
    this.column = column;
  }

  /** In which column, from 0; -1 where it is a matter of the whole row. */
  public int column() {
    return column;
  }
}
