package fiador.files.charter;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.Gap;
import fiador.changes.adopting.Adoption;
import fiador.changes.steps.FilterRows;
import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.files.charter.AdoptionWriter.ServerPart;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.PostgresqlRules;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Policies of an estate come back as a charter that leaves them as they are. */
class AdoptedPoliciesTest {
  @TempDir Path folder;

  private void assertNoGap(Access access) throws Exception {
    ServerPart server = new ServerPart("it", access.rules().kind(), "jdbc:hsqldb:mem:x", "SA");
    Adoption adoption = Adoption.of(access, false);
    assertThat(adoption.leftOut()).isEmpty();
    AdoptionWriter.write(folder, server, adoption);
    Charter charter = CharterReader.read(folder, name -> null);
    Gap gap = Gap.between(access, charter.wanted(), true, Set.of(), Clock.systemUTC());
    assertThat(gap.plan().problems()).isEmpty();
    assertThat(gap.plan().steps()).isEmpty();
  }

  private String policies() throws Exception {
    return Files.readString(folder.resolve("policies.yaml"));
  }

  @Test
  void rulesMasksAttributesAndLookups() throws Exception {
    String north = "district in user.districts or district in lookup(desk)";
    assertNoGap(
        new TinyEstate(PostgresqlRules.of(18))
            .users("ines", "rui")
            .roles("clerk", "Chief")
            .node(NodeKind.DATABASE, "d")
            .node(NodeKind.SCHEMA, "d.s")
            .table("d.s.a", null, "district:text", "phone:text", "paid:decimal")
            .table("d.s.b", null, "district:text", "Odd name:text")
            .table("d.s.desks", null, "who:text", "district:text")
            .node(NodeKind.SCHEMA, "d.fiador_guard")
            .guard("d", "d.fiador_guard")
            .attribute("ines", "districts", "north", "it's")
            .lookup("desk", "d.s.desks", "who", "district")
            .kept(
                "d.s.a",
                "d.s.a",
                true,
                "any\town\tholds(clerk) or user.name = 'rui'\tholds(Chief)\t"
                    + north
                    + "\tbinds writing",
                "all\tothers\tholds(clerk) and user.districts = 'x'\tfalse\tdistrict is not null")
            .kept(
                "d.s.b",
                "d.s.b",
                true,
                "any\town\tholds(clerk) or user.name = 'rui'\tholds(Chief)\t"
                    + north
                    + "\tbinds writing")
            .node(NodeKind.VIEW, "d.s.a_safe", "district", "phone", "paid")
            .kept(
                "d.s.a_safe",
                "d.s.a",
                true,
                "any\town\tholds(clerk) or user.name = 'rui'\tholds(Chief)\t"
                    + north
                    + "\tbinds writing",
                "all\tothers\tholds(clerk) and user.districts = 'x'\tfalse\tdistrict is not null",
                "mask\tfirst\tholds(clerk) and holds(Chief) is not true\tphone\tstars\tdistrict = 'n'",
                "mask\tfirst\tholds(clerk) and holds(Chief) is not true\tpaid\tzero\tdistrict = 'n'",
                "mask\tsecond\t(holds(clerk) or user.name = 'rui') is not true\tphone\tblank")
            .build());
    assertThat(policies())
        .contains("- role clerk\n      - user rui", "role \"Chief\"", "may_write: same rows")
        .contains("clear_where: district = 'n'", "rank: \"0\"", "rank: \"1\"", "keyed_by: user")
        .contains("text: stars", "number: zero")
        .containsPattern("own:\n    \"on\":\n    - d.s.a\n    - d.s.b\n    applies_to");
    assertThat(Files.readString(folder.resolve("users.yaml"))).contains("- it's");
  }

  @Test
  void viewsUnderTheNamesOfTheirTables() throws Exception {
    assertNoGap(
        new TinyEstate(HsqldbRules.rules())
            .users("INES")
            .roles("CLERK")
            .node(NodeKind.SCHEMA, "S")
            .table("S.A_BASE", null, "DISTRICT:text", "PHONE:text")
            .node(NodeKind.VIEW, "S.A", "DISTRICT", "PHONE")
            .node(NodeKind.SCHEMA, "FIADOR_GUARD")
            .guard("", "FIADOR_GUARD")
            .attribute("INES", "name", "ines")
            .kept(
                "S.A",
                "S.A_BASE",
                true,
                "mask\tm\tholds(CLERK) is not true\tPHONE\tkeep_last(2)\tDISTRICT in ('x')")
            .build());
    assertThat(policies())
        .contains("- s.a.phone", "place: under the table's name", "clear_where: district in ('x')");
  }

  @Test
  void whatOneDatabaseKnowsOfSomebodyAndAnotherDoesNotIsNamed() {
    Access access =
        new TinyEstate(PostgresqlRules.of(18))
            .users("ines")
            .node(NodeKind.DATABASE, "d")
            .node(NodeKind.SCHEMA, "d.s")
            .table("d.s.t", null, "district:text")
            .node(NodeKind.SCHEMA, "d.fiador_guard")
            .node(NodeKind.DATABASE, "e")
            .node(NodeKind.SCHEMA, "e.fiador_guard")
            .guard("d", "d.fiador_guard")
            .guard("e", "e.fiador_guard")
            .attribute("ines", "districts", "north")
            .kept("d.s.t", "d.s.t", true, "any\town\ttrue\tfalse\tdistrict in user.districts")
            .build();
    assertThat(Adoption.of(access, false).leftOut())
        .containsExactly(
            "the attribute districts of ines differs between databases, which a charter cannot say");
  }

  @Test
  void whatSomebodyChangedByHandIsNamedAndWrittenAsItWasMeant() throws Exception {
    Access access =
        new TinyEstate(PostgresqlRules.of(18))
            .node(NodeKind.DATABASE, "d")
            .node(NodeKind.SCHEMA, "d.s")
            .table("d.s.t", null, "district:text")
            .node(NodeKind.SCHEMA, "d.fiador_guard")
            .guard("d", "d.fiador_guard")
            .kept("d.s.t", "d.s.t", false, "any\town\ttrue\tfalse\tdistrict = 'x'")
            .build();
    Adoption adoption = Adoption.of(access, false);
    assertThat(adoption.leftOut())
        .containsExactly("what was changed by hand in the policies of d.s.t: written as agreed on");
    ServerPart server = new ServerPart("it", "postgresql", "jdbc:postgresql:x", "u");
    AdoptionWriter.write(folder, server, adoption);
    Charter charter = CharterReader.read(folder, name -> null);
    Gap gap = Gap.between(access, charter.wanted(), true, Set.of(), Clock.systemUTC());
    assertThat(gap.plan().steps())
        .hasSize(1)
        .allMatch(step -> step instanceof FilterRows filter && filter.putsBack());
  }

  @Test
  void limitsOfAccounts() throws Exception {
    assertNoGap(
        new TinyEstate(PostgresqlRules.of(18))
            .users("ines", "rui", "olga")
            .account("ines", Account.PLAIN.withLimits(Map.of(AccountLimit.CONNECTIONS, 3)))
            .account("rui", Account.PLAIN.withLimits(Map.of(AccountLimit.CONNECTIONS, 0)))
            .node(NodeKind.DATABASE, "d")
            .build());
    assertThat(Files.readString(folder.resolve("users.yaml"))).containsOnlyOnce("limits:");
  }

  @Test
  void whereNothingDecidesNothingIsSaidOfPolicies() throws Exception {
    assertNoGap(
        new TinyEstate(PostgresqlRules.of(18))
            .users("ines")
            .node(NodeKind.DATABASE, "d")
            .node(NodeKind.SCHEMA, "d.s")
            .build());
    assertThat(folder.resolve("policies.yaml")).doesNotExist();
  }
}
