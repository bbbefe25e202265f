package fiador.files.identities;

import fiador.refusal.Refusal;

/** An identity list that cannot be read, with the place where that is known. */
public final class IdentityException extends Refusal {
  private static final long serialVersionUID = 1;

  /** With what is wrong and where. */
  public IdentityException(String message) {
    super(message);
  }
}
