package fiador.files;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import org.junit.jupiter.api.Test;

/** House rules are plain data: what a file says of a kind of server is all there is to it. */
final class HouseRulesInAFileTest {
  private final ObjectMapper json = new ObjectMapper();

  @Test
  void theRulesOfEachKindSurviveAFile() throws Exception {
    for (String kind : KnownHouses.kinds()) {
      HouseRules rules = KnownHouses.newest(kind);
      String text = json.writeValueAsString(rules);
      HouseRules read = json.readValue(text, HouseRules.class);
      assertThat(read).isEqualTo(rules);
      assertThat(read.has(HouseFact.COLUMNS_APART)).isEqualTo(rules.has(HouseFact.COLUMNS_APART));
    }
  }
}
