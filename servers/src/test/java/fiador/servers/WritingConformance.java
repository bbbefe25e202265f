package fiador.servers;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.On;
import fiador.estate.NodeKind;
import fiador.policies.RowPolicy;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.Evaluation;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.Collections;
import java.util.List;
import java.util.stream.Collectors;

/** What users can add and change under policies that bind who writes is what the core says. */
final class WritingConformance {
  private static final int REFUSED = -1;

  private final SightConformance estate;

  /** With the users and the source of another one. */
  WritingConformance(SightConformance estate) {
    this.estate = estate;
  }

  /** One table whose policies bind who writes, and what every user can add and change there. */
  void table(String schema, int number) throws Exception {
    On table = estate.on(schema, NodeKind.TABLE, "w" + number);
    List<Object[]> rows = estate.fill(table);
    boolean any = estate.source.random.nextInt(4) > 0;
    List<RowPolicy> policies =
        estate.source.sight().rows().stream()
            .map(
                policy ->
                    new RowPolicy(
                        policy.name(),
                        policy.any(),
                        policy.applies(),
                        policy.exempts(),
                        policy.rows(),
                        policy.any() ? any : estate.source.random.nextBoolean()))
            .toList();
    TableSight sight = new TableSight(policies, List.of());
    if (sight.isOpen()) {
      return;
    }
    String text = SightText.of(estate.storedRoles(sight));
    assertThat(SightText.read(SightText.of(sight), estate.source.columns)).isEqualTo(sight);
    estate.run(new FilterRows(table, estate.source.columns, "", text));
    estate.execute("GRANT SELECT, INSERT, UPDATE ON " + estate.path(table) + " TO PUBLIC");
    for (SightConformance.Person person : estate.people) {
      try (Connection session = estate.naming.session(estate.naming.stored(person.name()))) {
        session.setAutoCommit(false);
        for (int n = 0; n < rows.size(); n++) {
          written(session, person, sight, table, rows.get(n), rows.get((n + 1) % rows.size()));
        }
      }
    }
  }

  private void written(
      Connection session,
      SightConformance.Person person,
      TableSight sight,
      On table,
      Object[] old,
      Object[] fresh)
      throws SQLException {
    Evaluation evaluation = new Evaluation(person);
    boolean may = evaluation.shows(sight.written(), fresh);
    assertThat(evaluation.shows(sight.by(person).written(), fresh)).isEqualTo(may);
    boolean sees = evaluation.shows(sight.condition(), old);
    String marks = String.join(", ", Collections.nCopies(fresh.length, "?"));
    String names =
        estate.source.columns.stream()
            .map(column -> estate.server.dialect().quoted(column.name()))
            .collect(Collectors.joining(", "));
    String insert = "INSERT INTO " + estate.path(table) + " VALUES (" + marks + ")";
    String update =
        "UPDATE " + estate.path(table) + " SET (" + names + ") = (" + marks + ") WHERE id = ";
    String why =
        person + " writes " + SightConformance.text(fresh) + " under " + SightText.of(sight);
    assertThat(outcome(session, insert, fresh)).as(why).isEqualTo(may ? 1 : REFUSED);
    // who looks for a row must see what it becomes, too
    boolean mayChange = may && evaluation.shows(sight.condition(), fresh);
    assertThat(outcome(session, update + old[0], fresh))
        .as("%s over %s", why, SightConformance.text(old))
        .isEqualTo(!sees ? 0 : mayChange ? 1 : REFUSED);
    estate.cases += 2;
  }

  /** How many rows a statement writes, which is taken back; {@link #REFUSED} for none at all. */
  private int outcome(Connection session, String sql, Object[] row) throws SQLException {
    try (PreparedStatement write = session.prepareStatement(sql)) {
      estate.set(write, row);
      return write.executeUpdate();
    } catch (SQLException refused) {
      assertThat(refused.getMessage()).contains("violates row-level security policy");
      return REFUSED;
    } finally {
      session.rollback();
    }
  }
}
