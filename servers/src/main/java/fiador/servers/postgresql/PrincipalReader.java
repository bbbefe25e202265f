package fiador.servers.postgresql;

import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Secret;
import fiador.grants.Membership;
import fiador.grants.Seen;
import fiador.grants.Terms;
import fiador.servers.jdbc.Sql;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;

/** Reads what belongs to the whole server: roles, memberships, databases. */
final class PrincipalReader {
  private static final String ROLES =
      """
      select oid, rolname, rolcanlogin, rolsuper, rolcreaterole, rolcreatedb, rolbypassrls,
             rolreplication, rolinherit, case when isfinite(rolvaliduntil) then rolvaliduntil end as until,
             rolconnlimit,
             shobj_description(oid, 'pg_authid') as comment
        from pg_roles
       where oid <> 6171
       order by oid
      """;

  private static final String READS_SECRETS =
      "select has_table_privilege('pg_catalog.pg_authid', 'select')";

  /** A secret that is not there says nothing: the account may prove itself by other means. */
  private static final String SECRETS =
      """
      select rolname, rolpassword like 'SCRAM-SHA-256$%' as sound from pg_catalog.pg_authid
       where rolcanlogin and rolpassword is not null
      """;

  /** Until 15 whether a membership is on without switching is a matter of the member. */
  private static final String MEMBERSHIPS_14 =
      """
      select m.member, m.roleid, m.grantor, m.admin_option,
             u.rolinherit as inherit_option, true as set_option
        from pg_auth_members m join pg_roles u on u.oid = m.member
       order by m.member, m.roleid, m.grantor
      """;

  private static final String MEMBERSHIPS_16 =
      """
      select member, roleid, grantor, admin_option, inherit_option, set_option
        from pg_auth_members
       order by member, roleid, grantor
      """;

  private static final String DATABASES =
      """
      select d.oid, d.datname, d.datdba, d.datallowconn, o.rolinherit
        from pg_database d join pg_roles o on o.oid = d.datdba
       order by d.datname
      """;

  private final Catalog catalog;
  private final EstateBuilder estate;
  private final Map<String, Secret> secrets = new HashMap<>();

  PrincipalReader(Catalog catalog) {
    this.catalog = catalog;
    this.estate = catalog.builder().estate();
  }

  /** Reads all of it; gives the databases by name. */
  Map<String, Database> read(Connection connection, String serverName) throws SQLException {
    Sql.rows(
        connection,
        READS_SECRETS,
        row -> {
          if (row.getBoolean(1)) {
            Sql.rows(
                connection,
                SECRETS,
                each ->
                    secrets.put(
                        each.getString(1), each.getBoolean(2) ? Secret.SOUND : Secret.OUTDATED));
          } else {
            String why = "the login may not read pg_authid";
            catalog.builder().unseen(new Seen.Unseen(Seen.SECRETS, why));
          }
        });
    Sql.rows(connection, ROLES, this::role);
    String memberships = catalog.major() >= 16 ? MEMBERSHIPS_16 : MEMBERSHIPS_14;
    Sql.rows(connection, memberships, this::membership);
    estate.node(None.NODE, NodeKind.SERVER, serverName, None.PRINCIPAL);
    Map<String, Database> databases = new LinkedHashMap<>();
    Sql.rows(connection, DATABASES, row -> databases.put(row.getString(2), database(row)));
    return databases;
  }

  private void role(ResultSet row) throws SQLException {
    String name = row.getString("rolname");
    int powers =
        bit(row, "rolsuper", Power.SUPERUSER)
            | bit(row, "rolcreaterole", Power.MANAGE_ROLES)
            | bit(row, "rolcreatedb", Power.CREATE_DATABASES)
            | bit(row, "rolbypassrls", Power.BYPASS_ROW_POLICIES)
            | bit(row, "rolreplication", Power.REPLICATION)
            | predefined(name);
    PrincipalKind kind = row.getBoolean("rolcanlogin") ? PrincipalKind.USER : PrincipalKind.ROLE;
    int id = estate.principal(kind, name, powers, None.NODE);
    catalog.principals().put(row.getLong("oid"), id);
    Timestamp until = row.getTimestamp("until");
    int connections = Math.min(row.getInt("rolconnlimit"), Integer.MAX_VALUE - 1);
    estate.account(
        id,
        new Account(
            false,
            until == null ? null : until.toInstant(),
            row.getString("comment"),
            catalog.major() < 16 && !row.getBoolean("rolinherit"),
            secrets.getOrDefault(name, Secret.UNKNOWN),
            null,
            connections < 0 ? Map.of() : Map.of(AccountLimit.CONNECTIONS, connections)));
  }

  private static int bit(ResultSet row, String column, Power power) throws SQLException {
    return row.getBoolean(column) ? power.bit() : 0;
  }

  /** What the predefined roles open; source: the manual's chapter "Predefined Roles". */
  private static int predefined(String name) {
    return switch (name) {
      case "pg_read_all_data" -> Power.READ_EVERYTHING.bit();
      case "pg_write_all_data" -> Power.WRITE_EVERYTHING.bit();
      case "pg_maintain" -> Power.MAINTAIN_EVERYTHING.bit();
      default -> 0;
    };
  }

  private void membership(ResultSet row) throws SQLException {
    catalog
        .builder()
        .member(
            catalog.principals().get(row.getLong("member")),
            catalog.principals().get(row.getLong("roleid")),
            Membership.of(
                row.getBoolean("admin_option"),
                row.getBoolean("inherit_option"),
                row.getBoolean("set_option")),
            catalog.principals().get(row.getLong("grantor")));
  }

  private Database database(ResultSet row) throws SQLException {
    int owner = catalog.principals().get(row.getLong("datdba"));
    int node = estate.node(Catalog.SERVER, NodeKind.DATABASE, row.getString("datname"), owner);
    estate.fact(node, NodeFact.UNREAD);
    if (!row.getBoolean("datallowconn")) {
      estate.fact(node, NodeFact.CLOSED);
    }
    catalog.databases().put(row.getLong("oid"), node);
    int local = estate.principal(PrincipalKind.ROLE, "pg_database_owner", 0, node);
    boolean inherit = catalog.major() >= 16 || row.getBoolean("rolinherit");
    catalog
        .builder()
        .member(
            owner,
            local,
            new Membership(false, inherit, true, Terms.FOREVER, true),
            None.PRINCIPAL);
    return new Database(catalog, node, local);
  }
}
