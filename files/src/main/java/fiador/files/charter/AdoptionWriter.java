package fiador.files.charter;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLGenerator;
import fiador.changes.adopting.Adoption;
import fiador.changes.adopting.Adoption.Entry;
import fiador.changes.adopting.RolePatterns;
import fiador.changes.wanted.Period;
import fiador.estate.AccountLimit;
import fiador.files.WholeFile;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Writes the charter of an estate as it is: the root, the roles, the users, the policies. */
public final class AdoptionWriter {
  private static final YAMLFactory YAML =
      YAMLFactory.builder()
          .enable(YAMLGenerator.Feature.MINIMIZE_QUOTES)
          .enable(YAMLGenerator.Feature.ALWAYS_QUOTE_NUMBERS_AS_STRINGS)
          .disable(YAMLGenerator.Feature.WRITE_DOC_START_MARKER)
          .disable(YAMLGenerator.Feature.SPLIT_LINES)
          .build();

  private AdoptionWriter() {}

  /**
   * What to write of the server itself.
   *
   * @param name what the charter calls it
   * @param url its address, without a secret
   */
  public record ServerPart(String name, String kind, String url, String login) {}

  /** Writes three files, and one more for policies, into the folder; none may be there. */
  public static void write(Path folder, ServerPart server, Adoption adoption) throws IOException {
    WholeFile.write(
        folder.resolve(CharterReader.ROOT),
        out -> root(YAML.createGenerator(out), server, adoption));
    WholeFile.write(
        folder.resolve("roles.yaml"), out -> roles(YAML.createGenerator(out), adoption));
    WholeFile.write(
        folder.resolve("users.yaml"),
        out -> {
          JsonGenerator yaml = YAML.createGenerator(out);
          yaml.writeStartObject();
          entries(yaml, "users", "roles", adoption.users(), adoption.policies().attributes());
          yaml.writeEndObject();
          yaml.flush();
        });
    if (!adoption.policies().isEmpty()) {
      WholeFile.write(
          folder.resolve("policies.yaml"),
          out -> new PolicyWriter(YAML.createGenerator(out)).write(adoption.policies()));
    }
  }

  private static void root(JsonGenerator yaml, ServerPart server, Adoption adoption)
      throws IOException {
    yaml.writeStartObject();
    yaml.writeNumberField("fiador", 1);
    yaml.writeStringField("estate", server.name());
    yaml.writeObjectFieldStart("servers");
    yaml.writeObjectFieldStart(server.name());
    yaml.writeStringField("kind", server.kind());
    yaml.writeStringField("url", server.url());
    yaml.writeStringField("login", server.login());
    String variable = server.name().toUpperCase(java.util.Locale.ROOT).replaceAll("[^A-Z0-9]", "_");
    // no shell has a variable that begins with a digit
    String usable = variable.matches("[0-9].*") ? "SERVER_" + variable : variable;
    yaml.writeStringField("password", "${" + usable + "_PASSWORD:-}");
    yaml.writeEndObject();
    yaml.writeEndObject();
    yaml.writeObjectFieldStart("governs");
    list(yaml, "schemas", adoption.schemas());
    List<String> roles = new ArrayList<>(List.of("*"));
    roles.addAll(adoption.builtIn());
    list(yaml, "roles", roles);
    list(yaml, "users", List.of("*"));
    if (adoption.everybody() != null) {
      yaml.writeBooleanField("public", true);
    }
    yaml.writeEndObject();
    yaml.writeEndObject();
    yaml.flush();
  }

  private static void roles(JsonGenerator yaml, Adoption adoption) throws IOException {
    yaml.writeStartObject();
    if (!adoption.patterns().isEmpty()) {
      yaml.writeArrayFieldStart("role_patterns");
      for (RolePatterns.Pattern pattern : adoption.patterns()) {
        yaml.writeStartObject();
        yaml.writeObjectFieldStart("each");
        list(yaml, "schema", pattern.schemas());
        yaml.writeEndObject();
        yaml.writeStringField("role", pattern.role().name());
        body(yaml, "includes", pattern.role());
        yaml.writeEndObject();
      }
      yaml.writeEndArray();
    }
    entries(yaml, "roles", "includes", adoption.roles(), Map.of());
    if (adoption.everybody() != null) {
      yaml.writeObjectFieldStart("public");
      body(yaml, "roles", adoption.everybody());
      yaml.writeEndObject();
    }
    yaml.writeEndObject();
    yaml.flush();
  }

  private static void body(JsonGenerator yaml, String holds, Entry entry) throws IOException {
    if (!entry.powers().isEmpty()) {
      list(yaml, "powers", entry.powers());
    }
    if (!entry.held().isEmpty()) {
      list(yaml, holds, entry.held());
    }
    if (!entry.may().isEmpty()) {
      list(yaml, "may", entry.may());
    }
  }

  /**
   * Writes a section.
   *
   * @param attributes what policies know of users, by their names
   */
  private static void entries(
      JsonGenerator yaml,
      String section,
      String holds,
      List<Entry> entries,
      Map<String, Map<String, List<String>>> attributes)
      throws IOException {
    yaml.writeObjectFieldStart(section);
    for (Entry entry : entries) {
      yaml.writeObjectFieldStart(entry.name());
      if (entry.disabled()) {
        yaml.writeStringField("disabled", "true");
      }
      if (entry.until() != null) {
        yaml.writeStringField("until", Period.endText(entry.until()));
      }
      if (!entry.limits().isEmpty()) {
        yaml.writeObjectFieldStart("limits");
        for (Map.Entry<AccountLimit, Integer> limit :
            AccountLimit.inOrder(entry.limits()).entrySet()) {
          yaml.writeStringField(limit.getKey().text(), limit.getKey().value(limit.getValue()));
        }
        yaml.writeEndObject();
      }
      body(yaml, holds, entry);
      if (attributes.containsKey(entry.name())) {
        yaml.writeObjectFieldStart("attributes");
        for (Map.Entry<String, List<String>> each : attributes.get(entry.name()).entrySet()) {
          list(yaml, each.getKey(), each.getValue());
        }
        yaml.writeEndObject();
      }
      yaml.writeEndObject();
    }
    yaml.writeEndObject();
  }

  private static void list(JsonGenerator yaml, String field, List<String> items)
      throws IOException {
    yaml.writeArrayFieldStart(field);
    for (String item : items) {
      yaml.writeString(item);
    }
    yaml.writeEndArray();
  }
}
