package fiador.files.houses;

import fiador.files.yaml.Mistakes;
import fiador.files.yaml.Yaml;
import fiador.files.yaml.YamlReader;
import fiador.grants.rules.HouseRules;
import java.io.IOException;

/** House rules as a text of their own, as a survey carries them. */
public final class Rules {
  private Rules() {}

  /**
   * The rules of a kind of server.
   *
   * @param text what {@link RulesWriter#text} wrote
   * @throws IOException when it is nothing of that kind, saying what is wrong
   */
  public static HouseRules read(String kind, String text) throws IOException {
    Mistakes mistakes = new Mistakes();
    Yaml tree = YamlReader.read("the house rules", text, mistakes);
    HouseRules rules =
        tree instanceof Yaml.Mapping body ? new RulesReader(mistakes).read(kind, body) : null;
    if (rules == null || !mistakes.isEmpty()) {
      throw new IOException(
          mistakes.isEmpty() ? "there are no house rules" : mistakes.list().get(0).message());
    }
    return rules;
  }
}
