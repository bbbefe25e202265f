package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.ColumnType;
import fiador.predicates.Evaluation;
import fiador.predicates.Person;
import fiador.predicates.PredicateText;
import java.util.List;
import org.junit.jupiter.api.Test;

final class TableSightTest {
  private static final List<SafeColumn> COLUMNS =
      List.of(
          new SafeColumn("district", ColumnType.TEXT), new SafeColumn("phone", ColumnType.TEXT));

  private static TableSight sight(String... lines) {
    return SightText.read(String.join("\n", lines), COLUMNS);
  }

  private static String rowsFor(TableSight sight) {
    return PredicateText.of(sight.by(Person.INES).condition());
  }

  @Test
  void onePolicyOfSeveralIsEnoughAndAllOthersMustPass() {
    TableSight sight =
        sight(
            "any\ta\ttrue\tfalse\tdistrict = 'north'",
            "any\tb\tholds(clerk)\tfalse\tdistrict = 'hills'",
            "all\tc\ttrue\tfalse\tphone is not null");
    assertThat(rowsFor(sight))
        .isEqualTo("(district = 'north' or district = 'hills') and phone is not null");
  }

  @Test
  void aTableWithAnAnyPolicyShowsNothingToThoseToWhomNoneApplies() {
    TableSight sight = sight("any\ta\tholds(chief)\tfalse\tdistrict = 'north'");
    assertThat(sight.by(Person.INES).noRows()).isTrue();
  }

  @Test
  void whomAPolicyExemptsSeesAllOfWhatItWouldHide() {
    TableSight one = sight("any\ta\ttrue\tholds(clerk)\tdistrict = 'north'");
    assertThat(one.by(Person.INES).allRows()).isTrue();
    assertThat(one.by(Person.INES).exempt()).extracting(RowPolicy::name).containsExactly("a");
    TableSight two =
        sight(
            "all\ta\ttrue\tholds(clerk)\tdistrict = 'north'", "all\tb\ttrue\tfalse\tphone is null");
    assertThat(rowsFor(two)).isEqualTo("phone is null");
  }

  @Test
  void anAllPolicyThatDoesNotApplyHidesNothing() {
    TableSight sight = sight("all\ta\tholds(chief)\tfalse\tdistrict = 'north'");
    assertThat(sight.by(Person.INES).allRows()).isTrue();
    assertThat(sight.by(Person.INES).rows()).isEmpty();
  }

  @Test
  void whetherAPolicyAppliesIsNeverUnknown() {
    // a condition on an attribute that the user does not have
    TableSight sight = sight("all\ta\tuser.nothing = 'x'\tfalse\tdistrict = 'north'");
    assertThat(sight.by(Person.INES).allRows()).isTrue();
    Object[] row = {"south", null};
    assertThat(new Evaluation(Person.INES).shows(sight.condition(), row)).isTrue();
  }

  @Test
  void ofSeveralMasksOnAColumnTheFirstThatAppliesActs() {
    TableSight sight =
        sight(
            "mask\tone\tholds(chief)\tphone\tblank",
            "mask\ttwo\tholds(clerk)\tphone\tstars",
            "mask\tthree\ttrue\tphone\tdigest");
    assertThat(sight.by(Person.INES).masks().get("phone").policy()).isEqualTo("two");
  }

  @Test
  void whatIsKeptAsTextReadsTheSame() {
    TableSight sight =
        sight(
            "all\tit's\tuser.name = 'tab\\there'\tholds(chief)\tdistrict = 'back\\\\slash' or phone like 'a\\nb%'",
            "mask\tm\ttrue\tphone\tfixed('x''y')");
    assertThat(SightText.read(SightText.of(sight), COLUMNS)).isEqualTo(sight);
  }
}
