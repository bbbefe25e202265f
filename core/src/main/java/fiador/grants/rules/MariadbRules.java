package fiador.grants.rules;

import static fiador.grants.rules.HouseFact.*;

import fiador.estate.AccountLimit;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.NameRules.Unit;
import java.util.Set;

/**
 * MariaDB. Sources are pages of its documentation, section "Account Management SQL Statements"
 * unless another is named; what was found by trying stands in docs/servers.md.
 */
public final class MariadbRules {
  /** Its kind, as a charter names it. */
  public static final String KIND = "mariadb";

  /** GRANT, "Table Privileges", as far as views have them. */
  private static final long VIEW =
      PrivilegeSet.of(
          Privilege.SELECT,
          Privilege.INSERT,
          Privilege.UPDATE,
          Privilege.DELETE,
          Privilege.DROP,
          Privilege.CREATE_VIEW,
          Privilege.SHOW_VIEW);

  private MariadbRules() {}

  /**
   * The rules of one version.
   *
   * @param minor the minor version: SHOW CREATE ROUTINE exists from 11.3
   */
  public static HouseRules of(int major, int minor) {
    HouseRulesBuilder rules = new HouseRulesBuilder(KIND);
    privileges(rules, major > 11 || major == 11 && minor >= 3);
    return rules
        // GRANT, "Column Privileges"
        .onColumns(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.REFERENCES)
        // "Roles Overview": one role at a time, SET DEFAULT ROLE for the one after login
        .roles(Activation.ONE_AT_A_TIME)
        .names(names())
        // "DECIMAL": 65 digits; attributes are compared as DECIMAL(50,15) (docs/servers.md)
        .numbers(new Numbers(65, 35, 15))
        .waysUp(
            new WaysUp(
                Set.of(),
                // SET PASSWORD: CREATE USER sets those of others
                Privilege.CREATE_USER.bit(),
                // CREATE VIEW and CREATE PROCEDURE: a definer other than oneself
                PrivilegeSet.of(Privilege.SET_USER, Privilege.SUPER),
                null,
                // "The mysql Database Tables"
                "mysql"))
        // CREATE USER, "Resource Limit Options" and "TLS Options"
        .accountLimits(Set.of(AccountLimit.values()))
        .with(
            // GRANT, WITH GRANT OPTION
            GRANT_OPTIONS,
            KEEPS_POLICIES,
            // CREATE USER, "Account Names"
            ACCOUNTS_BY_HOST,
            // CREATE USER ... ACCOUNT LOCK
            LOCKS_ACCOUNTS,
            // RENAME USER: not for roles, and DEFINER stays as it is
            RENAMES_USERS,
            MAKERS_BY_NAME,
            // GRANT, "Database Privileges": for all tables and routines in it
            SCHEMA_GRANTS_REACH_DOWN,
            // GRANT, "Database Privileges": wildcards
            SCHEMA_GRANTS_BY_PATTERN,
            // GRANT, "GRANT TO PUBLIC": as to any role
            OPTION_FOR_EVERYBODY,
            EVERYBODY_HOLDS_ROLES,
            // "SET DEFAULT ROLE"
            DEFAULT_ROLES,
            // GRANT, "The GRANT OPTION Privilege": for all privileges of that level
            OPTION_BY_PLACE,
            // RENAME TABLE: privileges of the old table are not migrated to the new name
            RIGHTS_BY_NAME,
            // CREATE USER, "Account Names": the most specific host wins (docs/servers.md)
            ONE_ROW_COUNTS,
            // found by trying: REVOKE on columns leaves the table's
            COLUMNS_APART,
            // CREATE VIEW, SQL SECURITY: checked when the view is used
            CHECKS_UNDER_VIEWS,
            OWNER_STANDS_FOR_ASKER,
            // CREATE VIEW: "some privilege for each column selected"
            MAKES_VIEWS_OF_ANY_RIGHT,
            // found by trying
            SHARES_COLUMNS_FREELY,
            EXISTENCE_READS_NOTHING,
            // section "Encryption Functions": SHA2
            // found by trying: views and grants know their tables by name
            RENAMES_UNDER_VIEWS,
            GRANTS_STAY_WITH_NAMES,
            DIGESTS,
            // section "Character Sets and Collations": binary collations
            ORDERS_TEXTS,
            // "String Literals", "Escape Sequences"
            BACKSLASHES_ESCAPE,
            // "Comment Syntax": also those that are run
            HASH_COMMENTS,
            COMMENTS_RUN,
            // "Identifier Names"
            DIGITS_BEGIN_NAMES,
            // information_schema.VIEWS, "VIEW_DEFINITION"
            KEEPS_NAMES_QUOTED)
        .build();
  }

  /** GRANT, tables of privileges by level. */
  private static void privileges(HouseRulesBuilder rules, boolean showsRoutines) {
    long table =
        VIEW
            | PrivilegeSet.of(
                Privilege.CREATE,
                Privilege.REFERENCES,
                Privilege.INDEX,
                Privilege.ALTER,
                Privilege.TRIGGER,
                Privilege.DELETE_HISTORY);
    long routine = PrivilegeSet.of(Privilege.EXECUTE, Privilege.ALTER_ROUTINE);
    routine |= showsRoutines ? Privilege.SHOW_CREATE_ROUTINE.bit() : 0;
    long schema =
        table
            | routine
            | PrivilegeSet.of(
                Privilege.CREATE_ROUTINE,
                Privilege.CREATE_TEMPORARY_TABLES,
                Privilege.LOCK_TABLES,
                Privilege.EVENT);
    long server = schema;
    for (Privilege privilege : Privilege.values()) {
      server |= privilege.compareTo(Privilege.RELOAD) >= 0 ? privilege.bit() : 0;
    }
    rules
        .on(NodeKind.SERVER, server)
        .on(NodeKind.SCHEMA, schema)
        .on(NodeKind.TABLE, table)
        .on(NodeKind.VIEW, VIEW)
        .on(
            NodeKind.SEQUENCE,
            Privilege.SELECT,
            Privilege.INSERT,
            Privilege.CREATE,
            Privilege.DROP,
            Privilege.ALTER)
        .on(NodeKind.ROUTINE, routine);
  }

  private static NameRules names() {
    // "Identifier Names": 128 characters for users and roles, 64 for tables; no supplementary
    // characters
    return new NameRules(
        Folding.NONE,
        '`',
        new Length(128, Unit.CHARACTERS),
        new Length(64, Unit.CHARACTERS),
        false,
        false,
        Set.of("", "root", "mariadb.sys"),
        Set.of());
  }
}
