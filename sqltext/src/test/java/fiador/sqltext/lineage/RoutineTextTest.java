package fiador.sqltext.lineage;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.rules.HouseRules;
import fiador.grants.rules.MariadbRules;
import fiador.grants.rules.PostgresqlRules;
import fiador.sqltext.SqlReader;
import fiador.sqltext.SqlToken;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a routine's body names and may read. */
final class RoutineTextTest {
  private static final List<String> COLUMNS = List.of("id", "a", "b c");
  private static final Relations RELATIONS =
      new Relations() {
        @Override
        public int node(String schema, String name) {
          boolean known = schema == null || schema.equals("s");
          return known ? List.of("t", "u").indexOf(name) : -1;
        }

        @Override
        public List<String> columns(int node) {
          return COLUMNS;
        }
      };

  private static String read(String body, HouseRules rules) {
    Set<String> found = new TreeSet<>();
    RoutineText.reads(body, new SqlReader(rules), RELATIONS)
        .forEach(
            (node, columns) -> {
              String table = List.of("t", "u").get(node);
              found.add(table + columns.stream().mapToObj(COLUMNS::get).toList());
            });
    return String.join(" ", found);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '#',
      quoteCharacter = '~',
      value = {
        "SELECT a FROM s.t WHERE id = 1 # t[id, a]",
        "select A from T # t[a]",
        "SELECT x.a FROM s.t x JOIN u ON x.id = u.id # t[id, a] u[id, a]",
        "SELECT * FROM s.t # t[id, a, b c]",
        "SELECT t.* FROM s.t # t[id, a, b c]",
        "SELECT count(*) FROM s.t # t[]",
        "SELECT \"b c\" FROM \"s\".\"t\" # t[b c]",
        "SELECT a -- , id NEWLINE FROM s.t # t[a]",
        "SELECT /* id */ a FROM s.t # t[a]",
        "SELECT 'id' || a FROM s.t # t[a]",
        "EXECUTE 'select id from s.t' # t[id]",
        "EXECUTE format($q$select id from s.t where a = %L$q$, x) # t[id, a]",
        "SELECT a FROM elsewhere.t # ~~",
        "PERFORM $$'$$; RETURN QUERY SELECT a FROM t; PERFORM $$'$$ # t[a]",
        "SELECT E'\\''; SELECT a FROM t -- ' # t[a]",
        "/* /* */ ' */ SELECT a FROM t -- ' # t[a]",
        "SELECT a FROM U&\"s\".U&\"!0074\" UESCAPE '!' # t[a]",
        "EXECUTE 'sel'NEWLINE'ect a from t' # t[a]",
        "EXECUTE E'\\x73elect a from t' # t[a]",
        "EXECUTE 'DO $$ BEGIN EXECUTE ''select a from t''; END $$' # t[a]",
        "EXECUTE U&'!0073elect a from t' UESCAPE '!' # t[a]",
        "INSERT INTO s.t SELECT id FROM s.u # u[id]",
        "INSERT INTO s.t (id) VALUES (1) RETURNING a # ~~",
        "UPDATE s.t SET a = 'x' # ~~",
        "DELETE FROM s.t WHERE a = 'x' # ~~",
        "BEGIN RETURN 1; END # ~~",
        "SELECT 'unfinished FROM s.t # ~~",
        "SELECT \"unfinished FROM s.t # ~~"
      })
  void whatABodyNames(String body, String expected) {
    assertThat(read(body.replace("NEWLINE", "\n"), PostgresqlRules.of(16))).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "SELECT `b c` FROM `s`.`t` | t[b c]",
        "SELECT \"id\", a FROM t | t[id, a]",
        "SELECT a FROM \"s\".\"t\" | t[a]",
        "SELECT 5--(SELECT max(a) FROM t) | t[a]",
        "SELECT 1 /*! , (SELECT a FROM t) */ | t[a]",
        "SELECT 1 /*M!100100 , (SELECT a FROM t) */ | t[a]",
        "SELECT '\\'; SELECT a FROM t -- ' | t[a]",
        "SELECT '\\\\', a FROM t -- ' | t[a]",
        "PREPARE x FROM 'sel' \"ect a from t\" | t[a]",
        "PREPARE x FROM 's\\elect a from t' | t[a]",
        "SELECT a FROM t # id | t[a]",
        "SELECT 'it\\'s id', a FROM t | t[a]"
      })
  void inTheOtherQuotes(String body, String expected) {
    assertThat(read(body, MariadbRules.of(10, 11))).isEqualTo(expected);
  }

  @Test
  void millionsOfTextsInARowAreReadSoon() {
    SqlReader reader = new SqlReader(PostgresqlRules.of(16));
    List<SqlToken> tokens = reader.tokens("f(" + "'ab'\n".repeat(1_000_000) + ")");
    assertThat(tokens).hasSize(4);
    assertThat(tokens.get(2).text()).hasSize(2_000_000);
    assertThat(tokens.get(3).text()).isEqualTo(")");
  }

  @Test
  void inAnotherLanguageEveryWordCounts() {
    String body = "# don't\nx = 5--1; plpy.execute(\"select a from s.t\")";
    Map<Integer, BitSet> found =
        RoutineText.namedBy(body, new SqlReader(PostgresqlRules.of(16)), RELATIONS);
    assertThat(found).hasToString("{0={1}}");
  }
}
