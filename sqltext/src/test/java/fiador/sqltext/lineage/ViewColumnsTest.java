package fiador.sqltext.lineage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.grants.rules.PostgresqlRules;
import fiador.sqltext.SqlReader;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A view's columns are followed through its query. */
final class ViewColumnsTest {
  private static final List<String> COLUMNS = List.of("id", "a", "b", "Mixed \"x\"");
  private static final Relations RELATIONS =
      new Relations() {
        @Override
        public int node(String schema, String name) {
          return schema != null && !schema.equals("s") ? -1 : List.of("t", "u").indexOf(name);
        }

        @Override
        public List<String> columns(int node) {
          return COLUMNS;
        }
      };

  /** Each column as t.a where it stands as it is, (t.a) where something is worked out. */
  private static String shown(String query, int columns) throws NotUnderstood {
    QuotedNames text = new QuotedNames(query, new SqlReader(PostgresqlRules.of(16)));
    StringBuilder all = new StringBuilder();
    for (Set<Shown> column : ViewColumns.of(text, columns, RELATIONS)) {
      Set<String> names = new TreeSet<>();
      for (Shown each : column) {
        String name = List.of("t", "u").get(each.under()) + "." + COLUMNS.get(each.column());
        names.add(each.asIs() ? name : "(" + name + ")");
      }
      all.append(all.isEmpty() ? "" : ", ").append(String.join("+", names));
    }
    return all.toString();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '#',
      quoteCharacter = '`',
      value = {
        "t.a # t.a",
        "A # t.a",
        "(a) # t.a",
        "\"Mixed \"\"x\"\"\" # t.Mixed \"x\"",
        "upper(a) # (t.a)",
        "substring(a FROM 1 FOR 3) # (t.a)",
        "SUBSTRING(a,1,id) # (t.a)+(t.id)",
        "a || b # (t.a)+(t.b)",
        "CASE WHEN a = 'x' THEN 1 ELSE 2 END # (t.a)",
        "CASE a WHEN b THEN 1 END # (t.a)+(t.b)",
        "cast(a AS varchar(3)) # (t.a)",
        "a::text # (t.a)",
        "coalesce(a, b, 'x') # (t.a)+(t.b)",
        "count(a) # ``",
        "count(DISTINCT a) # ``",
        "a IS NULL # ``",
        "a IS NOT NULL # ``",
        "EXISTS (SELECT 1 FROM s.u WHERE u.a = t.b) # ``",
        "a IN (SELECT b FROM s.u) # (t.a)+(u.b)",
        "(SELECT max(u.b) FROM s.u WHERE u.id = t.id) # (u.b)",
        "max(a) OVER (PARTITION BY id ORDER BY b) # (t.a)",
        "count(a) OVER (PARTITION BY b) # ``",
        "row_number() OVER (ORDER BY a) # ``",
        "lag(a, 1, b) OVER (ORDER BY id) # (t.a)+(t.b)",
        "string_agg(a, ',' ORDER BY b) # (t.a)",
        "group_concat(a separator ',') # (t.a)",
        "group_concat(a order by b separator ',') # (t.a)",
        "trim(BOTH 'x' FROM a) # (t.a)",
        "position('x' IN a) # (t.a)",
        "extract(year FROM a) # (t.a)",
        "a BETWEEN 'x' AND b # (t.a)+(t.b)",
        "NOT a = b # (t.a)+(t.b)",
        "a LIKE b # (t.a)+(t.b)",
        "- id # (t.id)",
        "interval '1' day + a # (t.a)",
        "row_to_json(t.*) # (t.Mixed \"x\")+(t.a)+(t.b)+(t.id)",
        "ARRAY[a, b] # (t.a)+(t.b)",
        "a AT TIME ZONE 'UTC' # (t.a)",
        "a IS DISTINCT FROM b # (t.a)+(t.b)",
        "current_user # ``",
        "'a' # ``",
        "overlay(a PLACING b FROM 1 FOR 2) # (t.a)+(t.b)",
        "if(a = b, id, 0) # (t.a)+(t.b)+(t.id)",
        "s.secret_of(a) # (t.a)",
        "max(a) FILTER (WHERE b = 'x') # (t.a)",
        "a ->> 'x' # (t.a)",
        "a COLLATE \"C\" # (t.a)"
      })
  void whatAnExpressionIsWorkedOutOf(String expression, String expected) throws Exception {
    assertThat(shown("SELECT " + expression + " FROM s.t", 1)).isEqualTo(expected);
  }

  @Test
  void conditionsOrdersAndGroupingsShowNothing() throws Exception {
    String query =
        "SELECT t.id FROM s.t JOIN s.u ON t.a = u.a WHERE u.b > 'x' GROUP BY t.id, t.b"
            + " HAVING max(t.a) > 'c' ORDER BY max(u.b)";
    assertThat(shown(query, 1)).isEqualTo("t.id");
  }

  @Test
  void subqueriesNamedQueriesAndSetOperations() throws Exception {
    assertThat(shown("SELECT q.x, q.b FROM (SELECT upper(a) AS x, b FROM s.t) q", 2))
        .isEqualTo("(t.a), t.b");
    assertThat(shown("WITH q AS (SELECT a, b FROM s.t) SELECT q.b, q.a FROM q", 2))
        .isEqualTo("t.b, t.a");
    assertThat(shown("WITH q(x, y) AS (SELECT a, b FROM s.t) SELECT y, x FROM q", 2))
        .isEqualTo("t.b, t.a");
    assertThat(shown("SELECT a FROM s.t UNION ALL SELECT upper(b) FROM s.u", 1))
        .isEqualTo("(u.b)+t.a");
    assertThat(shown("SELECT q.y FROM s.t AS q(w, x, y, z)", 1)).isEqualTo("t.b");
    assertThat(shown("SELECT * FROM s.t", 4)).isEqualTo("t.id, t.a, t.b, t.Mixed \"x\"");
    assertThat(shown("SELECT x.a FROM (s.t JOIN s.u x ON t.id = x.id)", 1)).isEqualTo("u.a");
    assertThat(shown("SELECT id FROM s.t JOIN s.u USING (id)", 1)).isEqualTo("t.id+u.id");
    assertThat(shown("SELECT l.m FROM s.t, LATERAL (SELECT upper(t.b) AS m) l", 1))
        .isEqualTo("(t.b)");
    assertThat(shown("SELECT v.x FROM (VALUES (1, 'a'), (2, 'b')) v(x, y)", 1)).isEmpty();
  }

  @Test
  void aQueryThatNamesItselfIsFollowedToItsEnd() throws Exception {
    String query =
        "WITH RECURSIVE q(x, y) AS (SELECT a, b FROM s.t UNION ALL SELECT q.y, u.a FROM q"
            + " JOIN s.u ON u.b = q.x) SELECT x, y FROM q";
    assertThat(shown(query, 2)).isEqualTo("t.a+t.b+u.a, t.b+u.a");
  }

  @Test
  void theInnerNameHidesTheOuterOne() throws Exception {
    String query = "SELECT (SELECT max(t.a) FROM s.u t WHERE t.id = 1) FROM s.t";
    assertThat(shown(query, 1)).isEqualTo("(u.a)");
  }

  @Test
  void whatIsNotKnownIsNotGuessed() {
    for (String query :
        List.of(
            "SELECT nothing FROM s.t",
            "SELECT x.a FROM s.t",
            "SELECT a FROM elsewhere.t",
            "SELECT a, b FROM s.t",
            "SELECT ((( FROM s.t",
            "DELETE FROM s.t")) {
      assertThatThrownBy(() -> shown(query, 1)).isInstanceOf(NotUnderstood.class);
    }
  }
}
