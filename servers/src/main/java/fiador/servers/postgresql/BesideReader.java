package fiador.servers.postgresql;

import fiador.grants.Seen.Beside;
import fiador.grants.Seen.Tie;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;

/**
 * Reads what roles own and may beside what is surveyed thing by thing: types, parameters, large
 * objects, foreign servers, user mappings, tablespaces, languages and whatever else. The server
 * itself keeps a list of all that goes with a role, and refuses to drop one while there is any.
 */
final class BesideReader {
  /**
   * Grants to others are known from lists of rights, so of default privileges only the maker is.
   */
  private static final String BESIDE =
      """
      select d.refobjid, d.deptype,
             pg_describe_object(d.classid, d.objid, 0)
               || case when d.dbid = 0 then '' else ' in database ' || current_database() end
               as what
        from pg_shdepend d
       where d.refclassid = 'pg_authid'::regclass
         and d.dbid in (0, (select oid from pg_database where datname = current_database()))
         and (d.dbid <> 0 or %s)
         and not (d.classid in ('pg_class'::regclass, 'pg_namespace'::regclass, 'pg_proc'::regclass,
                                'pg_database'::regclass, 'pg_default_acl'::regclass)
                  and d.deptype in ('o', 'a'))
         and d.refobjid >= 16384
       order by 1, 2, 3
      """;

  private final Database database;

  BesideReader(Database database) {
    this.database = database;
  }

  /**
   * Reads it.
   *
   * @param shared whether what belongs to no database is read too
   */
  void read(Connection connection, boolean shared) throws SQLException {
    Sql.rows(connection, BESIDE.formatted(shared), this::row);
  }

  private void row(ResultSet row) throws SQLException {
    int principal = database.principal(row.getLong("refobjid"));
    String what = row.getString("what");
    if (principal >= 0 && what != null) {
      Tie tie =
          switch (row.getString("deptype")) {
            case "o" -> what.startsWith("user mapping") ? Tie.NAMED : Tie.OWNS;
            case "a", "i" -> Tie.MAY;
            default -> Tie.NAMED;
          };
      database.catalog().builder().beside(new Beside(principal, tie, what));
    }
  }
}
