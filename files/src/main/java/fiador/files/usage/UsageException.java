package fiador.files.usage;

import fiador.refusal.Refusal;

/** A log that cannot be read, with the line where that is known. */
public final class UsageException extends Refusal {
  private static final long serialVersionUID = 1;

  /** With what is wrong and where. */
  public UsageException(String message) {
    super(message);
  }
}
