package fiador.sqltext;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import fiador.fuzz.Mutation;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Whatever people put on a server as a text, a survey reads it or leaves it, and soon. */
final class SqlTextFuzzTest {
  private static final int INPUTS = Integer.getInteger("fiador.fuzz", 150);
  private static final long SLOWEST_NANOS = 15_000_000_000L;

  private static final List<String> SEEDS =
      List.of(
          "SELECT a.x AS y, count(*) FROM s.t a JOIN (SELECT b FROM u) c ON a.b = c.b WHERE a.x > 1",
          "WITH RECURSIVE r (a) AS (SELECT 1 UNION ALL SELECT a + 1 FROM r) SELECT a, 2 FROM r",
          "select `t`.`a` AS `a`,`s`.`f`(`t`.`b`) AS `b` from `s`.`t` where `t`.`a` = 'x\\'y'",
          "SELECT \"a\", CASE WHEN b IS NULL THEN 'x' ELSE b END FROM \"S\".\"T\" LIMIT 5",
          "SELECT E'a\\x41''b' /* /* c */ */ || $q$ $$ x $$ $q$, U&\"d\\0061\" UESCAPE '!' -- e",
          "/*!50000 select `a``b` from t */ # x\nwhere 5--3 and \"d\" 'e' 1a.2e5 > 0x1F",
          "BEGIN EXECUTE 'select * from ' || quote_ident(x); RETURN QUERY SELECT a FROM t; END",
          "((district = ANY (ARRAY['north'::text, 'x'::text])) OR (who = (SESSION_USER)::text))",
          "(pg_has_role(SESSION_USER, 'r'::name, 'MEMBER'::text) AND NOT (a = 1))");

  @ParameterizedTest
  @EnumSource(SqlTextFuzz.Reader.class)
  void noTextBreaksASurvey(SqlTextFuzz.Reader reader) {
    Mutation mutation = new Mutation(SEEDS, Long.getLong("fiador.seed", 1));
    long slowest = 0;
    for (int i = 0; i < INPUTS; i++) {
      byte[] input = mutation.next();
      long begun = System.nanoTime();
      try {
        SqlTextFuzz.tried(reader, input);
      } catch (RuntimeException | StackOverflowError | OutOfMemoryError fault) {
        String text = new String(input, StandardCharsets.UTF_8);
        List<StackTraceElement> top = Arrays.stream(fault.getStackTrace()).limit(8).toList();
        fail(
            reader + ": " + text.substring(0, Math.min(1_000, text.length())) + " at " + top,
            fault);
      }
      slowest = Math.max(slowest, System.nanoTime() - begun);
    }
    assertThat(slowest).isLessThan(SLOWEST_NANOS);
  }
}
