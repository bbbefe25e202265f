package fiador.files.ledger;

import java.time.Instant;
import java.time.temporal.ChronoUnit;

/** Moments as a ledger keeps them: microseconds since 1970. */
final class Micros {
  private Micros() {}

  static long of(Instant instant) {
    return ChronoUnit.MICROS.between(Instant.EPOCH, instant);
  }

  static Instant instant(long micros) {
    return Instant.EPOCH.plus(micros, ChronoUnit.MICROS);
  }
}
