package fiador.sqltext.rules;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Row rules that people wrote in SQL, as far as predicates can say them. */
final class RowRuleTextTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "(district = 'north'::text) | \"district\" = 'north'",
        "((a = 1) AND (b <> 2)) | \"a\" = 1 and \"b\" <> 2",
        "((a = 1) OR (b IS NULL)) | \"a\" = 1 or \"b\" is null",
        "(NOT (a > 1)) | not (\"a\" > 1)",
        "(b IS NOT NULL) | \"b\" is not null",
        "(district = ANY (ARRAY['north'::text, 'x'::text])) | \"district\" in ('north', 'x')",
        "((who)::text = (CURRENT_USER)::text) | \"who\" = user.name",
        "pg_has_role(CURRENT_USER, 'reader'::name, 'MEMBER'::text) | holds(reader)",
        "(active) | \"active\"",
        "true | true"
      })
  void whatPredicatesCanSay(String sql, String predicate) {
    assertThat(RowRuleText.predicate(sql)).isNotNull();
    assertThat(RowRuleText.predicate(sql).replace("\"", ""))
        .isEqualToIgnoringCase(predicate.replace("\"", ""));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "(a = ( SELECT 1))",
        "(name > other)",
        "lower(name) = 'x'",
        "(t.a = 1)",
        "(a ~ 'x')",
        "pg_has_role(owner, 'reader'::name, 'MEMBER'::text)",
        "pg_has_role(CURRENT_USER, 'reader'::name, 'USAGE'::text)",
        "a = ANY (b)",
        "1; drop",
        ""
      })
  void allElseIsBeyondThem(String sql) {
    assertThat(RowRuleText.predicate(sql)).isNull();
  }
}
