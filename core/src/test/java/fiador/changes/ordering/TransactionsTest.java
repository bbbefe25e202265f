package fiador.changes.ordering;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Outcome;
import fiador.changes.outcome.PeopleEffects;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Each database is changed at once, and between two of them nobody holds too much. */
final class TransactionsTest {
  private static final Clock CLOCK = Clock.systemUTC();

  private static On table(String database) {
    return new On(NodeKind.TABLE, database, List.of("s", "t"));
  }

  private static Step grant(String database, String to) {
    return new Grant(Privilege.SELECT.bit(), table(database), List.of(), to, false);
  }

  private static Step revoke(String database, String from) {
    return new Revoke(Privilege.SELECT.bit(), table(database), List.of(), from, false, null);
  }

  private static TinyEstate two() {
    TinyEstate tiny = TinyEstate.postgresql().users("ines").roles("crew");
    for (String database : List.of("d", "e")) {
      if (!database.equals("d")) {
        tiny.node(NodeKind.DATABASE, database);
      }
      tiny.node(NodeKind.SCHEMA, database + ".s")
          .table(database + ".s.t", null, "a:text")
          .grant("PUBLIC", "connect", database)
          .grant("PUBLIC", "usage", database + ".s");
    }
    return tiny;
  }

  private static List<Step> ordered(Access before, List<Step> steps) {
    List<Change> effects = PeopleEffects.of(before, Outcome.of(before, steps), CLOCK);
    return Transactions.ordered(before, steps, effects, CLOCK);
  }

  @Test
  void withOneDatabaseEverythingHappensAtOnce() {
    List<Step> steps =
        List.of(new CreateRole("new"), grant("d", "crew"), new GiveRole("crew", "ines"));
    List<Transactions.Part> parts = Transactions.of(steps);
    assertThat(parts).hasSize(1);
    assertThat(parts.get(0).database()).isEqualTo("d");
    assertThat(parts.get(0).steps()).isEqualTo(steps);
    assertThat(Transactions.of(List.of(new CreateRole("new"))).get(0).database()).isNull();
  }

  @Test
  void nobodyIsDroppedBeforeTheEnd() {
    List<Step> steps = List.of(new DropRole("crew"), revoke("d", "crew"), revoke("e", "crew"));
    List<Transactions.Part> parts = Transactions.of(steps);
    assertThat(parts).extracting(Transactions.Part::database).containsExactly("d", "e");
    assertThat(parts.get(1).steps()).containsExactly(steps.get(2), steps.get(0));
  }

  @Test
  void rolesAreGivenLastWhereAnotherDatabaseStillHasToTakeSomethingFromThem() {
    Access before = two().grant("crew", "select", "e.s.t").build();
    Step give = new GiveRole("crew", "ines");
    List<Step> steps = List.of(give, revoke("e", "crew"), grant("d", "crew"));
    List<Step> plain = List.of(give, grant("d", "crew"), revoke("e", "crew"));
    assertThat(ordered(before, plain)).containsExactly(plain.get(1), plain.get(2), give);
    // here the database that takes comes first, in one transaction with the membership
    assertThat(ordered(before, steps)).isEqualTo(steps);
  }
}
