package fiador.refusal;

/** Something the user gave is wrong. */
public final class BadInput extends Refusal {
  private static final long serialVersionUID = 1L;

  /**
   * @param message what is wrong, where, and what to do
   */
  public BadInput(String message) {
    super(message);
  }
}
