package fiador.houses;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A source whose columns were found in a header. Cost of a field: the length of its value. */
public final class BoundSource {
  private final FactSource source;
  private final Map<String, Bound> fields = new HashMap<>();
  private final List<Filter> filters = new ArrayList<>();

  private record Filter(int column, Set<String> values) {}

  /**
   * A field, with the places of its columns.
   *
   * @param known what values of a single column came to; they repeat themselves
   */
  private record Bound(FieldValue value, int[] columns, boolean plain, Map<String, String> known) {
    private static final int MOST_KNOWN = 1_000;

    @Nullable String of(SourceRow row) throws BadRowException {
      if (columns.length != 1 || plain && value.values().isEmpty()) {
        return workedOut(row);
      }
      String raw = row.value(columns[0]);
      String before = raw == null ? null : known.get(raw);
      if (before != null) {
        return before;
      }
      String result = workedOut(row);
      if (raw != null && result != null && known.size() < MOST_KNOWN) {
        known.put(raw, result);
      }
      return result;
    }

    private @Nullable String workedOut(SourceRow row) throws BadRowException {
      String text = plain ? row.value(columns[0]) : made(row);
      if (value.values().isEmpty() || text == null && value.otherwise() == null) {
        return text;
      }
      String taken = value.values().get(text == null ? "" : text);
      if (taken == null) {
        taken = value.otherwise();
      }
      if (taken == null) {
        throw new BadRowException(
            first(),
            "\""
                + text
                + "\" is not known; the sheet knows "
                + String.join(", ", value.values().keySet()));
      }
      return taken;
    }

    private int first() {
      return columns.length == 0 ? -1 : columns[0];
    }

    /** With nothing in one of its columns it is nothing itself. */
    private @Nullable String made(SourceRow row) {
      StringBuilder made = new StringBuilder();
      int next = 0;
      for (Expression.Part part : value.from().parts()) {
        String text = part.text();
        if (part.isColumn()) {
          text = row.value(columns[next++]);
          if (text == null) {
            return null;
          }
          for (Expression.Change change : part.changes()) {
            text = change.of(text);
          }
        }
        made.append(text);
      }
      return made.toString();
    }
  }

  private BoundSource(FactSource source) {
    this.source = source;
  }

  /**
   * Finds the columns, whatever the case of their names.
   *
   * @throws BadRowException naming the columns that are missing
   */
  public static BoundSource of(FactSource source, List<String> header) throws BadRowException {
    Map<String, Integer> places = new HashMap<>();
    for (int i = 0; i < header.size(); i++) {
      places.putIfAbsent(header.get(i).strip().toLowerCase(Locale.ROOT), i);
    }
    BoundSource bound = new BoundSource(source);
    Set<String> missing = new HashSet<>();
    source
        .fields()
        .forEach(
            (name, value) -> {
              List<String> columns = value.from().columns();
              int[] found = new int[columns.size()];
              for (int i = 0; i < found.length; i++) {
                found[i] = place(places, columns.get(i), missing);
              }
              List<Expression.Part> parts = value.from().parts();
              boolean plain =
                  parts.size() == 1 && found.length == 1 && parts.get(0).changes().isEmpty();
              bound.fields.put(name, new Bound(value, found, plain, new HashMap<>()));
            });
    source
        .only()
        .forEach(
            (column, values) ->
                bound.filters.add(
                    new Filter(place(places, column, missing), new HashSet<>(values))));
    if (!missing.isEmpty()) {
      throw new BadRowException(
          -1,
          "there is no column "
              + String.join(", ", missing.stream().sorted().toList())
              + "; found "
              + (header.isEmpty()
                  ? "none"
                  : String.join(
                      ", ", new LinkedHashMap<>(places).keySet().stream().sorted().toList())));
    }
    return bound;
  }

  private static int place(Map<String, Integer> places, String column, Set<String> missing) {
    Integer place = places.get(column.toLowerCase(Locale.ROOT));
    if (place == null) {
      missing.add(column);
      return 0;
    }
    return place;
  }

  /** What it is bound to. */
  FactSource source() {
    return source;
  }

  /** Whether a row counts. */
  boolean takes(SourceRow row) {
    for (Filter filter : filters) {
      String value = row.value(filter.column);
      if (!filter.values.contains(value == null ? "" : value)) {
        return false;
      }
    }
    return true;
  }

  /** A field's value; null where the sheet says nothing of it, or nothing stands there. */
  @Nullable String get(String field, SourceRow row) throws BadRowException {
    Bound bound = fields.get(field);
    return bound == null ? null : bound.of(row);
  }

  /** A field's value, where an empty one is none. */
  @Nullable String some(String field, SourceRow row) throws BadRowException {
    String value = get(field, row);
    return value == null || value.isEmpty() ? null : value;
  }

  /** A field's value, which must be there. */
  String needed(String field, SourceRow row) throws BadRowException {
    String value = some(field, row);
    if (value == null) {
      throw bad(field, field + " is missing");
    }
    return value;
  }

  /** Whether a field says yes. */
  boolean flag(String field, boolean usual, SourceRow row) throws BadRowException {
    String value = some(field, row);
    if (value == null) {
      return usual;
    }
    return switch (value.toLowerCase(Locale.ROOT)) {
      case "true", "t", "yes", "y", "1", "on" -> true;
      case "false", "f", "no", "n", "0", "off" -> false;
      default -> throw bad(field, "\"" + value + "\" is neither yes nor no");
    };
  }

  /** What is wrong with a field, and where it comes from. */
  BadRowException bad(String field, String message) {
    Bound bound = fields.get(field);
    return new BadRowException(bound == null ? -1 : bound.first(), message);
  }
}
