package fiador.files.survey;

import com.fasterxml.jackson.core.JsonGenerator;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Sights;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/** Writes the lines about rows and columns. */
final class SightWriter {
  private final Sights sights;
  private final JsonGenerator json;

  SightWriter(Sights sights, JsonGenerator json) {
    this.sights = sights;
    this.json = json;
  }

  void write() throws IOException {
    for (Map.Entry<Integer, Integer> guard : sights.guards().entrySet()) {
      json.writeStartObject();
      json.writeNumberField("guard", guard.getValue());
      json.writeNumberField("of", guard.getKey());
      json.writeEndObject();
    }
    for (Map.Entry<Integer, Sights.Doubt> doubt : sights.doubts().entrySet()) {
      json.writeStartObject();
      json.writeNumberField("doubt", doubt.getKey());
      json.writeBooleanField("foreign", doubt.getValue().foreign());
      texts("why", doubt.getValue().why());
      json.writeEndObject();
    }
    for (Sights.Attribute attribute : sights.attributes()) {
      json.writeStartObject();
      json.writeStringField("attribute", attribute.name());
      json.writeStringField("of", attribute.user());
      json.writeNumberField("in", attribute.database());
      texts("values", attribute.values());
      json.writeEndObject();
    }
    for (Sights.LookupTable lookup : sights.lookups()) {
      json.writeStartObject();
      json.writeStringField("lookup", lookup.name());
      json.writeNumberField("in", lookup.database());
      json.writeNumberField("table", lookup.table());
      json.writeStringField("key", lookup.key());
      if (!lookup.keys().namesUsers()) {
        json.writeStringField("keys", lookup.keys().text());
      }
      json.writeStringField("value", lookup.value());
      if (!lookup.asMade()) {
        json.writeBooleanField("as_made", false);
      }
      json.writeEndObject();
    }
    for (Map.Entry<Integer, Sights.Filter> filter : sights.filters().entrySet()) {
      filter(filter.getKey(), filter.getValue());
    }
    for (Map.Entry<Integer, Sights.Kept> kept : sights.kept().entrySet()) {
      json.writeStartObject();
      json.writeNumberField("policies_on", kept.getKey());
      json.writeNumberField("table", kept.getValue().table());
      json.writeStringField("policies", kept.getValue().policies());
      json.writeBooleanField("as_made", kept.getValue().asMade());
      json.writeEndObject();
    }
    for (Map.Entry<Integer, Sights.Fills> fills : sights.fills().entrySet()) {
      json.writeStartObject();
      json.writeNumberField("fills", fills.getKey());
      json.writeObjectFieldStart("defaults");
      for (Map.Entry<String, String> each : fills.getValue().defaults().entrySet()) {
        json.writeStringField(each.getKey(), each.getValue());
      }
      json.writeEndObject();
      texts("never", fills.getValue().never());
      texts("key", fills.getValue().key());
      json.writeEndObject();
    }
    for (Sights.Seal seal : sights.seals()) {
      json.writeStartObject();
      json.writeStringField("seal", seal.name());
      numbers("on", seal.on());
      numbers("open_to", seal.openTo());
      json.writeEndObject();
    }
  }

  private void numbers(String field, List<Integer> numbers) throws IOException {
    json.writeArrayFieldStart(field);
    for (int number : numbers) {
      json.writeNumber(number);
    }
    json.writeEndArray();
  }

  private void texts(String field, List<String> values) throws IOException {
    json.writeArrayFieldStart(field);
    for (String value : values) {
      json.writeString(value);
    }
    json.writeEndArray();
  }

  private void filter(int table, Sights.Filter filter) throws IOException {
    json.writeStartObject();
    json.writeNumberField("filter", table);
    json.writeBooleanField("enabled", filter.enabled());
    json.writeBooleanField("forced", filter.forced());
    json.writeArrayFieldStart("rules");
    for (Sights.Rule rule : filter.rules()) {
      json.writeStartObject();
      json.writeStringField("name", rule.name());
      json.writeBooleanField("any", rule.any());
      texts("commands", PrivilegeSet.list(rule.commands()).stream().map(Privilege::text).toList());
      numbers("roles", rule.roles());
      if (rule.using() != null) {
        json.writeStringField("using", rule.using());
      }
      if (rule.predicate() != null) {
        json.writeStringField("predicate", rule.predicate());
      }
      json.writeEndObject();
    }
    json.writeEndArray();
    json.writeEndObject();
  }
}
