package fiador.files.houses;

import fiador.estate.Privilege;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.files.yaml.Yaml.Sequence;
import fiador.houses.FactSort;
import fiador.houses.FactSource;
import fiador.houses.Reading;
import fiador.sqltext.uses.ReadingQuery;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads where a sheet finds its facts. */
final class ReadingSection extends Shapes {
  private static final List<String> OWN_KEYS =
      List.of(
          "url",
          "parameters",
          "version",
          "identity",
          "everybody",
          "words",
          "ignored",
          "system_schemas");

  private final SourceReader sources;

  ReadingSection(Mistakes mistakes) {
    super(mistakes);
    this.sources = new SourceReader(mistakes);
  }

  Reading read(Mapping body) {
    List<String> keys =
        Stream.concat(OWN_KEYS.stream(), Stream.of(FactSort.values()).map(FactSort::word)).toList();
    Map<FactSort, List<FactSource>> found = new EnumMap<>(FactSort.class);
    for (Entry entry : body.entries()) {
      FactSort sort =
          Stream.of(FactSort.values())
              .filter(each -> each.word().equals(entry.key().text()))
              .findFirst()
              .orElse(null);
      if (sort != null) {
        found.put(sort, sources(sort, entry.value()));
      } else if (!OWN_KEYS.contains(entry.key().text())) {
        unknown(entry.key(), keys, "thing to read");
      }
    }
    if (!found.containsKey(FactSort.PRINCIPALS)) {
      mistakes.add(body.place(), "nothing is said of principals: where users and roles are found");
    }
    return new Reading(
        text(body, "url"),
        lower(texts(body, "parameters")),
        query(body, "version"),
        query(body, "identity"),
        text(body, "everybody"),
        words(body.get("words")),
        lower(texts(body, "ignored")),
        new LinkedHashSet<>(texts(body, "system_schemas")),
        found);
  }

  private static Set<String> lower(List<String> texts) {
    Set<String> lower = new LinkedHashSet<>();
    texts.forEach(text -> lower.add(text.toLowerCase(Locale.ROOT)));
    return lower;
  }

  private @Nullable String text(Mapping body, String key) {
    Yaml yaml = body.get(key);
    Scalar scalar = yaml == null ? null : scalar(yaml, "a text");
    return scalar == null ? null : scalar.text();
  }

  private List<String> texts(Mapping body, String key) {
    Yaml yaml = body.get(key);
    return yaml == null ? List.of() : scalars(yaml, "texts").stream().map(Scalar::text).toList();
  }

  private @Nullable String query(Mapping body, String key) {
    String query = text(body, key);
    String refusal = query == null ? null : ReadingQuery.refusal(query);
    if (refusal != null) {
      mistakes.add(body.get(key).place(), "this query is not run: " + refusal);
    }
    return query;
  }

  private Map<String, List<Privilege>> words(@Nullable Yaml yaml) {
    Map<String, List<Privilege>> words = new LinkedHashMap<>();
    Mapping body =
        yaml == null ? null : mapping(yaml, "privileges by the server's own words for them");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      String word = entry.key().text().toLowerCase(Locale.ROOT);
      if (entry.value() instanceof Scalar scalar && scalar.text().equals("all")) {
        words.put(word, List.of());
      } else if (entry.value() instanceof Sequence) {
        words.put(word, new RulesReader(mistakes).privileges(entry.value()));
      } else {
        mistakes.add(
            entry.value().place(),
            "found " + entry.value().what() + ", expected a list of privileges, or all");
      }
    }
    return words;
  }

  private List<FactSource> sources(FactSort sort, Yaml yaml) {
    List<FactSource> read = new ArrayList<>();
    for (Yaml item : sequence(yaml, "places where " + sort.word() + " are found")) {
      Mapping body = mapping(item, "a query or an extract, and what is what in it");
      FactSource source = body == null ? null : sources.read(sort, body);
      if (source != null) {
        read.add(source);
      }
    }
    return read;
  }
}
