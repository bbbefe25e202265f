package fiador.files.charter;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.fasterxml.jackson.dataformat.yaml.YAMLGenerator;
import fiador.changes.Adoption;
import fiador.changes.Adoption.Entry;
import fiador.files.WholeFile;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;

/** Writes the charter of an estate as it is: the root, the roles, the users. */
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

  /** Writes the three files into the folder; none may be there. */
  public static void write(Path folder, ServerPart server, Adoption adoption) throws IOException {
    WholeFile.write(
        folder.resolve(CharterReader.ROOT),
        out -> root(YAML.createGenerator(out), server, adoption));
    WholeFile.write(
        folder.resolve("roles.yaml"),
        out -> entries(YAML.createGenerator(out), "roles", "includes", adoption.roles()));
    WholeFile.write(
        folder.resolve("users.yaml"),
        out -> entries(YAML.createGenerator(out), "users", "roles", adoption.users()));
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
    yaml.writeStringField("password", "${" + variable + "_PASSWORD:-}");
    yaml.writeEndObject();
    yaml.writeEndObject();
    yaml.writeObjectFieldStart("governs");
    list(yaml, "schemas", adoption.schemas());
    list(yaml, "roles", List.of("*"));
    list(yaml, "users", List.of("*"));
    yaml.writeEndObject();
    yaml.writeEndObject();
    yaml.flush();
  }

  private static void entries(JsonGenerator yaml, String section, String holds, List<Entry> entries)
      throws IOException {
    yaml.writeStartObject();
    yaml.writeObjectFieldStart(section);
    for (Entry entry : entries) {
      yaml.writeObjectFieldStart(entry.name());
      if (entry.disabled()) {
        yaml.writeStringField("disabled", "true");
      }
      if (!entry.held().isEmpty()) {
        list(yaml, holds, entry.held());
      }
      if (!entry.may().isEmpty()) {
        list(yaml, "may", entry.may());
      }
      yaml.writeEndObject();
    }
    yaml.writeEndObject();
    yaml.writeEndObject();
    yaml.flush();
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
