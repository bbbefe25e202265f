package fiador.standin.house;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.dataformat.yaml.YAMLMapper;
import fiador.standin.house.House.Fact;
import fiador.standin.house.House.Folding;
import fiador.standin.house.House.Owners;
import fiador.standin.house.House.Roles;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/** Reads the rules of a house sheet; how its facts are found and written is no matter of it. */
public final class HouseReader {
  /** What is so in any case, or about names and statements alone. */
  private static final Set<String> NO_BEHAVIOUR =
      Set.of(
          // so it is here, whatever a sheet says
          "managers take any role",
          "digests",
          "orders texts",
          "code points",
          "dollar texts",
          "comments nest",
          "keeps names quoted",
          "runs nothing else");

  private final List<String> otherwise = new ArrayList<>();

  /**
   * The house of a sheet.
   *
   * @throws IllegalArgumentException when it is no sheet
   */
  public House read(String sheet) {
    JsonNode yaml;
    try {
      yaml = new YAMLMapper().readTree(sheet);
    } catch (IOException wrong) {
      throw new IllegalArgumentException("this is no house sheet: " + wrong.getMessage(), wrong);
    }
    JsonNode rules = yaml.path("rules");
    if (!rules.isObject() || !rules.path("privileges").isObject()) {
      throw new IllegalArgumentException("this is no house sheet: it has no rules with privileges");
    }
    Map<String, Set<String>> privileges = byKind(rules.path("privileges"));
    Set<String> onColumns = privileges.remove("columns");
    return new House(
        yaml.path("house").asText("unnamed"),
        privileges,
        onColumns == null ? Set.of() : onColumns,
        gates(rules.path("gates")),
        choice(Roles.class, rules.path("roles"), Roles.ALL_ON),
        choice(Owners.class, rules.path("owners"), Owners.NONE),
        powers(rules.path("powers")),
        choice(Folding.class, rules.path("names").path("unquoted"), Folding.NONE),
        facts(rules.path("so")));
  }

  /** What the sheet says and the stand-in does not behave like. */
  public List<String> otherwise() {
    return otherwise;
  }

  private static Map<String, Set<String>> byKind(JsonNode body) {
    Map<String, Set<String>> found = new LinkedHashMap<>();
    for (Map.Entry<String, JsonNode> entry : body.properties()) {
      found.put(entry.getKey(), words(entry.getValue()));
    }
    return found;
  }

  private static Set<String> words(JsonNode list) {
    Set<String> found = new LinkedHashSet<>();
    list.forEach(word -> found.add(word.asText()));
    return found;
  }

  private static List<Gate> gates(JsonNode list) {
    List<Gate> found = new ArrayList<>();
    list.forEach(
        gate ->
            found.add(
                new Gate(
                    gate.path("on").asText(),
                    gate.path("needs").asText(),
                    gate.path("when").asText().equals("login"),
                    gate.path("own").asBoolean(false),
                    gate.path("where").asText().equals("sealed"))));
    return found;
  }

  private static Map<String, Map<String, Set<String>>> powers(JsonNode body) {
    Map<String, Map<String, Set<String>>> found = new LinkedHashMap<>();
    for (Map.Entry<String, JsonNode> power : body.properties()) {
      found.put(power.getKey(), byKind(power.getValue()));
    }
    return found;
  }

  private <E extends Enum<E>> E choice(Class<E> of, JsonNode said, E usual) {
    if (said.isMissingNode()) {
      return usual;
    }
    for (E value : of.getEnumConstants()) {
      if (word(value).equals(said.asText())) {
        return value;
      }
    }
    otherwise.add(said.asText() + " (" + word(usual) + " instead)");
    return usual;
  }

  private Set<Fact> facts(JsonNode list) {
    Set<Fact> found = EnumSet.noneOf(Fact.class);
    for (JsonNode said : list) {
      Stream.of(Fact.values())
          .filter(fact -> fact.word().equals(said.asText()))
          .findFirst()
          .ifPresentOrElse(found::add, () -> notKnown(said.asText()));
    }
    return found;
  }

  private void notKnown(String fact) {
    if (!NO_BEHAVIOUR.contains(fact)) {
      otherwise.add(fact);
    }
  }

  private static String word(Enum<?> value) {
    return value.name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }
}
