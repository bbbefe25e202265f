package fiador.standin.serving;

import static fiador.standin.serving.Trial.no;
import static fiador.standin.serving.Trial.run;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.Connection;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Statements of somebody who wants more than they may. */
class HostileTest {
  @TempDir private Path folder;

  private static final String[] TRIED = {
    "SELECT * FROM information_schema.tables",
    "SELECT * FROM \"INFORMATION_SCHEMA\".\"TABLES\"",
    "SELECT * FROM INFORMATION_SCHEMA . tables",
    "SELECT * FROM csvread('/etc/passwd')",
    "SELECT file_read('/etc/passwd')",
    "SELECT * FROM system_range(1, 1000000000)",
    "SELECT database_path()",
    "CALL file_read('/etc/passwd')",
    "SCRIPT TO '/tmp/x.sql'",
    "BACKUP TO '/tmp/x.zip'",
    "CREATE ALIAS x FOR 'java.lang.System.exit'",
    "CREATE TRIGGER x BEFORE INSERT ON dw.s.t CALL 'x'",
    "RUNSCRIPT FROM '/tmp/x.sql'",
    "SHUTDOWN",
    "SET PASSWORD 'x'",
    "SELECT 1; DROP TABLE dw.s.t",
    "SELECT a FROM dw.s.t; SELECT 1",
    "SELECT a FROM dw.s.t INTO OUTFILE '/tmp/x'",
    "SELECT a FROM dw.s.t FOR UPDATE",
    "TABLE dw.s.t",
    "FROM dw.s.t SELECT a",
    "WITH x AS (DELETE FROM dw.s.t) SELECT 1",
    "SELECT * FROM \"ROWS\".\"T1\"",
    "SELECT * FROM t",
    "SELECT E'\\' FROM dw.s.t -- '",
    "SELECT /* ' */ a FROM dw.s.t",
    "SELECT `a` FROM dw.s.t",
    "SELECT [a] FROM dw.s.t",
    "SELECT $$x$$",
    "SELECT @x := 1",
    "SELECT * FROM dw.s.t NATURAL JOIN dw.s.u",
    "SELECT (SELECT max(b) FROM dw.s.u)",
    "SELECT 1 WHERE EXISTS (SELECT 1 FROM dw.s.u)",
    "SELECT a FROM dw.s.t UNION SELECT a FROM dw.s.u",
    "SELECT a FROM dw.s.t ORDER BY (SELECT max(a) FROM dw.s.u)",
    "SELECT a FROM dw.s.t LIMIT (SELECT max(a) FROM dw.s.u)",
    "SELECT a FROM dw.s.t GROUP BY a HAVING max(a) > (SELECT max(a) FROM dw.s.u)",
    "SELECT CASE WHEN 1 IN (SELECT a FROM dw.s.u) THEN 1 END",
    "SELECT sum(a) OVER (ORDER BY (SELECT max(a) FROM dw.s.u)) FROM dw.s.t",
    "SELECT x.a FROM dw.s.t x JOIN LATERAL (SELECT a FROM dw.s.u) y ON true",
    "SELECT x.a FROM dw.s.t x JOIN dw.s.t y ON x.a = (SELECT max(a) FROM dw.s.u)",
    "INSERT INTO dw.s.t SELECT a FROM dw.s.u",
    "INSERT INTO dw.s.t VALUES ((SELECT max(a) FROM dw.s.u))",
    "UPDATE dw.s.t SET a = (SELECT max(a) FROM dw.s.u)",
    "DELETE FROM dw.s.t WHERE a IN (SELECT a FROM dw.s.u)",
    "MERGE INTO dw.s.t USING dw.s.u ON (t.a = u.a) WHEN MATCHED THEN DELETE",
    "TRUNCATE TABLE dw.s.t",
    "EXPLAIN SELECT a FROM dw.s.u",
    "VALUES (SELECT max(a) FROM dw.s.u)",
    "CREATE VIEW dw.s.v AS SELECT a FROM dw.s.u",
    "CREATE VIEW dw.s.v AS SELECT principal_name FROM catalog.principals",
    "SELECT * FROM catalog.permissions",
    "SELECT next value for dw.s.q",
    "SELECT * FROM OLD TABLE (DELETE FROM dw.s.u)",
    "SELECT * FROM FINAL TABLE (UPDATE dw.s.u SET a = 1)",
    "SELECT * FROM dw.s.t, UNNEST(ARRAY(SELECT a FROM dw.s.u)) x",
    "SELECT ARRAY(SELECT a FROM dw.s.u)",
    "SELECT json_arrayagg(a) FROM dw.s.u",
    "SELECT json_array((SELECT max(a) FROM dw.s.u))",
    "SELECT json_object('a': (SELECT max(a) FROM dw.s.u))",
    "SELECT sum(a) OVER w FROM dw.s.t WINDOW w AS (ORDER BY (SELECT max(a) FROM dw.s.u))",
    "SELECT DISTINCT ON ((SELECT max(a) FROM dw.s.u)) a FROM dw.s.t",
    "SELECT a FROM dw.s.t FETCH FIRST (SELECT max(a) FROM dw.s.u) ROWS ONLY",
    "SELECT a FROM dw.s.t OFFSET (SELECT max(a) FROM dw.s.u)",
    "SELECT CAST((SELECT max(a) FROM dw.s.u) AS integer)",
    "SELECT EXTRACT(YEAR FROM (SELECT max(a) FROM dw.s.u))",
    "SELECT a FROM dw.s.t WHERE (a, 1) IN (SELECT a, 1 FROM dw.s.u)",
    "SELECT a FROM dw.s.t WHERE a = ANY (SELECT a FROM dw.s.u)",
    "SELECT TRIM((SELECT max(a) FROM dw.s.u))",
    "SELECT a FROM dw.s.t GROUP BY GROUPING SETS (((SELECT max(a) FROM dw.s.u)))",
    "SELECT listagg(a) WITHIN GROUP (ORDER BY (SELECT max(a) FROM dw.s.u)) FROM dw.s.t",
    "SELECT dw.s.u.a FROM dw.s.t",
    "SELECT a FROM dw.s.t x LEFT JOIN dw.s.u y USING (a)",
    "SELECT a FROM dw.s.t WHERE a NOT IN (WITH q AS (SELECT a FROM dw.s.u) SELECT a FROM q)",
    "WITH RECURSIVE q (a) AS (SELECT a FROM dw.s.u UNION ALL SELECT a FROM q) SELECT a FROM q",
    "SELECT q.a FROM (dw.s.u) q",
    "SELECT a FROM (dw.s.t x CROSS JOIN dw.s.u y)",
    "SELECT (VALUES (SELECT max(a) FROM dw.s.u))",
    "INSERT INTO dw.s.t (a) VALUES (1), ((SELECT max(a) FROM dw.s.u))",
    "INSERT INTO dw.s.u SELECT a FROM dw.s.t",
    "UPDATE dw.s.t SET a = 1 WHERE EXISTS (SELECT 1 FROM dw.s.u WHERE a = 424242)",
    "UPDATE dw.s.t SET a = u.a FROM dw.s.u u",
    "DELETE FROM dw.s.t USING dw.s.u",
    "SELECT nextval('x')",
    "SELECT currval('x')",
    "SELECT session_id()",
    "SELECT h2version()",
    "SELECT link_schema('x', '', 'jdbc:h2:mem:', 'sa', '', 'public')",
    "SELECT table_name FROM \"INFORMATION_SCHEMA\" . \"TABLES\"",
    "SELECT csvwrite('/tmp/x', 'select 1')",
    "SELECT 'a' || U&'\\0027' FROM dw.s.t",
  };

  @Test
  void nothingOfItWorks() throws Exception {
    try (Trial trial = Trial.in(folder)) {
      Connection keeper = trial.keeper();
      run(
          keeper,
          """
          CREATE USER ana PASSWORD 's';
          CREATE DATABASE dw;
          CREATE SCHEMA dw.s;
          CREATE TABLE dw.s.t (a integer);
          CREATE TABLE dw.s.u (a integer);
          INSERT INTO dw.s.t VALUES (7);
          INSERT INTO dw.s.u VALUES (424242);
          GRANT USAGE ON SCHEMA dw.s TO ana;
          GRANT CREATE ON SCHEMA dw.s TO ana;
          GRANT ALL ON TABLE dw.s.t TO ana;
          """);
      Connection ana = trial.as("ana");
      for (String sql : TRIED) {
        assertThat(no(ana, sql))
            .as(sql)
            .startsWith("42")
            .doesNotContain("424242")
            .doesNotContain("ROWS\".\"T");
      }
      assertThat(Trial.rows(keeper, "SELECT a FROM dw.s.t")).containsExactly("7");
      assertThat(Trial.rows(keeper, "SELECT a FROM dw.s.u")).containsExactly("424242");
    }
  }
}
