package fiador.report.text;

import fiador.grants.Abroad;
import java.util.Locale;

/** The other ends of foreign tables, in words. */
public final class Places {
  private Places() {}

  /** What it is called; null where it has no name of its own. */
  public static String name(Abroad.Place place) {
    return place.name().isEmpty() ? null : place.name();
  }

  /** What fetches the rows: a kind of server, a file, a program, or the wrapper's name. */
  public static String carrier(Abroad.Place place) {
    return place.carrier() == Abroad.Carrier.OTHER
        ? place.wrapper()
        : place.carrier().name().toLowerCase(Locale.ROOT);
  }

  /** Where it is, as it is written on the server; null where nothing says so. */
  public static String address(Abroad.Place place) {
    String host = place.host() + (place.port().isEmpty() ? "" : ":" + place.port());
    String whole = host + (place.database().isEmpty() ? "" : "/" + place.database());
    return whole.isEmpty() ? null : whole;
  }

  /** The table or file there; null where it is not said. */
  public static String there(Abroad.Table table) {
    String schema = table.schema().isEmpty() ? "" : table.schema() + ".";
    return table.name().isEmpty() ? null : schema + table.name();
  }
}
