package fiador.sqltext.uses;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeKind;
import fiador.evidence.Evidence;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.grants.rules.MariadbRules;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What single statements use, as far as their words tell. */
final class StatementUsesTest {
  private final TinyEstate tiny =
      TinyEstate.postgresql()
          .users("ines")
          .node(NodeKind.SCHEMA, "d.s")
          .node(NodeKind.TABLE, "d.s.t", "a", "b")
          .node(NodeKind.TABLE, "d.s.u", "c")
          .node(NodeKind.SEQUENCE, "d.s.q")
          .node(NodeKind.ROUTINE, "d.s.f(integer)");
  private final Access access = tiny.build();
  private final StatementUses uses = new StatementUses(access);

  private String used(String sql) {
    TreeSet<String> found = new TreeSet<>();
    for (Meaning.Needed each : uses.of(sql, "d").uses()) {
      String column =
          each.column() == Evidence.ALL
              ? ""
              : each.column() == Evidence.ANY
                  ? ".any"
                  : "." + access.tree().column(each.node(), each.column());
      String name = access.tree().name(each.node()).replaceAll("\\(.*", "");
      found.add(each.privilege().text() + " " + name + column);
    }
    return String.join(", ", found);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "SELECT a FROM s.t | select t.a",
        "select a, b from T where a > 5 | select t.a, select t.b",
        "SELECT * FROM s.t | select t",
        "SELECT count(*) FROM s.t | select t.any",
        "TABLE s.t | select t",
        "SELECT t.a FROM s.t JOIN s.u ON t.b = u.c | select t.a, select t.b, select u.c",
        "INSERT INTO s.t (a) VALUES (1) | insert t.a",
        "INSERT INTO s.t VALUES (1, 2) | insert t",
        "INSERT INTO s.t (a) SELECT c FROM s.u | insert t.a, select u.c",
        "UPDATE s.t SET b = 1 | update t.b",
        "DELETE FROM s.u | delete u",
        "TRUNCATE s.t | truncate t",
        "SELECT s.f(1) | execute f",
        "SELECT nextval('s.q') | select q, update q, usage q",
        "COMMIT | ''",
        "SET x = 1 | ''"
      })
  void eachKindOfStatement(String sql, String expected) {
    String used = used(sql);
    for (String each : expected.equals("''") ? new String[0] : expected.split(", ", -1)) {
      assertThat(used.split(", ", -1)).as(used).contains(each);
    }
    if (expected.equals("''")) {
      assertThat(used).isEmpty();
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "DO $$ BEGIN EXECUTE 'SELECT a FROM s.t'; END $$ | select t",
        "EXECUTE 'select c from s.u' | select u",
        "ALTER TABLE s.t ADD x int | insert t",
        "CREATE VIEW v AS SELECT a FROM s.t | select t",
        "WITH x AS (DELETE FROM s.u RETURNING c) SELECT c FROM x | delete u",
        "COPY s.t (a) FROM stdin | insert t",
        "COPY s.t TO stdout | select t",
        "MERGE INTO s.t USING s.u ON a = c WHEN MATCHED THEN DELETE | delete t",
        "what is this s.t | select t"
      })
  void whatMayDoMoreCountsForMore(String sql, String least) {
    assertThat(used(sql).split(", ", -1)).contains(least);
  }

  @Test
  void whatIsNotUnderstoodSaysSo() {
    assertThat(uses.of("what is this", "d").understood()).isFalse();
    assertThat(uses.of("SELECT a FROM s.t;  ", "d").understood()).isTrue();
    // the same again, and the same but for numbers and texts
    Meaning meaning = uses.of("SELECT a FROM s.t WHERE a = 1 AND b = 'x'", "d");
    assertThat(uses.of("SELECT a FROM s.t WHERE a = 1 AND b = 'x'", "d")).isSameAs(meaning);
    assertThat(uses.of("SELECT a FROM s.t WHERE a = 25 AND b = 'y'", "d")).isSameAs(meaning);
    assertThat(uses.of("SELECT b FROM s.t WHERE a = 25 AND b = 'y'", "d")).isNotSameAs(meaning);
  }

  @Test
  void onMariadbDoubleQuotesMayHoldNames() {
    TinyEstate other =
        new TinyEstate(MariadbRules.of(10, 11))
            .node(NodeKind.SCHEMA, "s")
            .node(NodeKind.TABLE, "s.t", "a", "b");
    StatementUses there = new StatementUses(other.build());
    assertThat(there.of("SELECT \"a\" FROM `s`.`t` # b", "s").uses())
        .extracting(Meaning.Needed::column)
        .containsExactly(0);
    assertThat(there.of("INSERT INTO t (a) VALUES (1) ON DUPLICATE KEY UPDATE b = 2", "s").uses())
        .extracting(each -> each.privilege().text())
        .contains("insert", "update");
  }
}
