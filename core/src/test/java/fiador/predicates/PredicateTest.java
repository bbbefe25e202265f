package fiador.predicates;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.estate.ColumnType;
import fiador.policies.SafeColumn;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

final class PredicateTest {
  private static final List<SafeColumn> COLUMNS =
      List.of(
          new SafeColumn("district", ColumnType.TEXT),
          new SafeColumn("amount", ColumnType.DECIMAL),
          new SafeColumn("day", ColumnType.DATE),
          new SafeColumn("open", ColumnType.BOOLEAN),
          new SafeColumn("flow", ColumnType.FLOAT));

  private static final Object[] NORTH = {
    "north", new BigDecimal("12.50"), LocalDate.of(2024, 2, 29), true, null
  };
  private static final Object[] NOTHING = {null, null, null, null, null};

  private static Expression typed(String text) throws PredicateException {
    return Typing.typed(
        PredicateReader.read(text), SafeColumn.names(COLUMNS, Map.of("desks", ColumnType.TEXT)));
  }

  private static Object value(String text, Object[] row) throws PredicateException {
    return new Evaluation(Person.INES).value(typed(text), row);
  }

  @ParameterizedTest
  @CsvSource(
      delimiterString = " | ",
      value = {
        "district in user.districts | true",
        "district = user.districts | null",
        "district = user.desk | false",
        "district in lookup(desks) or holds(clerk) | true",
        "holds(chief) | false",
        "amount * 2 = 25 and amount between 12.5 and 13 | true",
        "-amount < 0 - 12 | true",
        "district || '!' = 'north!' | true",
        "district like 'n%_h' | true",
        "district like 'n_' | false",
        "substring(district from 2 for 3) = 'ort' | true",
        "extract(month from day) = 2 | true",
        "day >= date '2024-02-29' | true",
        "not open | false",
        "char_length('a😀') = 2 | true",
        "coalesce(district, 'x') = 'North' | false",
        "user.name = 'ines' | true",
        "district in ('a', 'b') | false"
      })
  void aPredicateIsWorkedOutForARow(String text, String expected) throws PredicateException {
    assertThat(String.valueOf(value(text, NORTH))).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource(
      delimiterString = " | ",
      value = {
        "district = 'x' | null",
        "not (district = 'x') | null",
        "district = 'x' and false | false",
        "district = 'x' and true | null",
        "district = 'x' or true | true",
        "district = 'x' or false | null",
        "(district = 'x') is true | false",
        "(district = 'x') is not true | true",
        "district is null | true",
        "district not in ('a') | null",
        "district in user.nothing | false",
        "('a') in (district, 'a') | true",
        "('a') in (district, 'b') | null",
        "amount + 1 > 0 | null",
        "district || 'x' is null | true",
        "open | null"
      })
  void whatIsNullIsUnknown(String text, String expected) throws PredicateException {
    assertThat(String.valueOf(value(text, NOTHING))).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource(
      delimiterString = " | ",
      value = {
        "distict = 'x' | 0 | there is no column distict; did you mean district?",
        "district = 5 | 11 | cannot be compared with a text",
        "amount | 0 | expected something true or false",
        "flow > 1 | 0 | only ask whether they are null",
        "district = | 10 | found the end",
        "district = 'x | 11 | the quote ' is not closed",
        "lookup(desks) = 'x' | 0 | stands only behind \"in\"",
        "district in | 11 | values in parentheses",
        "upper(district) = 'X' | 0 | there is no function upper",
        "day = date '2024-02-30' | 11 | is no date",
        "day = date '12024-02-03' | 11 | is no date",
        "district = 'a' district | 15 | expected \"and\", \"or\" or the end",
        "amount in lookup(desks) | 10 | lookup desks gives texts, not numbers",
        "extract(week from day) = 1 | 8 | expected year, month or day",
        "district not = 'x' | 13 | expected \"in\", \"between\" or \"like\""
      })
  void aMistakeIsNamedWithItsPlace(String text, int at, String message) {
    assertThatThrownBy(() -> typed(text))
        .isInstanceOfSatisfying(
            PredicateException.class,
            wrong -> {
              assertThat(wrong).hasMessageContaining(message);
              assertThat(wrong.at()).isEqualTo(at);
            });
  }

  @Test
  void veryDeepNestingIsRefusedAndNotFollowed() {
    String deep = "(".repeat(5_000) + "open" + ")".repeat(5_000);
    assertThatThrownBy(() -> typed(deep)).hasMessageContaining("nested deeper");
    assertThatThrownBy(() -> typed("not ".repeat(4_000) + "open"))
        .hasMessageContaining("nested deeper");
  }

  @ParameterizedTest
  @CsvSource(
      delimiterString = " | ",
      value = {
        "district in user.districts or district in user.nothing"
            + " | district in ('north', 'delta')",
        "holds(chief) and open or amount > 3 | amount > 3",
        "holds(clerk) or open | true",
        "not (holds(clerk) is true) or open | open",
        "district = user.districts | unknown",
        "district in lookup(desks) or district = user.desk"
            + " | district in ('harbour') or district = 'hills'",
        "user.name = 'ines' and not not open | open"
      })
  void whatIsKnownOfAUserIsPutIn(String text, String expected) throws PredicateException {
    Expression simple = new Simplifier(Person.INES).simplified(typed(text));
    assertThat(PredicateText.of(simple)).isEqualTo(expected);
  }

  @Property(tries = 3_000)
  void whatIsWrittenReadsTheSameAndSimplifyingShowsTheSameRows(@ForAll long seed)
      throws PredicateException {
    Random random = new Random(seed);
    Expression expression = typed(random(random, 4));
    String text = PredicateText.of(expression);
    Expression again = typed(text);
    assertThat(PredicateText.of(again)).isEqualTo(text);
    Expression simple = new Simplifier(Person.INES).simplified(expression);
    Evaluation evaluation = new Evaluation(Person.INES);
    for (Object[] row : List.of(NORTH, NOTHING, new Object[] {"x", null, null, false, null})) {
      assertThat(evaluation.value(again, row)).isEqualTo(evaluation.value(expression, row));
      assertThat(evaluation.shows(simple, row)).isEqualTo(evaluation.shows(expression, row));
    }
  }

  private static String random(Random random, int depth) {
    List<String> leaves =
        List.of(
            "district in user.districts",
            "district not in ('north', user.nothing, 'it''s')",
            "amount - 1 * 2 <= -3.5",
            "district is not null",
            "open",
            "true",
            "unknown",
            "holds(clerk)",
            "holds(chief) is not true",
            "day < date '2026-01-01'",
            "district not like '%|_%'",
            "coalesce(district, user.name) = user.desk",
            "char_length(substring(district from 1 for 2)) = 2",
            "district in lookup(desks)");
    String leaf = leaves.get(random.nextInt(leaves.size()));
    if (depth == 0) {
      return leaf;
    }
    return switch (random.nextInt(5)) {
      case 0 -> "(" + random(random, depth - 1) + ") and " + random(random, depth - 1);
      case 1 -> random(random, depth - 1) + " or (" + random(random, depth - 1) + ")";
      case 2 -> "not (" + random(random, depth - 1) + ")";
      case 3 -> "(" + random(random, depth - 1) + ") is true";
      default -> leaf;
    };
  }

  /** Each further operand stands a level deeper, and somebody has to go down there. */
  @Test
  void thousandsOfOperandsInARowAreRefusedInWords() {
    for (String sign : new String[] {" + ", " * ", " || "}) {
      String text = "a" + (sign + "a").repeat(3_000);
      assertThatThrownBy(() -> PredicateReader.read(text))
          .isInstanceOf(PredicateException.class)
          .hasMessageContaining("operands in a row");
    }
  }

  @Test
  void whatOnlyLooksLikeABlankHasNoMeaning() {
    for (char odd : new char[] {'\u001c', '\u001f', '\u0085', '\u00a0', '\u2028', '\u3000'}) {
      org.assertj.core.api.Assertions.assertThatThrownBy(() -> PredicateReader.read("a = 1" + odd))
          .as("%04x", (int) odd)
          .isInstanceOf(PredicateException.class)
          .hasMessageContaining("has no meaning here");
    }
  }
}
