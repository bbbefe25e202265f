package fiador.servers.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.rules.PostgresqlRules;
import fiador.servers.LineageConformance;
import fiador.servers.SqlTextConformance;
import fiador.servers.jdbc.Login;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What the columns of PostgreSQL's views show is what a survey says. */
final class PostgresqlLineageTest {
  private static final LineageConformance.Manner MANNER =
      new LineageConformance.Manner(
          "\"",
          "it\"s",
          true,
          "string_agg(%s, ',' ORDER BY %s)",
          "TEXT",
          "postgres.",
          "CREATE FUNCTION %s() RETURNS TEXT LANGUAGE sql SECURITY DEFINER RETURN (%s)",
          true);

  @Test
  void textsAreReadAsTheServerDoes() throws Exception {
    try (Connection admin = RealPostgresql.connect(RealPostgresql.login(18), "postgres")) {
      SqlTextConformance.check(admin, PostgresqlRules.of(18), "", "", 3_000);
    }
  }

  @Test
  void routinesReadWhatTheirBodiesName() throws Exception {
    Login login = RealPostgresql.login(18);
    try (Connection admin = RealPostgresql.connect(login, "postgres");
        Statement statement = admin.createStatement()) {
      statement.execute("CREATE SCHEMA body_box");
      statement.execute("CREATE TABLE body_box.t (id int, a text, b text)");
      statement.execute(
          "CREATE FUNCTION body_box.a_of(i int) RETURNS text LANGUAGE sql SECURITY DEFINER"
              + " SET search_path = body_box AS 'SELECT a FROM t WHERE id = i -- b'");
      statement.execute(
          "CREATE FUNCTION body_box.parsed(i int) RETURNS text LANGUAGE sql SECURITY DEFINER"
              + " RETURN (SELECT max(b) FROM body_box.t WHERE id = i)");
      statement.execute(
          "CREATE FUNCTION body_box.run(i int) RETURNS text LANGUAGE plpgsql SECURITY DEFINER"
              + " AS $$ DECLARE r text; BEGIN EXECUTE 'select a from body_box.t where id = $1'"
              + " INTO r USING i; RETURN r; END $$");
      statement.execute(
          "CREATE FUNCTION body_box.clean() RETURNS void LANGUAGE sql SECURITY DEFINER"
              + " AS 'DELETE FROM body_box.t WHERE a IN (SELECT b FROM body_box.t)'");
      Access access =
          Forms.of(
              new PostgresqlServer().survey(login, "box", List.of(), Instant.now(), note -> {}));
      assertThat(LineageConformance.read(access, "postgres.body_box.a_of(integer)"))
          .containsExactly("t.a", "t.id");
      assertThat(LineageConformance.read(access, "postgres.body_box.parsed(integer)"))
          .containsExactly("t.b", "t.id");
      assertThat(LineageConformance.read(access, "postgres.body_box.run(integer)"))
          .containsExactly("t.a", "t.id");
      assertThat(LineageConformance.read(access, "postgres.body_box.clean()")).isEmpty();
      statement.execute("DROP SCHEMA body_box CASCADE");
    }
  }

  @Test
  void columnsShowWhatTheSurveySays() throws Exception {
    Login login = RealPostgresql.login(18);
    long first = Long.getLong("fiador.seed", 1);
    for (long seed = first; seed < first + Integer.getInteger("fiador.seeds", 1); seed++) {
      try (Connection admin = RealPostgresql.connect(login, "postgres");
          Statement statement = admin.createStatement()) {
        statement.execute("CREATE SCHEMA view_box");
        new LineageConformance(new PostgresqlServer(), login, MANNER, seed).run(admin);
        statement.execute("DROP SCHEMA view_box CASCADE");
      }
    }
  }
}
