package fiador.files.houses;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Shapes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.Yaml.Entry;
import fiador.files.yaml.Yaml.Mapping;
import fiador.files.yaml.Yaml.Scalar;
import fiador.houses.Expression;
import fiador.houses.Pattern;
import fiador.houses.Writing;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads how a sheet writes statements. */
final class WritingSection extends Shapes {
  private static final List<String> KEYS =
      List.of("client", "undoable", "words", "spelled", "statements");
  private static final String PROCEDURE = "procedure";
  private static final String OTHERWISE = "otherwise";

  WritingSection(Mistakes mistakes) {
    super(mistakes);
  }

  Writing read(Mapping body) {
    String client = Writing.NONE.client();
    boolean undoable = false;
    Map<NodeKind, String> words = new EnumMap<>(NodeKind.class);
    String procedure = null;
    Map<Pattern, String> patterns = new EnumMap<>(Pattern.class);
    Map<Pattern, Map<NodeKind, String>> onKinds = new EnumMap<>(Pattern.class);
    Map<Privilege, String> spelled = new EnumMap<>(Privilege.class);
    for (Entry entry : body.entries()) {
      switch (entry.key().text()) {
        case "client" -> {
          Scalar text = scalar(entry.value(), "the name of a client");
          client = text == null ? client : text.text();
        }
        case "undoable" ->
            undoable = word(entry.value(), List.of("true", "false"), "truth value").equals("true");
        case "spelled" -> spelled(entry.value(), spelled);
        case "words" -> procedure = words(entry.value(), words);
        case "statements" -> statements(entry.value(), patterns, onKinds);
        default -> unknown(entry.key(), KEYS, "part of writing");
      }
    }
    return new Writing(client, patterns, onKinds, words, procedure, spelled, undoable);
  }

  private @Nullable String words(Yaml yaml, Map<NodeKind, String> into) {
    String procedure = null;
    Mapping body = mapping(yaml, "the word before a name, by kind of thing");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      NodeKind kind = NodeKind.named(entry.key().text());
      if (!(entry.value() instanceof Scalar word)) {
        scalar(entry.value(), "a word");
      } else if (entry.key().text().equals(PROCEDURE)) {
        procedure = word.text();
      } else if (kind == null) {
        List<String> known =
            Stream.concat(Stream.of(NodeKind.values()).map(NodeKind::text), Stream.of(PROCEDURE))
                .toList();
        unknown(entry.key(), known, "kind of thing");
      } else {
        into.put(kind, word.text());
      }
    }
    return procedure;
  }

  private void spelled(Yaml yaml, Map<Privilege, String> into) {
    Mapping body = mapping(yaml, "the server's words for privileges");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      Privilege privilege = Privilege.named(entry.key().text());
      Scalar word = scalar(entry.value(), "a word");
      if (privilege == null) {
        unknown(
            entry.key(), Stream.of(Privilege.values()).map(Privilege::text).toList(), "privilege");
      } else if (word != null) {
        into.put(privilege, word.text());
      }
    }
  }

  private void statements(
      Yaml yaml, Map<Pattern, String> into, Map<Pattern, Map<NodeKind, String>> onKinds) {
    List<String> known = Stream.of(Pattern.values()).map(Pattern::word).toList();
    Mapping body = mapping(yaml, "statements");
    for (Entry entry : body == null ? List.<Entry>of() : body.entries()) {
      Pattern pattern =
          Stream.of(Pattern.values())
              .filter(each -> each.word().equals(entry.key().text()))
              .findFirst()
              .orElse(null);
      if (pattern == null) {
        unknown(entry.key(), known, "statement");
      } else if (entry.value() instanceof Mapping byKind && pattern.places().contains("on")) {
        byKind(pattern, byKind, into, onKinds);
      } else {
        statement(pattern, entry.value(), into);
      }
    }
  }

  private void statement(Pattern pattern, Yaml yaml, Map<Pattern, String> into) {
    Scalar text = scalar(yaml, "a statement");
    if (text != null && fits(pattern, text)) {
      into.put(pattern, text.text());
    }
  }

  private void byKind(
      Pattern pattern,
      Mapping body,
      Map<Pattern, String> into,
      Map<Pattern, Map<NodeKind, String>> onKinds) {
    for (Entry entry : body.entries()) {
      NodeKind kind = NodeKind.named(entry.key().text());
      if (entry.key().text().equals(OTHERWISE)) {
        statement(pattern, entry.value(), into);
      } else if (kind == null) {
        List<String> known =
            Stream.concat(Stream.of(OTHERWISE), Stream.of(NodeKind.values()).map(NodeKind::text))
                .toList();
        unknown(entry.key(), known, "kind of thing");
      } else {
        Scalar text = scalar(entry.value(), "a statement");
        if (text != null && fits(pattern, text)) {
          onKinds
              .computeIfAbsent(pattern, fresh -> new EnumMap<>(NodeKind.class))
              .put(kind, text.text());
        }
      }
    }
  }

  private boolean fits(Pattern pattern, Scalar text) {
    Expression written;
    try {
      written = Expression.of(text.text());
    } catch (IllegalArgumentException wrong) {
      mistakes.add(text.place(), String.valueOf(wrong.getMessage()));
      return false;
    }
    for (Expression.Part part : written.parts()) {
      if (part.isColumn() && !pattern.places().contains(Pattern.bare(part.text()))) {
        mistakes.add(
            text.place(),
            "{"
                + part.text()
                + "} is nothing in this statement; there are "
                + String.join(
                    ", ", pattern.places().stream().map(each -> "{" + each + "}").toList()));
        return false;
      }
    }
    for (String place : pattern.places()) {
      if (written.columns().stream().map(Pattern::bare).noneMatch(place::equals)) {
        mistakes.add(text.place(), "{" + place + "} is missing in this statement");
        return false;
      }
    }
    return true;
  }
}
