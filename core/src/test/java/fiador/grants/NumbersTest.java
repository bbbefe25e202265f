package fiador.grants;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.rules.KnownHouses;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which numbers are beyond what attributes are compared by. */
class NumbersTest {
  @ParameterizedTest
  @CsvSource({
    "1, false",
    "-12.5, false",
    "1.000000000000000, false",
    "1.00000000000000000000, false",
    "1.0000000000000000001, true",
    "-0.1234567890123456, true",
    "99999999999999999999999999999999999, false",
    "999999999999999999999999999999999999, true",
    "00000000000000000000000000000000000000001, false",
    "1.2.3, false",
    "north, false"
  })
  void moreDigitsThanCount(String text, boolean beyond) {
    assertThat(KnownHouses.of("mariadb", "10.11").numbers().isBeyond(text)).isEqualTo(beyond);
    assertThat(KnownHouses.of("hsqldb", "2.7").numbers().isBeyond(text)).isEqualTo(beyond);
    assertThat(KnownHouses.of("postgresql", "18").numbers().isBeyond(text)).isFalse();
  }
}
