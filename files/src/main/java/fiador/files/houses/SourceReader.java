package fiador.files.houses;

import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.houses.Expression;
import fiador.houses.FactSort;
import fiador.houses.FactSource;
import fiador.houses.FieldValue;
import fiador.sqltext.uses.ReadingQuery;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads one place where facts are found: a query or an extract, and what is what in its rows. */
final class SourceReader extends Shapes {
  private static final List<String> OWN_KEYS =
      List.of("query", "extract", "only", "unknown", "optional");
  private static final List<String> VALUE_KEYS = List.of("from", "values", "otherwise");

  SourceReader(Mistakes mistakes) {
    super(mistakes);
  }

  @Nullable FactSource read(FactSort sort, Mapping body) {
    String query = null;
    String extract = null;
    boolean skips = false;
    boolean optional = false;
    Map<String, List<String>> only = Map.of();
    Map<String, FieldValue> fields = new LinkedHashMap<>();
    List<String> keys = new ArrayList<>(OWN_KEYS);
    keys.addAll(sort.fields());
    for (Entry entry : body.entries()) {
      String key = entry.key().text();
      switch (key) {
        case "query" -> query = query(entry.value());
        case "extract" -> extract = extract(entry.value());
        case "only" -> only = only(entry.value());
        case "unknown" -> skips = word(entry.value(), List.of("skip"), "way").equals("skip");
        case "optional" -> optional = optional(sort, entry);
        default -> {
          if (!sort.fields().contains(key)) {
            unknown(entry.key(), keys, "field of " + sort.word());
          } else {
            FieldValue value = value(entry.value());
            if (value != null) {
              fields.put(key, value);
            }
          }
        }
      }
    }
    for (String needed : sort.needed()) {
      if (body.get(needed) == null) {
        mistakes.add(body.place(), "these " + sort.word() + " have no \"" + needed + "\"");
      }
    }
    if (body.get("query") == null && body.get("extract") == null) {
      mistakes.add(body.place(), "neither a query nor an extract says where they are found");
    }
    return new FactSource(sort, query, extract, only, fields, skips, optional);
  }

  /** Rights may not be missing without a word, so that only little can be. */
  private boolean optional(FactSort sort, Entry entry) {
    boolean optional = word(entry.value(), List.of("true", "false"), "truth value").equals("true");
    if (optional && !sort.canBeMissing()) {
      mistakes.add(
          entry.key().place(),
          "these cannot be optional, because they decide on rights; only "
              + String.join(", ", FactSort.optional())
              + " can");
    }
    return optional;
  }

  private @Nullable String query(Yaml yaml) {
    Scalar query = scalar(yaml, "a query");
    String refusal = query == null ? null : ReadingQuery.refusal(query.text());
    if (refusal != null) {
      mistakes.add(yaml.place(), "this query is not run: " + refusal);
    }
    return query == null ? null : query.text();
  }

  /** A name of files in one folder: nothing that leads out of it. */
  private @Nullable String extract(Yaml yaml) {
    Scalar extract = scalar(yaml, "the name of a file");
    if (extract == null) {
      return null;
    }
    String name = extract.text();
    boolean leaves = name.contains("/") || name.contains("\\") || name.startsWith(".");
    if (leaves) {
      mistakes.add(
          extract.place(), "an extract is a file in the folder that is named, and no path");
    }
    boolean known = name.matches(".*\\.(csv|jsonl)(\\.(gz|zst))?");
    if (!leaves && !known) {
      mistakes.add(
          extract.place(),
          "an extract is called *.csv or *.jsonl, perhaps with .gz or .zst behind it");
    }
    return name;
  }

  private Map<String, List<String>> only(Yaml yaml) {
    Map<String, List<String>> only = new LinkedHashMap<>();
    Mapping body = mapping(yaml, "columns, and which values count in each");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      List<String> values = new ArrayList<>();
      for (Yaml item : sequence(entry.value(), "values")) {
        // an empty text is a value too: nothing stands there
        if (item instanceof Scalar scalar) {
          values.add(scalar.text());
        } else {
          scalar(item, "a value");
        }
      }
      only.put(entry.key().text(), values);
    }
    return only;
  }

  private @Nullable FieldValue value(Yaml yaml) {
    if (yaml instanceof Mapping body) {
      for (Entry entry : body.entries()) {
        if (!VALUE_KEYS.contains(entry.key().text())) {
          unknown(entry.key(), VALUE_KEYS, "part of a field");
        }
      }
      Yaml from = body.get("from");
      if (from == null) {
        mistakes.add(body.place(), "from: is missing, which says what it is made of");
        return null;
      }
      Expression made = expression(from);
      Yaml otherwise = body.get("otherwise");
      String rest = otherwise instanceof Scalar scalar ? scalar.text() : null;
      return made == null ? null : new FieldValue(made, values(body.get("values")), rest);
    }
    Expression made = expression(yaml);
    return made == null ? null : new FieldValue(made);
  }

  private Map<String, String> values(@Nullable Yaml yaml) {
    Map<String, String> values = new LinkedHashMap<>();
    Mapping body = yaml == null ? null : mapping(yaml, "what each value is taken for");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      if (entry.value() instanceof Scalar scalar) {
        values.put(entry.key().text(), scalar.text());
      } else {
        scalar(entry.value(), "a value");
      }
    }
    return values;
  }

  private @Nullable Expression expression(Yaml yaml) {
    Scalar text = scalar(yaml, "a text with columns between braces");
    if (text == null) {
      return null;
    }
    try {
      return Expression.of(text.text());
    } catch (IllegalArgumentException wrong) {
      mistakes.add(text.place(), String.valueOf(wrong.getMessage()));
      return null;
    }
  }
}
