package fiador.findings.check;

import fiador.changes.wanted.OnServer;
import fiador.changes.wanted.Wanted.Place;
import java.time.LocalDate;

/**
 * Says that a finding is accepted for a while.
 *
 * @param finding the check's id
 * @param on the user, role or thing, as written: {@code user telemetry}, {@code billing.customers}
 * @param because why
 * @param until the last day
 * @param place where the charter says so
 */
public record Waiver(String finding, String on, String because, LocalDate until, Place place) {
  private static final String USER = "user ";

  /** The same for one server, about the account that a user has there. */
  Waiver on(OnServer server) {
    String about =
        on.startsWith(USER)
            ? USER + server.nameOrOwn(on.substring(USER.length()))
            : server.nameOrOwn(on);
    return new Waiver(finding, about, because, until, place);
  }
}
