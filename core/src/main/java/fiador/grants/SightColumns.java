package fiador.grants;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.PackedReader;
import fiador.columns.PackedWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;

/** Lays down what decides on rows and columns, and takes it up again. */
final class SightColumns {
  private static final String NAME = "sights";

  private SightColumns() {}

  static void put(Sights sights, ColumnSink sink) {
    PackedWriter packed = new PackedWriter();
    packed.each(
        sights.kept().entrySet(),
        one -> {
          Sights.Kept kept = one.getValue();
          packed.number(one.getKey()).number(kept.table()).text(kept.policies());
          packed.flag(kept.asMade());
        });
    packed.each(
        sights.filters().entrySet(),
        one -> {
          Sights.Filter filter = one.getValue();
          packed.number(one.getKey()).flag(filter.enabled()).flag(filter.forced());
          packed.each(filter.rules(), rule -> put(rule, packed));
        });
    packed.each(
        sights.attributes(),
        one -> {
          packed.number(one.database()).text(one.user()).text(one.name());
          packed.each(one.values(), packed::text);
        });
    packed.each(
        sights.lookups(),
        one -> {
          packed.number(one.database()).text(one.name()).number(one.table());
          packed.text(one.key()).text(one.keys().text()).text(one.value()).flag(one.asMade());
        });
    packed.each(
        sights.guards().entrySet(), one -> packed.number(one.getKey()).number(one.getValue()));
    packed.each(
        sights.doubts().entrySet(),
        one -> {
          packed.number(one.getKey()).flag(one.getValue().foreign());
          packed.each(one.getValue().why(), packed::text);
        });
    packed.each(
        sights.seals(),
        one -> {
          packed.text(one.name()).each(one.on(), packed::number);
          packed.each(one.openTo(), packed::number);
        });
    packed.each(
        sights.fills().entrySet(),
        one -> {
          Sights.Fills fills = one.getValue();
          packed.number(one.getKey());
          packed.each(
              fills.defaults().entrySet(),
              each -> packed.text(each.getKey()).text(each.getValue()));
          packed.each(fills.never(), packed::text);
          packed.each(fills.key(), packed::text);
        });
    packed.put(NAME, sink);
  }

  private static void put(Sights.Rule rule, PackedWriter packed) {
    packed.text(rule.name()).flag(rule.any()).bits(rule.commands());
    packed.each(rule.roles(), packed::number);
    packed.optional(rule.using()).optional(rule.predicate());
  }

  static Sights take(ColumnSource source) {
    PackedReader packed = new PackedReader(NAME, source);
    Map<Integer, Sights.Kept> kept =
        map(packed, () -> new Sights.Kept(packed.number(), packed.text(), packed.flag()));
    Map<Integer, Sights.Filter> filters =
        map(
            packed,
            () ->
                new Sights.Filter(
                    packed.flag(), packed.flag(), List.copyOf(packed.list(() -> rule(packed)))));
    List<Sights.Attribute> attributes =
        packed.list(
            () ->
                new Sights.Attribute(packed.number(), packed.text(), packed.text(), texts(packed)));
    List<Sights.LookupTable> lookups =
        packed.list(
            () ->
                new Sights.LookupTable(
                    packed.number(),
                    packed.text(),
                    packed.number(),
                    packed.text(),
                    new LookupKey(packed.text()),
                    packed.text(),
                    packed.flag()));
    Map<Integer, Integer> guards = map(packed, packed::number);
    Map<Integer, Sights.Doubt> doubts =
        map(packed, () -> new Sights.Doubt(packed.flag(), texts(packed)));
    List<Sights.Seal> seals =
        packed.list(() -> new Sights.Seal(packed.text(), numbers(packed), numbers(packed)));
    Map<Integer, Sights.Fills> fills =
        map(packed, () -> new Sights.Fills(defaults(packed), texts(packed), texts(packed)));
    return new Sights(
        kept,
        filters,
        List.copyOf(attributes),
        List.copyOf(lookups),
        guards,
        doubts,
        List.copyOf(seals),
        fills);
  }

  private static Map<String, String> defaults(PackedReader packed) {
    Map<String, String> found = new LinkedHashMap<>();
    int count = packed.number();
    for (int i = 0; i < count; i++) {
      found.put(packed.text(), packed.text());
    }
    return found;
  }

  private static Sights.Rule rule(PackedReader packed) {
    return new Sights.Rule(
        packed.text(),
        packed.flag(),
        packed.bits(),
        numbers(packed),
        packed.optional(),
        packed.optional());
  }

  private static List<String> texts(PackedReader packed) {
    return List.copyOf(packed.list(packed::text));
  }

  private static List<Integer> numbers(PackedReader packed) {
    return List.copyOf(packed.list(packed::number));
  }

  private static <V> Map<Integer, V> map(PackedReader packed, Supplier<V> value) {
    Map<Integer, V> map = new LinkedHashMap<>();
    int count = packed.number();
    for (int i = 0; i < count; i++) {
      map.put(packed.number(), value.get());
    }
    return map;
  }
}
