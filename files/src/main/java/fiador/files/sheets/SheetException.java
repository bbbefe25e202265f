package fiador.files.sheets;

import fiador.refusal.Refusal;

/** A sheet that cannot be read at all; the message says why. */
public final class SheetException extends Refusal {
  SheetException(String message) {
    super(message);
  }
}
