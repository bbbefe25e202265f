package fiador.cli.shell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import picocli.CommandLine;
import picocli.CommandLine.MissingParameterException;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.OverwrittenOptionException;
import picocli.CommandLine.ParameterException;

/** What stands on a command line arrives where a command said it goes, and nothing else does. */
class OptionsTest {
  private final CommandSpec spec = CommandSpec.create();
  private final Options options = new Options(spec);
  private final List<Object> arrived = new ArrayList<>();

  private List<Object> given(String... line) {
    arrived.clear();
    new CommandLine(spec).setCaseInsensitiveEnumValuesAllowed(true).parseArgs(line);
    return arrived;
  }

  @Test
  void whatIsNotGivenLeavesTheFieldAsItWas() {
    options.flag("--live", arrived::add, "");
    options.option("--from", "X", arrived::add, "");
    options.list("--usage", "LOG", Path.class, arrived::add, "");
    options.optional("NAME", arrived::add, "");
    assertThat(given()).isEmpty();
  }

  @Test
  void aFlagIsTrueWhereItStands() {
    options.flag('q', "--quiet", arrived::add, "");
    assertThat(given("-q")).containsExactly(true);
    assertThat(given("--quiet")).containsExactly(true);
  }

  @Test
  void valuesAreOfTheirType() {
    options.option("--rows", "N", Integer.class, arrived::add, "");
    options.option("--to", "FILE", Path.class, arrived::add, "");
    assertThat(given("--rows", "7", "--to=x/y")).containsExactly(7, Path.of("x/y"));
    assertThatThrownBy(() -> given("--rows", "many"))
        .isInstanceOf(ParameterException.class)
        .hasMessageContaining("--rows")
        .hasMessageContaining("many");
    assertThatThrownBy(() -> given("--rows", "1", "--rows", "2"))
        .isInstanceOf(OverwrittenOptionException.class);
  }

  @Test
  void whatMayStandSeveralTimesArrivesWhole() {
    List<String> schemas = new ArrayList<>();
    Map<String, String> reviewers = new java.util.TreeMap<>();
    options.list("--schema", "S", String.class, list -> schemas.addAll(List.copyOf(list)), "");
    options.map("--reviewer", "X=NAME", reviewers::putAll, "");
    given("--schema", "a", "--reviewer", "a=rosa", "--schema", "b", "--reviewer", "b=rui");
    assertThat(schemas).endsWith("a", "b");
    assertThat(reviewers).isEqualTo(Map.of("a", "rosa", "b", "rui"));
  }

  @Test
  void whatHasToStandIsMissedAndTheRestMayBeEmpty() {
    options.parameter("NAME", arrived::add, "");
    options.rest("FILE", Path.class, arrived::add, "");
    assertThatThrownBy(this::given)
        .isInstanceOf(MissingParameterException.class)
        .hasMessageContaining("NAME");
    assertThat(given("spring")).containsExactly("spring");
    assertThat(given("spring", "a", "b").get(arrived.size() - 1))
        .isEqualTo(List.of(Path.of("a"), Path.of("b")));
  }

  /** Two modules that do not know each other say the same words. */
  @Test
  void theCharterAndTheServersKnowTheSameWaysToProtectAConnection() {
    assertThat(fiador.files.charter.Charter.Line.TLS)
        .isEqualTo(fiador.servers.jdbc.Transport.Tls.words());
  }
}
