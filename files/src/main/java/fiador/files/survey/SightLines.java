package fiador.files.survey;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import fiador.grants.AccessBuilder;
import fiador.grants.LookupKey;
import fiador.grants.Sights;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Reads the lines about rows and columns. */
final class SightLines extends SurveyTokens {
  SightLines(String fileName, JsonParser json, AccessBuilder builder) {
    super(fileName, json, builder);
  }

  void guard() throws IOException, SurveyException {
    int guard = nodeId();
    int of = 0;
    while (nextField()) {
      switch (json.currentName()) {
        case "of" -> of = nodeId();
        default -> throw unknownField();
      }
    }
    builder.sights().guard(of, guard);
  }

  void doubt() throws IOException, SurveyException {
    int of = nodeId();
    boolean foreign = false;
    List<String> why = List.of();
    while (nextField()) {
      switch (json.currentName()) {
        case "foreign" -> foreign = flag();
        case "why" -> why = List.copyOf(texts());
        default -> throw unknownField();
      }
    }
    builder.sights().doubt(of, new Sights.Doubt(foreign, why));
  }

  void attribute() throws IOException, SurveyException {
    String name = text();
    String user = "";
    int in = 0;
    List<String> values = List.of();
    while (nextField()) {
      switch (json.currentName()) {
        case "of" -> user = text();
        case "in" -> in = nodeId();
        case "values" -> values = List.copyOf(texts());
        default -> throw unknownField();
      }
    }
    for (String value : values) {
      builder.sights().attribute(in, user, name, value);
    }
  }

  void lookup() throws IOException, SurveyException {
    String name = text();
    int in = 0;
    int table = 0;
    String key = "";
    LookupKey keys = LookupKey.USER;
    String value = "";
    boolean asMade = true;
    while (nextField()) {
      switch (json.currentName()) {
        case "in" -> in = nodeId();
        case "table" -> table = nodeId();
        case "key" -> key = text();
        case "keys" -> keys = new LookupKey(text());
        case "value" -> value = text();
        case "as_made" -> asMade = flag();
        default -> throw unknownField();
      }
    }
    builder.sights().lookup(new Sights.LookupTable(in, name, table, key, keys, value, asMade));
  }

  void fills() throws IOException, SurveyException {
    int table = nodeId();
    Map<String, String> defaults = new LinkedHashMap<>();
    List<String> never = List.of();
    List<String> key = List.of();
    while (nextField()) {
      switch (json.currentName()) {
        case "defaults" -> {
          if (json.nextToken() != JsonToken.START_OBJECT) {
            throw broken("expected columns with what stands in them");
          }
          while (nextField()) {
            String column = json.currentName();
            defaults.put(column, text());
          }
        }
        case "never" -> never = List.copyOf(texts());
        case "key" -> key = List.copyOf(texts());
        default -> throw unknownField();
      }
    }
    builder.sights().fills(table, new Sights.Fills(defaults, never, key));
  }

  void seal() throws IOException, SurveyException {
    String name = text();
    List<Integer> on = new ArrayList<>();
    List<Integer> openTo = new ArrayList<>();
    while (nextField()) {
      switch (json.currentName()) {
        case "on" -> {
          array();
          while (nextItem()) {
            on.add(known(json.getIntValue(), estate.nodes(), "thing"));
          }
        }
        case "open_to" -> principals(openTo);
        default -> throw unknownField();
      }
    }
    builder.sights().seal(new Sights.Seal(name, List.copyOf(on), List.copyOf(openTo)));
  }

  private void principals(List<Integer> found) throws IOException, SurveyException {
    array();
    while (nextItem()) {
      found.add(known(json.getIntValue(), estate.principals(), "principal"));
    }
  }

  private int known(int id, int count, String what) throws SurveyException {
    if (id < 0 || id >= count) {
      throw broken("there is no " + what + " " + id + " before this line");
    }
    return id;
  }

  void policies() throws IOException, SurveyException {
    int node = nodeId();
    int table = node;
    String policies = "";
    boolean asMade = false;
    while (nextField()) {
      switch (json.currentName()) {
        case "table" -> table = nodeId();
        case "policies" -> policies = text();
        case "as_made" -> asMade = flag();
        default -> throw unknownField();
      }
    }
    builder.sights().kept(node, new Sights.Kept(table, policies, asMade));
  }

  void filter() throws IOException, SurveyException {
    int table = nodeId();
    boolean enabled = false;
    boolean forced = false;
    List<Sights.Rule> rules = new ArrayList<>();
    while (nextField()) {
      switch (json.currentName()) {
        case "enabled" -> enabled = flag();
        case "forced" -> forced = flag();
        case "rules" -> {
          array();
          while (nextItem()) {
            rules.add(rule());
          }
        }
        default -> throw unknownField();
      }
    }
    builder.sights().filter(table, new Sights.Filter(enabled, forced, List.copyOf(rules)));
  }

  private Sights.Rule rule() throws IOException, SurveyException {
    String name = "";
    boolean any = false;
    long commands = 0;
    List<Integer> roles = new ArrayList<>();
    String using = null;
    String predicate = null;
    while (nextField()) {
      switch (json.currentName()) {
        case "name" -> name = text();
        case "any" -> any = flag();
        case "commands" -> commands = privileges();
        case "roles" -> principals(roles);
        case "using" -> using = text();
        case "predicate" -> predicate = text();
        default -> throw unknownField();
      }
    }
    return new Sights.Rule(name, any, commands, List.copyOf(roles), using, predicate);
  }
}
