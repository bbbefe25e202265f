package fiador.grants;

import fiador.columns.PackedReader;
import fiador.columns.PackedWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Lays down what is really elsewhere, and takes it up again. */
final class AbroadColumns {
  private AbroadColumns() {}

  static void put(Abroad abroad, PackedWriter packed) {
    packed.each(abroad.addresses(), packed::text);
    packed.each(
        abroad.places(),
        place ->
            packed
                .text(place.name())
                .number(place.in())
                .number(place.owner())
                .number(place.carrier().ordinal())
                .text(place.wrapper())
                .text(place.host())
                .text(place.port())
                .text(place.database()));
    packed.each(
        abroad.logins(),
        login ->
            packed
                .number(login.who())
                .number(login.place())
                .optional(login.user())
                .flag(login.secret())
                .flag(login.secretNeeded())
                .flag(login.shown()));
    packed.each(
        new TreeMap<>(abroad.tables()).entrySet(),
        entry -> {
          Abroad.Table table = entry.getValue();
          packed.number(entry.getKey()).number(table.place());
          packed.text(table.schema()).text(table.name());
          packed.each(
              new TreeMap<>(table.columns()).entrySet(),
              column -> packed.number(column.getKey()).text(column.getValue()));
          packed.each(table.wholes(), packed::number);
        });
  }

  static Abroad take(PackedReader packed) {
    List<String> addresses = List.copyOf(packed.list(packed::text));
    List<Abroad.Place> places =
        List.copyOf(
            packed.list(
                () ->
                    new Abroad.Place(
                        packed.text(),
                        packed.number(),
                        packed.number(),
                        Abroad.Carrier.values()[packed.number()],
                        packed.text(),
                        packed.text(),
                        packed.text(),
                        packed.text())));
    List<Abroad.Login> logins =
        List.copyOf(
            packed.list(
                () ->
                    new Abroad.Login(
                        packed.number(),
                        packed.number(),
                        packed.optional(),
                        packed.flag(),
                        packed.flag(),
                        packed.flag())));
    Map<Integer, Abroad.Table> tables = new LinkedHashMap<>();
    packed.list(() -> tables.put(packed.number(), table(packed)));
    return new Abroad(addresses, places, logins, Map.copyOf(tables));
  }

  private static Abroad.Table table(PackedReader packed) {
    int place = packed.number();
    String schema = packed.text();
    String name = packed.text();
    Map<Integer, String> columns = new LinkedHashMap<>();
    packed.list(() -> columns.put(packed.number(), packed.text()));
    List<Integer> wholes = List.copyOf(packed.list(packed::number));
    return new Abroad.Table(place, schema, name, Map.copyOf(columns), wholes);
  }
}
