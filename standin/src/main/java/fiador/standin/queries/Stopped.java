package fiador.standin.queries;

import fiador.standin.estate.MistakeException;
import fiador.standin.estate.RefusedException;

/** Carries out of a library's visitor what may not leave it as it is. */
final class Stopped extends RuntimeException {
  private static final long serialVersionUID = 1L;

  Stopped(Exception cause) {
    super(cause);
  }

  static Stopped refused(String message) {
    return new Stopped(new RefusedException(message));
  }

  static Stopped mistake(String message) {
    return new Stopped(new MistakeException(message));
  }

  /** What it carries, as a mistake of whoever wrote it. */
  MistakeException asMistake() {
    return getCause() instanceof MistakeException mistake
        ? mistake
        : new MistakeException(String.valueOf(getMessage()));
  }

  /** Throws what it carries. */
  Stopped unpack() throws RefusedException, MistakeException {
    if (getCause() instanceof RefusedException refused) {
      throw refused;
    }
    if (getCause() instanceof MistakeException mistake) {
      throw mistake;
    }
    return this;
  }
}
