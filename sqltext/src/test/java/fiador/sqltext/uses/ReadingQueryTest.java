package fiador.sqltext.uses;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Which queries of a house sheet are run. */
class ReadingQueryTest {
  @ParameterizedTest
  @ValueSource(
      strings = {
        "select a from s.t",
        "select a from \"S\".\"T\" where b = 'x; drop table s.t'",
        "select a from s.t union all select a from s.u order by 1",
        "with x as (select a from s.t) select a from x",
        "select a from s.t where exists (select 1 from s.u where u.a = t.a)",
        "values (1)"
      })
  void thoseThatReadAndSayWhere(String query) {
    assertThat(ReadingQuery.refusal(query)).isNull();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "select a from t | it reads t without saying in which schema",
        "select a from s.t; delete from s.t | it holds 2 statements",
        "delete from s.t | it is no query",
        "select a from s.t for update | it locks what it reads",
        "select a into s.u from s.t | it writes what it reads into a table",
        "with gone as (delete from s.t returning a) select a from gone | changes something",
        "select a from s.t union select a from s.u for update | it locks",
        "nonsense | it is no SQL that can be read"
      })
  void othersAreRefused(String query, String why) {
    assertThat(ReadingQuery.refusal(query)).contains(why);
  }
}
