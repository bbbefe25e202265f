package fiador.files.houses;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import com.networknt.schema.ValidationMessage;
import fiador.estate.Privilege;
import fiador.grants.rules.HouseFact;
import fiador.houses.FactSort;
import fiador.houses.Pattern;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.Test;

/** The published schema, by which editors complete and check a house sheet. */
class HouseSchemaTest {
  private static final ObjectMapper YAML = new ObjectMapper(new YAMLFactory());
  private static final Path SCHEMA = Path.of("../docs/house.schema.json");

  private static Set<ValidationMessage> problems(String yaml) throws IOException {
    JsonSchemaFactory factory = JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012);
    JsonSchema schema = factory.getSchema(Files.readString(SCHEMA));
    return schema.validate(YAML.readTree(yaml));
  }

  private static String shipped(String name) throws IOException {
    String file = "/fiador/houses/" + name + HouseSheets.ENDING;
    try (InputStream in = HouseSheetsTest.class.getResourceAsStream(file)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  @Test
  void thoseThatComeAlongFollowIt() throws IOException {
    for (String name : HouseSheets.SHIPPED) {
      assertThat(problems(shipped(name))).as(name).isEmpty();
    }
  }

  @Test
  void whatTheReaderRefusesItRefusesToo() throws IOException {
    String right = shipped("cascade");
    for (String[] wrong :
        List.of(
            new String[] {"house: cascade", "house: Cas cade"},
            new String[] {"roles: all on", "roles: sometimes"},
            new String[] {"- denials", "- telepathy"},
            new String[] {"extract: databases*.csv", "extract: ../databases.csv"},
            new String[] {"create_role: ", "create_rolle: "},
            new String[] {"      name: '{principal_name}'\n      kind", "      kind"})) {
      assertThat(right).contains(wrong[0]);
      assertThat(problems(right.replace(wrong[0], wrong[1]))).as(wrong[1]).isNotEmpty();
    }
  }

  @Test
  void everythingTheReaderKnowsIsInIt() throws IOException {
    JsonNode schema = YAML.readTree(Files.readString(SCHEMA));
    JsonNode rules = schema.at("/properties/rules/properties");
    assertThat(names(rules)).containsExactlyInAnyOrderElementsOf(RulesReader.KEYS);
    assertThat(texts(rules.at("/so/items/enum")))
        .containsExactlyInAnyOrderElementsOf(Words.all(HouseFact.values()));
    assertThat(texts(schema.at("/$defs/privileges/items/enum")))
        .containsExactlyInAnyOrderElementsOf(
            List.of(Privilege.values()).stream().map(Privilege::text).toList());
    assertThat(names(schema.at("/properties/writing/properties/statements/properties")))
        .containsExactlyInAnyOrderElementsOf(
            List.of(Pattern.values()).stream().map(Pattern::word).toList());
    for (FactSort sort : FactSort.values()) {
      String source = "/properties/reading/properties/" + sort.word() + "/items/properties";
      assertThat(names(schema.at(source))).containsAll(sort.fields());
    }
  }

  private static List<String> names(JsonNode object) {
    return object.properties().stream().map(java.util.Map.Entry::getKey).toList();
  }

  private static List<String> texts(JsonNode array) {
    return StreamSupport.stream(array.spliterator(), false).map(JsonNode::asText).toList();
  }
}
