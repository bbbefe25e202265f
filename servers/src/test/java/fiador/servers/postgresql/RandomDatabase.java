package fiador.servers.postgresql;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/** What is in one database. */
final class RandomDatabase {
  private final RandomEstate estate;
  private final Connection connection;
  private final List<String> schemas = new ArrayList<>();
  private final List<String> relations = new ArrayList<>();
  private final List<String> readable = new ArrayList<>();
  private final List<String> sequences = new ArrayList<>();
  private final List<String> routines = new ArrayList<>();

  RandomDatabase(RandomEstate estate, Connection connection) {
    this.estate = estate;
    this.connection = connection;
  }

  private void sql(String text) throws SQLException {
    estate.run(connection, text);
  }

  void build() throws SQLException {
    schemas();
    if (estate.chance(70)) {
      laterGrants();
    }
    for (int i = 0; i < 40; i++) {
      object(i);
    }
    partitions();
    for (int i = 0; i < 130; i++) {
      grant();
    }
    for (int i = 0; i < 25; i++) {
      revoke();
    }
    if (estate.chance(50)) {
      sql("ALTER TABLE " + estate.any(readable) + " DROP COLUMN c2");
    }
  }

  private void schemas() throws SQLException {
    schemas.add("public");
    for (int i = 0; i < 5; i++) {
      String name = RandomEstate.q(estate.odd("s", i));
      schemas.add(name);
      sql(
          "CREATE SCHEMA "
              + name
              + " AUTHORIZATION "
              + (estate.chance(15) ? "pg_database_owner" : estate.somebody()));
    }
    for (String schema : schemas) {
      if (estate.chance(40)) {
        sql("GRANT USAGE ON SCHEMA " + schema + " TO PUBLIC");
      }
      for (int i = 0; i < 7; i++) {
        sql(
            "GRANT "
                + estate.any("USAGE", "USAGE", "CREATE", "ALL")
                + " ON SCHEMA "
                + schema
                + " TO "
                + estate.anyone()
                + estate.option());
      }
    }
  }

  private void laterGrants() throws SQLException {
    for (int i = 0; i < 5; i++) {
      String in = estate.chance(60) ? " IN SCHEMA " + estate.any(schemas) : "";
      sql(
          "ALTER DEFAULT PRIVILEGES"
              + in
              + estate.any(
                  " GRANT SELECT ON TABLES TO ", " GRANT ALL ON SEQUENCES TO ",
                  " GRANT EXECUTE ON ROUTINES TO ", " GRANT INSERT, DELETE ON TABLES TO ")
              + estate.anyone());
    }
    if (estate.chance(50)) {
      sql("ALTER DEFAULT PRIVILEGES REVOKE EXECUTE ON ROUTINES FROM PUBLIC");
    }
  }

  private void object(int i) throws SQLException {
    String name = estate.any(schemas) + "." + RandomEstate.q(estate.odd("o", i));
    int dice = i < 12 ? 0 : estate.random.nextInt(12);
    switch (dice) {
      case 0, 1, 2, 3 -> {
        sql("CREATE TABLE " + name + " (c0 int, c1 text, c2 int, \"odd Col\"\"umn\" int)");
        relations.add(name);
        readable.add(name);
      }
      case 4, 5, 6 -> view(name);
      case 7 -> {
        sql("CREATE MATERIALIZED VIEW " + name + " AS SELECT 1 AS c0, 2 AS c1");
        relations.add(name);
      }
      case 8, 9 -> {
        sql("CREATE SEQUENCE " + name);
        sequences.add(name);
      }
      case 10 -> {
        sql("CREATE FUNCTION " + name + "(a int, b text) RETURNS int LANGUAGE sql AS 'SELECT 1'");
        routines.add("FUNCTION " + name + "(int, text)");
      }
      default -> {
        sql("CREATE PROCEDURE " + name + "(a int, OUT b int) LANGUAGE sql AS 'SELECT 1'");
        routines.add("ROUTINE " + name);
      }
    }
    if (estate.chance(80)) {
      String kind =
          dice < 4
              ? "TABLE"
              : dice < 7
                  ? "VIEW"
                  : dice == 7 ? "MATERIALIZED VIEW" : dice < 10 ? "SEQUENCE" : "ROUTINE";
      sql(
          "ALTER "
              + kind
              + " "
              + name
              + " OWNER TO "
              + (estate.chance(8) ? "pg_database_owner" : estate.somebody()));
    }
  }

  private void view(String name) throws SQLException {
    String options =
        estate.major >= 15 && estate.chance(40) ? " WITH (security_invoker = true)" : "";
    String columns = estate.any("c0, c1", "c0 + 1 AS c0, c1", "c0, 'x'::text AS c1");
    String from = estate.any(readable);
    String body = "SELECT " + columns + " FROM " + from;
    if (estate.chance(20)) {
      body = "SELECT count(*)::int AS c0, 'n'::text AS c1 FROM " + from;
    } else if (estate.chance(20)) {
      body = "SELECT a.c0, b.c1 FROM " + from + " a, " + estate.any(readable) + " b";
    } else if (!routines.isEmpty() && routines.get(0).startsWith("FUNCTION") && estate.chance(50)) {
      String function = routines.get(0).substring(9).replace("(int, text)", "(1, 'x')");
      body = "SELECT " + function + " AS c0, c1 FROM " + from;
    }
    sql("CREATE VIEW " + name + options + " AS " + body);
    relations.add(name);
    readable.add(name);
  }

  private void partitions() throws SQLException {
    String parent = estate.any(schemas) + ".parent";
    sql("CREATE TABLE " + parent + " (c0 int, c1 text) PARTITION BY LIST (c0)");
    sql(
        "CREATE TABLE "
            + estate.any(schemas)
            + ".part PARTITION OF "
            + parent
            + " FOR VALUES IN (1)");
    sql("ALTER TABLE " + parent + " OWNER TO " + estate.somebody());
    relations.add(parent);
  }

  private void grant() throws SQLException {
    int dice = estate.random.nextInt(20);
    String what;
    if (dice < 9) {
      what = estate.any(RandomEstate.TABLE_PRIVILEGES) + " ON TABLE " + estate.any(relations);
    } else if (dice < 14) {
      what =
          estate.any(RandomEstate.COLUMN_PRIVILEGES)
              + " ("
              + estate.any("c0", "c1", "c0, c1", "c2", "ctid")
              + ") ON TABLE "
              + estate.any(relations);
    } else if (dice < 16 && !sequences.isEmpty()) {
      what =
          estate.any("USAGE", "SELECT", "UPDATE", "ALL") + " ON SEQUENCE " + estate.any(sequences);
    } else if (dice < 18 && !routines.isEmpty()) {
      what = "EXECUTE ON " + estate.any(routines);
    } else if (dice == 18) {
      what = estate.any("SELECT", "ALL") + " ON ALL TABLES IN SCHEMA " + estate.any(schemas);
    } else {
      what = "USAGE ON SCHEMA " + estate.any(schemas);
    }
    if (estate.major >= 17 && estate.chance(8)) {
      what = "MAINTAIN ON TABLE " + estate.any(relations);
    }
    String statement = "GRANT " + what + " TO " + estate.anyone() + estate.option();
    if (estate.chance(20)) {
      // by somebody who may or may not have the grant option
      sql("SET SESSION AUTHORIZATION " + estate.somebody());
      sql(statement);
      sql("RESET SESSION AUTHORIZATION");
    } else {
      sql(statement);
    }
  }

  private void revoke() throws SQLException {
    int dice = estate.random.nextInt(10);
    if (dice < 4) {
      // an owner may take rights from themselves and keeps the grant option
      sql(
          "DO $$ DECLARE o text; BEGIN SELECT quote_ident(rolname) INTO o FROM pg_class c JOIN"
              + " pg_roles r ON r.oid = relowner WHERE c.oid = "
              + literal(estate.any(relations))
              + "::regclass; EXECUTE 'REVOKE "
              + estate.any("SELECT", "INSERT", "ALL")
              + " ON TABLE ' || "
              + literal(estate.any(relations))
              + " || ' FROM ' || o; END $$");
    } else if (dice < 6 && !routines.isEmpty()) {
      sql("REVOKE EXECUTE ON " + estate.any(routines) + " FROM PUBLIC");
    } else if (dice < 7) {
      sql("REVOKE SELECT (c0) ON TABLE " + estate.any(relations) + " FROM " + estate.anyone());
    } else {
      sql(
          "REVOKE "
              + estate.any(RandomEstate.TABLE_PRIVILEGES)
              + " ON TABLE "
              + estate.any(relations)
              + " FROM "
              + estate.anyone()
              + estate.any("", " CASCADE"));
    }
  }

  private String literal(String text) {
    return "E'" + text.replace("\\", "\\\\").replace("'", "''") + "'";
  }
}
