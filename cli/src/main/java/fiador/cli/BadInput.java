package fiador.cli;

/** Something the user gave is wrong; the message says what, where, and what to do. */
final class BadInput extends Exception {
  private static final long serialVersionUID = 1L;

  BadInput(String message) {
    super(message);
  }
}
