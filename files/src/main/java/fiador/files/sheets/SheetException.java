package fiador.files.sheets;

/** A sheet that cannot be read at all; the message says why. */
public final class SheetException extends Exception {
  SheetException(String message) {
    super(message);
  }
}
