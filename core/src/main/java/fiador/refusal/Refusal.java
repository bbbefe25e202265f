package fiador.refusal;

import org.jspecify.annotations.Nullable;

/**
 * What was asked for cannot be done, and it is no fault of the program. The one type that commands
 * and the work behind them throw, besides what goes wrong with files. The message says what, where,
 * and what to do.
 */
public abstract class Refusal extends Exception {
  private static final long serialVersionUID = 1L;

  private final Reason reason;

  /** Who has to do something about it. */
  public enum Reason {
    /** Whoever asked: what they gave is wrong. */
    INPUT,
    /** Whoever runs the server: it cannot be reached, or says no. */
    SERVER
  }

  /**
   * @param cause what else is known, or null
   */
  protected Refusal(Reason reason, String message, @Nullable Throwable cause) {
    super(message, cause);
    this.reason = reason;
  }

  /** Something that was given is wrong. */
  protected Refusal(String message) {
    this(Reason.INPUT, message, null);
  }

  /** Who has to do something about it. */
  public final Reason reason() {
    return reason;
  }
}
