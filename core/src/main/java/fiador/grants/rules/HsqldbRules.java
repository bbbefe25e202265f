package fiador.grants.rules;

import static fiador.grants.rules.HouseFact.*;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.NameRules.Unit;
import java.util.Set;

/**
 * HSQLDB 2.7: no gates, all roles on, a schema's owner owns what is in it, role DBA is all. Sources
 * are sections of its guide, chapter "Access Control" unless another is named; what was found by
 * trying stands in docs/servers.md.
 */
public final class HsqldbRules {
  /** Its kind, as a charter names it. */
  public static final String KIND = "hsqldb";

  private HsqldbRules() {}

  /** The rules; one version is known. */
  public static HouseRules rules() {
    return new HouseRulesBuilder(KIND)
        // "Access Rights"
        .on(NodeKind.TABLE, relation())
        .on(NodeKind.VIEW, relation())
        .on(NodeKind.SEQUENCE, Privilege.USAGE)
        .on(NodeKind.ROUTINE, Privilege.EXECUTE)
        .onColumns(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE)
        // "Access Rights": TRIGGER comes with ALL PRIVILEGES only
        .neverGranted(Privilege.TRIGGER)
        // "Roles": all roles of a user count, always
        .roles(Activation.ALL_ON)
        // "Schemas" of chapter "Schemas and Database Objects": the owner of the schema owns it all
        .owners(Ownership.SCHEMA)
        .names(names())
        // attributes are compared as DECIMAL(50,15) (docs/servers.md)
        .numbers(new Numbers(Integer.MAX_VALUE, 35, 15))
        // "Built-In Roles and Users": CHANGE_AUTHORIZATION
        .waysUp(new WaysUp(Set.of(), 0, 0, "CHANGE_AUTHORIZATION", null))
        .with(
            // "Built-In Roles and Users": whoever holds DBA is an administrator
            SUPERUSER_INHERITED,
            // "Statements for Access Control": WITH GRANT OPTION
            GRANT_OPTIONS,
            KEEPS_POLICIES,
            // "Statements for Access Control": a grantee is PUBLIC or an identifier
            OPTION_FOR_EVERYBODY,
            // found by trying: SELECT COUNT(*) needs any right on the table
            ANY_RIGHT_COUNTS_ROWS,
            // chapter "Data Access", "Updatable Views": INSTEAD OF
            WRITES_THROUGH_VIEWS,
            // found by trying
            WRITES_THROUGH_AS_MAKER,
            // found by trying: MERGE falls over without UPDATE
            MERGE_TAKES_UPDATE,
            // found by trying
            SHARES_COLUMNS_OF_VIEWS_FREELY,
            // found by trying: CREATE VIEW fails on such columns
            NO_VIEWS_OF_QUOTES,
            // chapter "SQL Language", "Literals": U&'...'
            CODE_POINTS,
            // dates are kept in the hybrid calendar
            SKIPS_JULIAN_DAYS)
        .build();
  }

  private static Privilege[] relation() {
    return new Privilege[] {
      Privilege.SELECT,
      Privilege.INSERT,
      Privilege.UPDATE,
      Privilege.DELETE,
      Privilege.REFERENCES,
      Privilege.TRIGGER
    };
  }

  private static NameRules names() {
    // chapter "SQL Language", "Identifiers": 128 characters, unquoted ones in upper case
    Length length = new Length(128, Unit.CHARACTERS);
    // "Built-In Roles and Users"
    Set<String> own =
        Set.of("SA", "DBA", "_SYSTEM", "CREATE_SCHEMA", "CHANGE_AUTHORIZATION", "SCRIPT_OPS");
    return new NameRules(Folding.UPPER, '"', length, length, true, true, own, Set.of());
  }
}
