package fiador.files.charter;

import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml.Scalar;
import java.time.DateTimeException;
import java.time.LocalDate;

/** Reads dates of a charter. */
final class Dates {
  private Dates() {}

  /** The date, or null where it is none, which is then noted. */
  static LocalDate read(Scalar written, Mistakes mistakes) {
    try {
      return written == null ? null : LocalDate.parse(written.text());
    } catch (DateTimeException malformed) {
      mistakes.add(
          written.place(), "found " + written.what() + ", expected a date such as 2027-03-31");
      return null;
    }
  }
}
