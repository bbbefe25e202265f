package fiador.work.charters;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Problem;
import fiador.estate.NodeKind;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterReader;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.Origin;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import fiador.refusal.BadInput;
import fiador.servers.jdbc.ServerException;
import fiador.work.settling.Task;
import fiador.work.settling.UnmetDemands;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Servers of kinds that a house sheet describes, and where their statements come from. */
class HouseKindsTest {
  private static final Path EXAMPLE = Path.of("../examples/represa");

  @TempDir Path folder;
  private final List<String> notes = new ArrayList<>();

  private static Access empty(String kind) {
    AccessBuilder builder = new AccessBuilder();
    builder.estate().node(-1, NodeKind.SERVER, "dw", -1);
    HouseRules rules = KnownHouses.newest("hsqldb");
    return builder.build(new Origin("dw", kind, "2.7", Instant.EPOCH), rules);
  }

  private Access extracts() throws Exception {
    Charter charter = CharterReader.read(EXAMPLE, name -> null);
    return Surveys.take(charter, Charters.server(charter, null), Instant.now(), notes::add);
  }

  @Test
  void statementsComeFromTheSheetThatIsAtHand() throws Exception {
    assertThat(Dialects.of(null, empty("hsqldb")).sql(new CreateRole("R")))
        .isEqualTo("CREATE ROLE \"R\"");
    Access access = extracts();
    assertThat(access.denials().size()).isEqualTo(4);
    assertThat(Dialects.of(folder, access).has(new CreateRole("r"))).isTrue();
    Step none = new LimitInTime("u", null, Instant.EPOCH);
    assertThat(Dialects.of(folder, access).has(none)).isFalse();
    assertThatThrownBy(() -> Dialects.of(folder, empty("house/gone")))
        .isInstanceOf(BadInput.class)
        .hasMessageContaining(
            "statements for dw need its house sheet: there is no house sheet gone");
    Path derby = folder.resolve("derby.sql");
    List<Step> steps = List.of(new CreateUser("U"), new CreateRole("R"));
    Scripts.write(derby, null, empty("house/derby"), steps);
    assertThat(Files.readString(derby))
        .doesNotContain("BEGIN")
        .contains("-- call syscs_util.syscs_create_user('\"U\"', (secret));")
        .contains("\nCREATE ROLE \"R\";");
    Path script = folder.resolve("x.sql");
    Scripts.write(script, null, access, List.of(new CreateRole("r")));
    assertThat(Files.readString(script)).contains("CREATE ROLE \"r\";");
  }

  @Test
  void whatIsKnownFromExtractsIsNotSettled() throws Exception {
    Charter charter = CharterReader.read(EXAMPLE, name -> null);
    Charter.ServerEntry entry = Charters.server(charter, null);
    assertThat(Surveys.kind(entry).kind()).isEqualTo("house/cascade");
    assertThatThrownBy(() -> Surveys.live(charter, entry, List.of(), Instant.now(), notes::add))
        .isInstanceOf(ServerException.class)
        .hasMessageContaining("from extracts alone");
  }

  @Test
  void whatTheSheetHasNoStatementForIsNotPlanned() throws Exception {
    Path sheet = Path.of("../files/src/main/resources/fiador/houses/cascade.house.yaml");
    String less = Files.readString(sheet).replaceAll("(?m)^    take_role: .*\\R", "");
    Files.writeString(folder.resolve("cascade.house.yaml"), less);
    Files.writeString(
        folder.resolve("fiador.yaml"),
        Files.readString(EXAMPLE.resolve("fiador.yaml"))
            .replace("extracts: extracts", "extracts: " + EXAMPLE.toAbsolutePath() + "/extracts"));
    Charter charter = CharterReader.read(folder, name -> null);
    Charter.ServerEntry entry = Charters.server(charter, null);
    Task task = new Task(folder, charter, entry, false, Clock.systemUTC());
    Access access = extracts();
    assertThatThrownBy(() -> task.gap(access))
        .isInstanceOfSatisfying(
            UnmetDemands.class,
            unmet ->
                assertThat(unmet.problems())
                    .extracting(Problem::message)
                    .containsExactly("the sheet of house/cascade has no statement take_role"));
  }
}
