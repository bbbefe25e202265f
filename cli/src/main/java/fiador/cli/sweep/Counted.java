package fiador.cli.sweep;

import java.util.Locale;

/** Numbers with what they count. */
final class Counted {
  private Counted() {}

  /** {@code 1 server}, {@code 12,000 servers}. */
  static String of(long count, String what) {
    return String.format(Locale.ROOT, "%,d ", count) + what + (count == 1 ? "" : "s");
  }
}
