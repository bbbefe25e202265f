package fiador.policies;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.ColumnType;
import fiador.predicates.Evaluation;
import fiador.predicates.InSession;
import fiador.predicates.Person;
import fiador.predicates.PredicateText;
import fiador.predicates.SessionFact;
import java.util.List;
import java.util.Map;
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
    assertThat(sight.by(Person.INES).masks().get("phone"))
        .extracting(acting -> acting.mask().policy())
        .containsExactly("two");
  }

  @Test
  void whereOneMaskLetsAValueThroughTheNextIsTried() {
    TableSight sight =
        sight(
            "mask\tnever\ttrue\tphone\tblank\tuser.name = 'ines' or phone is null",
            "mask\town\ttrue\tphone\tstars\tdistrict in user.districts",
            "mask\tlong\tholds(clerk)\tphone\tkeep_last(1)\tchar_length(phone) < 3",
            "mask\tunreached\tholds(chief)\tphone\tblank");
    assertThat(sight.by(Person.INES).masks().get("phone"))
        .extracting(one -> one.mask().policy() + ": " + PredicateText.of(one.clear()))
        .containsExactly("own: district in ('north', 'delta')", "long: char_length(phone) < 3");
    Simulation seen = new Simulation(sight, Person.INES, COLUMNS, null);
    assertThat(seen.row(new Object[] {"hills", "123"})).containsExactly("hills", "*****");
    assertThat(seen.row(new Object[] {null, "123"})).containsExactly(null, "*****");
    assertThat(seen.row(new Object[] {"north", "123"})).containsExactly("north", "**3");
    assertThat(seen.row(new Object[] {"north", "12"})).containsExactly("north", "12");
  }

  @Test
  void whatDependsOnTheSessionIsLeftToBeAsked() {
    TableSight sight =
        sight(
            "any\tdesk\tsession.address in ('10.1.2.3', '10.1.2.4') and holds(clerk)\tfalse\tdistrict = 'north'",
            "all\tother\tholds(chief) and session.application = 'x'\tfalse\tphone is null",
            "mask\tm\tsession.application = 'billing'\tphone\tstars\tdistrict = 'north'",
            "mask\tn\tholds(clerk)\tphone\tblank");
    assertThat(sight.asksSession()).isTrue();
    assertThat(rowsFor(sight))
        .isEqualTo("(session.address in ('10.1.2.3', '10.1.2.4')) is true and district = 'north'");
    assertThat(sight.by(Person.INES).rows()).extracting(RowPolicy::name).containsExactly("desk");
    assertThat(sight.by(Person.INES).masks().get("phone"))
        .extracting(one -> one.mask().policy() + ": " + PredicateText.of(one.clear()))
        .containsExactly(
            "m: (session.application = 'billing') is not true or district = 'north'", "n: false");
    TableSight.Seen here =
        sight.by(new InSession(Person.INES, Map.of(SessionFact.ADDRESS, "10.1.2.3")));
    assertThat(PredicateText.of(here.condition())).isEqualTo("district = 'north'");
  }

  @Test
  void aMaskThatIsClearInEveryRowMasksNothing() {
    TableSight sight = sight("mask\tm\ttrue\tphone\tblank\t'north' in user.districts");
    assertThat(sight.by(Person.INES).masks()).isEmpty();
  }

  @Test
  void whatIsKeptAsTextReadsTheSame() {
    TableSight sight =
        sight(
            "all\tit's\tuser.name = 'tab\\there'\tholds(chief)\tdistrict = 'back\\\\slash' or phone like 'a\\nb%'",
            "mask\tm\ttrue\tphone\tfixed('x''y')",
            "mask\tn\ttrue\tphone\tstars\tdistrict = 'a' and holds(clerk)");
    assertThat(SightText.read(SightText.of(sight), COLUMNS)).isEqualTo(sight);
  }
}
