package fiador.files.charter;

import com.fasterxml.jackson.core.JsonGenerator;
import fiador.changes.adopting.AdoptedPolicies;
import fiador.changes.adopting.AdoptedPolicies.Audience;
import fiador.changes.adopting.AdoptedPolicies.Lookup;
import fiador.changes.adopting.AdoptedPolicies.Masks;
import fiador.changes.adopting.AdoptedPolicies.Rows;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/** Writes the policies of an estate as it is, in the words that {@link SightSections} reads. */
final class PolicyWriter {
  private final JsonGenerator yaml;

  PolicyWriter(JsonGenerator yaml) {
    this.yaml = yaml;
  }

  /** Writes the whole file. */
  void write(AdoptedPolicies policies) throws IOException {
    yaml.writeStartObject();
    if (!policies.lookups().isEmpty()) {
      yaml.writeObjectFieldStart("lookups");
      for (Lookup lookup : policies.lookups()) {
        yaml.writeObjectFieldStart(lookup.name());
        yaml.writeStringField("table", lookup.table());
        yaml.writeStringField("key", lookup.key());
        yaml.writeStringField("keyed_by", lookup.keyedBy());
        yaml.writeStringField("value", lookup.value());
        yaml.writeEndObject();
      }
      yaml.writeEndObject();
    }
    yaml.writeObjectFieldStart("row_policies");
    for (Rows policy : policies.rows()) {
      rows(policy);
    }
    yaml.writeEndObject();
    yaml.writeObjectFieldStart("mask_policies");
    for (Masks policy : policies.masks()) {
      masks(policy);
    }
    yaml.writeEndObject();
    yaml.writeEndObject();
    yaml.flush();
  }

  private void rows(Rows policy) throws IOException {
    yaml.writeObjectFieldStart(policy.name());
    list("on", policy.on());
    audience(policy.audience());
    yaml.writeStringField("rows", policy.predicate());
    if (policy.bindsWriting()) {
      yaml.writeStringField("may_write", "same rows");
    }
    yaml.writeStringField("combine", policy.any() ? "any" : "all");
    place(policy.underName());
    yaml.writeEndObject();
  }

  private void masks(Masks policy) throws IOException {
    yaml.writeObjectFieldStart(policy.name());
    list("on", policy.on());
    audience(policy.audience());
    if (policy.clearWhere() != null) {
      yaml.writeStringField("clear_where", policy.clearWhere());
    }
    yaml.writeObjectFieldStart("mask");
    for (Map.Entry<String, String> mask : policy.byKind().entrySet()) {
      yaml.writeStringField(mask.getKey(), mask.getValue());
    }
    yaml.writeEndObject();
    if (policy.rank() != null) {
      yaml.writeStringField("rank", policy.rank().toString());
    }
    place(policy.underName());
    yaml.writeEndObject();
  }

  private void audience(Audience to) throws IOException {
    if (to.anyOf().isEmpty() && to.allOf().isEmpty() && to.noneOf().isEmpty()) {
      return;
    }
    yaml.writeObjectFieldStart("applies_to");
    list("any_of", to.anyOf());
    list("all_of", to.allOf());
    list("none_of", to.noneOf());
    yaml.writeEndObject();
  }

  private void place(boolean underName) throws IOException {
    if (underName) {
      yaml.writeStringField("place", "under the table's name");
    }
  }

  private void list(String field, List<String> items) throws IOException {
    if (!items.isEmpty()) {
      yaml.writeArrayFieldStart(field);
      for (String item : items) {
        yaml.writeString(item);
      }
      yaml.writeEndArray();
    }
  }
}
