package fiador.findings.check;

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
public record Waiver(String finding, String on, String because, LocalDate until, Place place) {}
