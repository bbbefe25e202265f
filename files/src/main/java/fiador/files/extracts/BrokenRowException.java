package fiador.files.extracts;

/** What stands there is no row of that table. */
final class BrokenRowException extends Exception {
  private static final long serialVersionUID = 1;

  private final long line;
  private final boolean last;

  /**
   * What is wrong.
   *
   * @param last whether nothing can be read behind it
   */
  BrokenRowException(long line, String message, boolean last) {
    super(message, null, false, false);
    this.line = line;
    this.last = last;
  }

  /** Whether it is not known where the next row begins. */
  boolean last() {
    return last;
  }

  long line() {
    return line;
  }
}
