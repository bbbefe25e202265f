package fiador.houses;

/** A row about somebody or something that is not there. */
final class UnknownException extends RuntimeException {
  private static final long serialVersionUID = 1;

  private final int column;
  private final String what;

  UnknownException(BadRowException bad) {
    super(bad.getMessage(), null, false, false);
    this.column = bad.column();
    this.what = String.valueOf(bad.getMessage());
  }

  int column() {
    return column;
  }

  String what() {
    return what;
  }
}
