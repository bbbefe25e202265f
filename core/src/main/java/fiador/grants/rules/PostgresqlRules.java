package fiador.grants.rules;

import static fiador.grants.rules.HouseFact.*;

import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.NameRules.Unit;
import java.util.EnumMap;
import java.util.Map;
import java.util.Set;

/**
 * PostgreSQL. Sources are chapters and reference pages of its manual; what was found by trying
 * stands in docs/servers.md.
 */
public final class PostgresqlRules {
  /** Its kind, as a charter names it. */
  public static final String KIND = "postgresql";

  private PostgresqlRules() {}

  /**
   * The rules of one major version: inherit is a matter of the member until 15, of the membership
   * from 16; MAINTAIN exists from 17.
   */
  public static HouseRules of(int major) {
    HouseRulesBuilder rules = new HouseRulesBuilder(KIND);
    privileges(rules, major);
    powers(rules);
    roles(rules, major);
    return rules
        // GRANT: "a table's columns"
        .onColumns(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.REFERENCES)
        // chapter "Privileges": CONNECT is checked as the connection starts, USAGE of a schema with
        // each statement
        .gate(new Gate(NodeKind.DATABASE, Privilege.CONNECT, true, true))
        .gate(new Gate(NodeKind.SCHEMA, Privilege.USAGE, false, false))
        // chapter "Privileges": the right to alter or drop, and all privileges, are the owner's
        .owners(Ownership.OBJECT)
        // chapter "Overview of System Catalogs", allow_system_table_mods
        .guarded(
            Privilege.INSERT,
            Privilege.UPDATE,
            Privilege.DELETE,
            Privilege.TRUNCATE,
            Privilege.USAGE)
        // section "System Columns"
        // CREATE ROLE, "CONNECTION LIMIT"
        .accountLimits(Set.of(AccountLimit.CONNECTIONS))
        .systemColumns("tableoid", "cmax", "xmax", "cmin", "xmin", "ctid")
        .names(names())
        .waysUp(
            // section "Predefined Roles"
            new WaysUp(
                Set.of("pg_execute_server_program", "pg_write_server_files"), 0, 0, null, null))
        .with(
            // ALTER DEFAULT PRIVILEGES
            LATER_GRANTS,
            ROUTINES_OPEN_TO_ALL,
            // GRANT, WITH GRANT OPTION
            GRANT_OPTIONS,
            KEEPS_POLICIES,
            // GRANT, notes: "a role must have been the grantor"
            GRANTORS_COUNT,
            // GRANT, notes: column privileges add to those of the table
            COLUMNS_APART,
            // data definition is transactional
            CHANGES_IN_ONE_GO,
            // ALTER TABLE ... OWNER TO
            CHANGES_OWNERS,
            // CREATE VIEW, notes: access to what lies under is checked as the owner
            CHECKS_UNDER_VIEWS,
            // found by trying: CREATE VIEW looks the names up, and checks no privilege
            MAKES_VIEWS_OF_ANYTHING,
            // GRANT, "SELECT FOR UPDATE"
            LOCKS_TAKE_UPDATE,
            // section "Row Security Policies"
            FILTERS_ROWS,
            // "Session Information Functions": inet_client_addr; application_name
            TELLS_APPLICATION,
            TELLS_ADDRESS,
            // CREATE TRIGGER, "INSTEAD OF"
            WRITES_THROUGH_VIEWS,
            // found by trying: views know their tables by number
            RENAMES_UNDER_VIEWS,
            VIEWS_FOLLOW_TABLES,
            // section "Binary String Functions": sha256
            DIGESTS,
            // section "Collation Support": "C"
            ORDERS_TEXTS,
            // section "Lexical Structure": the four kinds of string constants, comments
            ESCAPE_TEXTS,
            CODE_POINTS,
            DOLLAR_TEXTS,
            COMMENTS_NEST)
        .build();
  }

  private static void privileges(HouseRulesBuilder rules, int major) {
    // chapter "Privileges", table of access privileges
    long table =
        PrivilegeSet.of(
            Privilege.SELECT,
            Privilege.INSERT,
            Privilege.UPDATE,
            Privilege.DELETE,
            Privilege.TRUNCATE,
            Privilege.REFERENCES,
            Privilege.TRIGGER);
    long relation = major >= 17 ? table | Privilege.MAINTAIN.bit() : table;
    rules
        .on(NodeKind.DATABASE, Privilege.CREATE, Privilege.CONNECT, Privilege.TEMPORARY)
        .on(NodeKind.SCHEMA, Privilege.CREATE, Privilege.USAGE)
        .on(NodeKind.TABLE, relation)
        .on(NodeKind.MATERIALIZED_VIEW, relation)
        .on(NodeKind.VIEW, relation)
        .on(NodeKind.SEQUENCE, Privilege.USAGE, Privilege.SELECT, Privilege.UPDATE)
        .on(NodeKind.ROUTINE, Privilege.EXECUTE);
  }

  /** Section "Predefined Roles": pg_read_all_data, pg_write_all_data, pg_maintain. */
  private static void powers(HouseRulesBuilder rules) {
    long writes = PrivilegeSet.of(Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE);
    rules
        .power(Power.READ_EVERYTHING, relations(Privilege.SELECT.bit(), Privilege.SELECT.bit()))
        .power(Power.WRITE_EVERYTHING, relations(writes, Privilege.UPDATE.bit()))
        .power(Power.MAINTAIN_EVERYTHING, tables(Privilege.MAINTAIN.bit()));
  }

  private static Map<NodeKind, Long> tables(long table) {
    return Map.of(NodeKind.TABLE, table, NodeKind.MATERIALIZED_VIEW, table, NodeKind.VIEW, table);
  }

  private static Map<NodeKind, Long> relations(long table, long sequence) {
    Map<NodeKind, Long> kinds = new EnumMap<>(tables(table));
    kinds.put(NodeKind.SEQUENCE, sequence);
    kinds.put(NodeKind.SCHEMA, Privilege.USAGE.bit());
    return kinds;
  }

  private static void roles(HouseRulesBuilder rules, int major) {
    rules.with(
        // CREATE ROLE: one namespace, users are roles that can log in
        USERS_ARE_ROLES,
        // ALTER ROLE ... NOLOGIN
        LOCKS_ACCOUNTS,
        // ALTER ROLE: CREATEROLE, CREATEDB, BYPASSRLS, REPLICATION
        SETS_POWERS,
        // ALTER ROLE: RENAME TO
        RENAMES_USERS,
        RENAMES_ROLES,
        // CREATE ROLE ... VALID UNTIL: "only sets the password's expiration"
        ENDS_ACCOUNTS,
        ONLY_SECRETS_END,
        // pg_has_role: true for superusers whatever the role
        SUPERUSERS_HOLD_ALL_ROLES);
    if (major >= 16) {
      // GRANT on roles, of 16: WITH INHERIT, SET and ADMIN each membership's; GRANTED BY is kept
      rules.roles(Activation.PER_MEMBERSHIP).with(MEMBERSHIPS_BY_GRANTOR);
    } else {
      // chapter "Role Attributes", of 15: CREATEROLE may grant any role that is no superuser
      rules.roles(Activation.PER_MEMBER).with(MANAGERS_TAKE_ANY_ROLE);
    }
  }

  private static NameRules names() {
    // section "Identifiers and Key Words": NAMEDATALEN - 1 bytes are kept, and letters folded
    Length length = new Length(63, Unit.BYTES);
    // CREATE ROLE refuses names that begin with pg_; a role that is called PUBLIC cannot be told
    // apart from everybody in a statement without quotes
    return new NameRules(
        Folding.LOWER, '"', length, length, true, true, Set.of("PUBLIC"), Set.of("pg_"));
  }
}
