package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import com.networknt.schema.ValidationMessage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The published schema, by which editors complete and check a charter. */
class CharterSchemaTest {
  private static final ObjectMapper YAML = new ObjectMapper(new YAMLFactory());

  private static Set<ValidationMessage> problems(String yaml) throws Exception {
    JsonSchemaFactory factory = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012);
    JsonSchema schema = factory.getSchema(Files.readString(Path.of("../docs/charter.schema.json")));
    JsonNode tree = YAML.readTree(yaml);
    return schema.validate(tree);
  }

  @ParameterizedTest
  @ValueSource(strings = {"fiador.yaml", "roles.yaml", "users.yaml"})
  void theExampleFollowsIt(String file) throws Exception {
    assertThat(problems(Files.readString(Path.of("../examples/aguarela").resolve(file)))).isEmpty();
  }

  @Test
  void theExampleOfAWarehouseBySheetFollowsIt() throws Exception {
    assertThat(problems(Files.readString(Path.of("../examples/represa/fiador.yaml")))).isEmpty();
  }

  @Test
  void whatTheReaderRefusesItRefusesToo() throws Exception {
    for (String wrong :
        List.of(
            "role: {}",
            "roles: {r: {mai: []}}",
            "users: {u: {kind: human}}",
            "servers: {s: {kind: other, url: x, login: y}}",
            "duty_conflicts: {d: [one]}",
            "users: {u: {until: soon}}")) {
      assertThat(problems(wrong)).as(wrong).isNotEmpty();
    }
  }

  @Test
  void everySectionTheReaderKnowsIsInIt() throws Exception {
    JsonNode schema = YAML.readTree(Files.readString(Path.of("../docs/charter.schema.json")));
    assertThat(schema.get("properties").properties().stream().map(java.util.Map.Entry::getKey))
        .containsExactlyInAnyOrderElementsOf(CharterReader.SECTIONS);
  }
}
