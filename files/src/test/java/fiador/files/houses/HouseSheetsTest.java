package fiador.files.houses;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.wanted.Wanted.Place;
import fiador.files.yaml.Mistakes;
import fiador.grants.rules.HouseFact;
import fiador.houses.FactSort;
import fiador.houses.HouseSheet;
import fiador.houses.Pattern;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** House sheets: those that come along, one's own, and all that can be wrong with one. */
class HouseSheetsTest {
  private static final Place HERE = new Place("fiador.yaml", 3, 11);

  private static final String SMALL =
      """
      house: small
      rules:
        privileges: {table: [select]}
        names: {unquoted: lower}
      reading:
        principals:
          - query: %s
            name: '{N}'
            kind: user
      """;

  @TempDir Path folder;

  private static List<String> mistakes(String text) throws IOException {
    Mistakes mistakes = new Mistakes();
    HouseSheet sheet = HouseSheetReader.read("x.house.yaml", text, mistakes);
    assertThat(sheet == null).isEqualTo(!mistakes.isEmpty());
    return mistakes.list().stream().map(Mistakes.Mistake::toString).toList();
  }

  @Test
  void thoseThatComeAlongAreRight() throws IOException {
    for (String name : HouseSheets.SHIPPED) {
      Mistakes mistakes = new Mistakes();
      HouseSheet sheet = HouseSheets.shipped(name, mistakes);
      assertThat(mistakes.list()).as(name).isEmpty();
      assertThat(sheet.name()).isEqualTo(name);
      assertThat(sheet.about()).isNotEmpty();
    }
  }

  @Test
  void allThatComeAlongAreNamed() throws IOException {
    try (Stream<Path> files = Files.list(Path.of("src/main/resources/fiador/houses"))) {
      List<String> there =
          files
              .map(file -> file.getFileName().toString())
              .filter(name -> name.endsWith(HouseSheets.ENDING))
              .map(name -> name.substring(0, name.length() - HouseSheets.ENDING.length()))
              .sorted()
              .toList();
      assertThat(HouseSheets.SHIPPED).isEqualTo(there).isNotEmpty();
    }
  }

  @Test
  void onesOwnComesBeforeOneThatComesAlong() throws IOException {
    String own = SMALL.formatted("select n from s.t").replace("house: small", "house: h2");
    Files.writeString(folder.resolve("h2.house.yaml"), own);
    Mistakes mistakes = new Mistakes();
    HouseSheet sheet = HouseSheets.find(folder, "h2", mistakes, HERE);
    assertThat(mistakes.list()).isEmpty();
    assertThat(sheet.rules().has(HouseFact.POWERS_GRANT_ON)).isFalse();
  }

  @ParameterizedTest
  @ValueSource(strings = {"nowhere", "../etc/passwd", "H2", "", "a/b"})
  void whatIsNotThereIsSaid(String name) throws IOException {
    Mistakes mistakes = new Mistakes();
    assertThat(HouseSheets.find(folder, name, mistakes, HERE)).isNull();
    assertThat(mistakes.list()).hasSize(1);
    assertThat(mistakes.list().get(0).toString()).startsWith("fiador.yaml:3:11: ");
  }

  @Test
  void allMistakesAreNamedInOneGoEachWithItsPlace() throws IOException {
    String text =
        """
        house: Wrong
        rules:
          privileges:
            tabel: [select]
            table: [select, fly]
          gates:
            - {on: table, needs: usage}
            - {on: schema}
          roles: sometimes
          names: {quote: '""'}
          so: [denials, telepathy]
        reading:
          principles: []
          principals:
            - name: '{N'
              kind: user
            - query: select n from s.t
              name: '{N|shout}'
              colour: red
          grants:
            - extract: ../../etc/passwd
              to: '{T}'
            - query: drop table s.t
              optional: true
              to: '{T}'
              privilege: '{P}'
        writing:
          statements:
            grant: GRANT {privileges} ON {on}
            take_roles: x
            drop_role: DROP ROLE {roll}
        """;
    assertThat(mistakes(text))
        .satisfiesExactly(
            m -> assertThat(m).startsWith("x.house.yaml:1:8: a sheet's name"),
            m -> assertThat(m).startsWith("x.house.yaml:4:5: ").contains("\"tabel\""),
            m -> assertThat(m).startsWith("x.house.yaml:5:21: ").contains("\"fly\""),
            m -> assertThat(m).startsWith("x.house.yaml:7:").contains("on a container"),
            m -> assertThat(m).startsWith("x.house.yaml:8:").contains("needs"),
            m -> assertThat(m).startsWith("x.house.yaml:9:10: ").contains("\"sometimes\""),
            m -> assertThat(m).startsWith("x.house.yaml:10:18: ").contains("one character"),
            m -> assertThat(m).startsWith("x.house.yaml:11:").contains("\"telepathy\""),
            m -> assertThat(m).startsWith("x.house.yaml:13:").contains("\"principles\""),
            m -> assertThat(m).startsWith("x.house.yaml:15:").contains("neither a query nor"),
            m -> assertThat(m).startsWith("x.house.yaml:15:").contains("not closed"),
            m -> assertThat(m).startsWith("x.house.yaml:17:").contains("have no \"kind\""),
            m -> assertThat(m).startsWith("x.house.yaml:18:").contains("\"shout\""),
            m -> assertThat(m).startsWith("x.house.yaml:19:").contains("\"colour\""),
            m -> assertThat(m).startsWith("x.house.yaml:21:").contains("no \"privilege\""),
            m -> assertThat(m).startsWith("x.house.yaml:21:").contains("no path"),
            m -> assertThat(m).startsWith("x.house.yaml:23:").contains("no query"),
            m ->
                assertThat(m)
                    .startsWith("x.house.yaml:24:")
                    .contains("only columns, reads, attributes"),
            m -> assertThat(m).startsWith("x.house.yaml:29:").contains("{grantee} is missing"),
            m -> assertThat(m).startsWith("x.house.yaml:30:").contains("\"take_roles\""),
            m -> assertThat(m).startsWith("x.house.yaml:31:").contains("{roll}"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{on: schema, needs: usage, where: sealed, when: login}",
        "{on: schema, needs: usage, where: sealed, own: true}",
        "{on: server, needs: connect, where: sealed}",
        "{on: schema, needs: usage, where: anywhere}"
      })
  void aGateOfWhatIsSealedSaysNothingElse(String gate) throws IOException {
    String text =
        "house: x\nrules:\n  privileges: {schema: [usage]}\n  gates:\n    - " + gate + "\n";
    assertThat(mistakes(text)).anySatisfy(m -> assertThat(m).startsWith("x.house.yaml:5:"));
    String right = text.replace(gate, "{on: schema, needs: usage, where: sealed}");
    assertThat(mistakes(right)).noneSatisfy(m -> assertThat(m).startsWith("x.house.yaml:5:"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "drop table s.t",
        "delete from s.t",
        "update s.t set a = 1",
        "select a from s.t; drop table s.t",
        "select a into s.copy from s.t",
        "select a from s.t for update",
        "with gone as (delete from s.t returning a) select a from gone",
        "with a as (select 1) delete from s.t",
        "call s.p()",
        "grant select on s.t to public",
        "set role admin",
        "create table s.u as select 1 from s.t",
        "merge into s.t using s.u on s.t.a = s.u.a when matched then delete",
        "select a from t",
        "select a from s.t where exists (select 1 from t)",
        "this is no SQL at all",
        "''"
      })
  void whatChangesSomethingOrIsNotPlainIsNeverRun(String query) throws IOException {
    assertThat(mistakes(SMALL.formatted('"' + query + '"')))
        .hasSize(1)
        .allMatch(m -> m.contains("this query is not run: "));
  }

  @Test
  void queriesThatReadAreRun() throws IOException {
    for (String query :
        List.of(
            "select n from s.t",
            "select a.n from s.t a left join s.u b on a.x = b.x where a.n <> ''",
            "select n from s.t union all select n from s.u",
            "with x as (select n from s.t) select n from x")) {
      assertThat(mistakes(SMALL.formatted('"' + query + '"'))).as(query).isEmpty();
    }
  }

  @Test
  void theDocsNameEverythingASheetCanSay() throws IOException {
    String docs = Files.readString(Path.of("../docs/houses.md"));
    for (HouseFact fact : HouseFact.values()) {
      assertThat(docs).contains("`" + Words.of(fact) + "`");
    }
    for (Pattern pattern : Pattern.values()) {
      assertThat(docs).contains("`" + pattern.word() + "`");
    }
    for (FactSort sort : FactSort.values()) {
      assertThat(docs).contains("`" + sort.word() + "`");
      sort.fields().forEach(field -> assertThat(docs).contains("`" + field + "`"));
    }
  }
}
