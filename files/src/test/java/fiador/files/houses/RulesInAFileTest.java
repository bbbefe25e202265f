package fiador.files.houses;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.files.yaml.Mistakes;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import java.io.IOException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** House rules are plain data: what a file says of a kind of server is all there is to it. */
final class RulesInAFileTest {
  @Test
  void theRulesOfEachKindSurviveAFile() throws Exception {
    for (String kind : KnownHouses.kinds()) {
      HouseRules rules = KnownHouses.newest(kind);
      HouseRules read = Rules.read(kind, RulesWriter.text(rules));
      assertThat(read).isEqualTo(rules);
      assertThat(read.has(HouseFact.COLUMNS_APART)).isEqualTo(rules.has(HouseFact.COLUMNS_APART));
    }
  }

  @Test
  void theRulesOfEachSheetSurviveASurvey() throws Exception {
    for (String name : HouseSheets.SHIPPED) {
      HouseRules rules = HouseSheets.shipped(name, new Mistakes()).rules();
      assertThat(Rules.read("house/" + name, RulesWriter.text(rules))).isEqualTo(rules);
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "[]",
        "{}",
        "{\"privileges\": {\"table\": [\"select\"]}}",
        "{\"names\": {}, \"privileges\": {\"table\": [\"fly\"]}}",
        "{\"names\": {\"quote\": \"long\"}, \"privileges\": {}}",
        "{\"names\": {\"quote\": \"a\"}, \"privileges\": {}}",
        "{\"names\": {}, \"privileges\": {}, \"so\": [\"denials\", \"nonsense\"]}",
        "!!java.net.URL {}"
      })
  void whatIsNoRulesIsRefused(String text) {
    assertThatThrownBy(() -> Rules.read("house/x", text)).isInstanceOf(IOException.class);
  }
}
