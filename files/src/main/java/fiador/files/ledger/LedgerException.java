package fiador.files.ledger;

import java.io.IOException;

/** A ledger that cannot be read or written; the message says why. */
public final class LedgerException extends IOException {
  LedgerException(String message) {
    super(message);
  }

  LedgerException(String message, Throwable cause) {
    super(message, cause);
  }
}
