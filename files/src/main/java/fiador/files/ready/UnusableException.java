package fiador.files.ready;

/** A ready form that is not believed; the message says what is the matter with it. */
final class UnusableException extends Exception {
  private static final long serialVersionUID = 1;

  UnusableException(String what) {
    super(what);
  }
}
