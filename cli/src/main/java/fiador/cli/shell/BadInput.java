package fiador.cli.shell;

/** Something the user gave is wrong; the message says what, where, and what to do. */
public final class BadInput extends Exception {
  private static final long serialVersionUID = 1L;

  public BadInput(String message) {
    super(message);
  }
}
