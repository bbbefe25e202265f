package fiador.cli;

/** Exit codes, the same for every command. */
final class Exit {
  /** Yes, nothing found, done. */
  static final int YES = 0;

  /** No, something found, something to do. */
  static final int NO = 1;

  /** Bad usage or bad input. */
  static final int BAD_INPUT = 2;

  /** The server cannot be reached, or refused. */
  static final int SERVER = 3;

  /** Stopped half-way; the journal knows where. */
  static final int HALF_WAY = 4;

  /** A fault of the program itself, or of the machine; never an answer. */
  static final int FAULT = 70;

  private Exit() {}
}
