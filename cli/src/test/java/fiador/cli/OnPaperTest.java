package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Before any survey the charter itself answers, from what it names. */
class OnPaperTest {
  private static final Path EXAMPLE = Path.of("../examples/aguarela");

  @TempDir Path folder;

  @BeforeEach
  void copyTheCharter() throws Exception {
    for (String name : new String[] {"fiador.yaml", "roles.yaml", "users.yaml"}) {
      Files.copy(EXAMPLE.resolve(name), folder.resolve(name));
    }
  }

  private Program ask(String... args) {
    String[] all = java.util.Arrays.copyOf(args, args.length + 2);
    all[args.length] = "--from";
    all[args.length + 1] = folder.toString();
    return Program.run(all);
  }

  @Test
  void namedColumnsAreHeldAndOthersAreNotKnown() {
    Program yes = ask("trace", "ines.duarte", "select", "billing.customers.tariff");
    assertThat(yes.code).isZero();
    assertThat(yes.out).contains("the charter of waterworks, on paper");
    assertThat(yes.err).contains("no survey of waterworks yet");
    assertThat(ask("trace", "ines.duarte", "select", "billing.customers").code).isEqualTo(1);
  }

  @Test
  void everyTableInASchemaReachesTheNamedOnes() {
    assertThat(ask("trace", "rui.teles", "update", "network.valves").code).isZero();
    assertThat(ask("trace", "nuno.faria", "update", "network.valves").code).isEqualTo(1);
  }

  @Test
  void onPostgresqlTheGatesAreOnPaperToo() throws Exception {
    Path root = folder.resolve("fiador.yaml");
    Files.writeString(
        root,
        Files.readString(root)
            .replaceAll("kind: hsqldb.*", "kind: postgresql")
            .replaceAll("url: .*", "url: jdbc:postgresql://localhost/water?ssl=true"));
    Program yes = ask("trace", "ines.duarte", "select", "billing.customers.tariff");
    assertThat(yes.out).contains("usage on schema billing: through leak_analyst");
  }
}
