package fiador.files.extracts;

import fiador.refusal.Refusal;

/** Extracts that cannot be read; the message names every place, up to a hundred. */
public final class ExtractException extends Refusal {
  private static final long serialVersionUID = 1L;

  ExtractException(String message) {
    super(message);
  }
}
