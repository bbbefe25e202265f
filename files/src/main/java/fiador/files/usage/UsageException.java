package fiador.files.usage;

/** A log that cannot be read, with the line where that is known. */
public final class UsageException extends Exception {
  private static final long serialVersionUID = 1;

  /** With what is wrong and where. */
  public UsageException(String message) {
    super(message);
  }
}
