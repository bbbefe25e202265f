package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.estate.ColumnType;
import fiador.predicates.Values;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

final class MaskTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      nullValues = "null",
      value = {
        "blank | text | abc | null",
        "fixed('it''s') | text | abc | it's",
        "fixed('7') | integer | 12 | 7",
        "keep_first(2) | text | 555-0101 | 55******",
        "keep_last(3) | text | 555-0101 | *****101",
        "keep_last(3) | text | 101 | ***",
        "keep_last(1) | text | a😀 | *😀",
        "stars | text | abc | *****",
        "domain_only | text | a@b@c | *****@b@c",
        "domain_only | text | nobody | *****",
        "zero | decimal | 12.5 | 0",
        "sign_only | decimal | -12.5 | -1",
        "sign_only | integer | 7 | 1",
        "sign_only | integer | 0 | 0",
        "round_to(10) | decimal | -17.9 | -10",
        "round_to(7) | integer | 22 | 21",
        "year_only | date | 2024-02-29 | 2024-01-01",
        "month_only | timestamp | 2024-02-29 12:30:00 | 2024-02-01 00:00:00"
      })
  void aMaskShowsSomethingElse(String mask, String type, String value, String expected) {
    ColumnType column = ColumnType.named(type);
    assertThat(Mask.of(mask).fits(column)).isTrue();
    Object shown = Mask.of(mask).of(Values.of(value, column), null);
    assertThat(shown == null ? null : Values.text(shown)).isEqualTo(expected);
    assertThat(Mask.of(mask).of(null, new byte[1])).isNull();
    assertThat(Mask.of(mask).text()).isEqualTo(mask);
  }

  @Test
  void aDigestIsTheSameForTheSameTextAndKeyOnly() {
    byte[] key = "key".getBytes(StandardCharsets.UTF_8);
    Mask digest = Mask.of("digest");
    assertThat(digest.of("olga", key)).isEqualTo(digest.of("olga", key));
    assertThat(digest.of("olga", key)).isNotEqualTo(digest.of("olgb", key));
    assertThat(digest.of("olga", key)).isNotEqualTo(digest.of("olga", new byte[] {1}));
    assertThat((String) digest.of("olga", key)).hasSize(64);
  }

  @ParameterizedTest
  @CsvSource({
    "zero, text",
    "sign_only, date",
    "year_only, integer",
    "stars, date",
    "fixed('x'), integer",
    "fixed('1.5'), integer",
    "round_to(10), float",
    "keep_last(2), boolean"
  })
  void aMaskFitsOnlySomeTypes(String mask, String type) {
    assertThat(Mask.of(mask).fits(ColumnType.named(type))).isFalse();
  }

  @ParameterizedTest
  @CsvSource({
    "keep_last, is to be written keep_last(n)",
    "keep_last(x), is to be written keep_last(n)",
    "round_to(0), is to be written round_to(n)",
    "starz, there is no mask \"starz\"; did you mean stars?",
    "fixed(5), is to be written fixed('...')",
    "zero(1), is to be written zero",
    "'', there is no mask"
  })
  void whatIsNoMaskIsSaidToBeNone(String text, String message) {
    assertThatThrownBy(() -> Mask.of(text)).hasMessageContaining(message);
  }
}
