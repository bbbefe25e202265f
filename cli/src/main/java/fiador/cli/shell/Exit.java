package fiador.cli.shell;

/** Exit codes, the same for every command. */
public final class Exit {
  /** Yes, nothing found, done. */
  public static final int YES = 0;

  /** No, something found, something to do. */
  public static final int NO = 1;

  /** Bad usage or bad input. */
  public static final int BAD_INPUT = 2;

  /** The server cannot be reached, or refused. */
  public static final int SERVER = 3;

  /** Stopped half-way; the journal knows where. */
  public static final int HALF_WAY = 4;

  /** A fault of the program itself, or of the machine; never an answer. */
  public static final int FAULT = 70;

  private Exit() {}
}
