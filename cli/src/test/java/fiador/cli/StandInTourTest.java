package fiador.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The tour on a stand-in. */
class StandInTourTest {
  @TempDir private Path temp;

  @Test
  void tellsWhatADenialDoesAndWhatTheServerItselfSays() throws Exception {
    Path folder = temp.resolve("tour");
    Program tour = Program.run("tour", "--stand-in", folder.toString(), "--width", "100");
    assertThat(tour.err).isEmpty();
    assertThat(tour.code).isZero();
    assertThat(tour.out)
        .contains("1 denial given")
        .contains("surveyed again: no gap")
        .contains("no, denied: ines.duarte may not SELECT billing.customers.iban")
        .contains("refused: ines.duarte may not read the column iban")
        .contains("all 8 proofs hold")
        .contains("refused: schema waterworks.laboratory is sealed, and keeper was not let in")
        .contains("refused: tome.avelar may not read the column full_name")
        .containsPattern(
            "why +denied, which beats every grant: select \\(full_name, iban\\) on table")
        .contains("by the label personal")
        .contains("keeper has no usage on schema laboratory, which is sealed")
        .containsPattern("keeper +! blocked +all privileges")
        .containsPattern("sofia.nobre +[+] live +select")
        .contains("1  O***********  north     home")
        .contains("the server gives ines.duarte the same 2 rows, value by value")
        .contains("ines.duarte cannot select billing.customers.iban   server: refused it")
        .contains("Olga Pimenta  home")
        .doesNotContain("XX00")
        .contains("was refused select on table network.valves 6 times")
        .contains("a denial takes SELECT on billing.invoices from marta.vale")
        .contains("fiador stand-in " + folder.resolve("server") + " --port ");
    assertThat(tour.out).doesNotContain(Files.readString(folder.resolve("keeper.secret")));
    assertThat(Files.readString(folder.resolve("fiador.yaml")))
        .doesNotContain(Files.readString(folder.resolve("keeper.secret")));
    Program again = Program.run("check", folder.toString());
    assertThat(again.code).isEqualTo(2);
    assertThat(again.err).contains("AGUARELA_KEEPER");
  }

  @Test
  void itIsOnAServerOfItsOwn() {
    Program both = Program.run("tour", "--stand-in", "--url", "jdbc:x", temp.toString());
    assertThat(both.err).contains("--url and --stand-in do not go together");
  }
}
