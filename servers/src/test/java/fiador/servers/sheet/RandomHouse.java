package fiador.servers.sheet;

import fiador.files.houses.HouseSheets;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** A random house sheet: the rules differ, how facts are read and written does not. */
final class RandomHouse {
  private static final String REST =
      """

      reading:
        url: 'jdbc:standin'
        everybody: everybody
        words: {all: all}
        principals:
          - query: select * from catalog.principals
            name: '{principal_name}'
            kind: {from: '{principal_type}', values: {person: user, role: role}}
            disabled: '{locked}'
        powers:
          - query: select * from catalog.powers
            name: '{principal_name}'
            power: '{power}'
        containers:
          - query: select * from catalog.databases
            kind: database
            name: '{database_name}'
            owner: '{owner_name}'
            sealed: '{sealed}'
          - query: select * from catalog.schemas
            kind: schema
            database: '{database_name}'
            name: '{schema_name}'
            owner: '{owner_name}'
            sealed: '{sealed}'
        columns:
          - query: select * from catalog.columns
            database: '{database_name}'
            schema: '{schema_name}'
            name: '{object_name}'
            column: '{column_name}'
        objects:
          - query: select * from catalog.objects
            kind: '{object_type}'
            database: '{database_name}'
            schema: '{schema_name}'
            name: '{object_name}'
            owner: '{owner_name}'
            text: '{view_text}'
            reads_as: '{reads_as}'
        memberships:
          - query: select * from catalog.role_members
            member: '{member_name}'
            role: '{role_name}'
            admin: '{may_pass_on}'
            on: '{at_login}'
        grants:
          - query: select * from catalog.permissions
            only: {decision: [allowed]}
            to: '{principal_name}'
            privilege: '{permission}'
            kind: '{object_type}'
            database: '{database_name}'
            schema: '{schema_name}'
            name: '{object_name}'
            column: '{column_name}'
            grantable: '{may_pass_on}'
        labels:
          - query: select * from catalog.labels
            label: '{label_name}'
            kind: '{object_type}'
            database: '{database_name}'
            schema: '{schema_name}'
            name: '{object_name}'
            column: '{column_name}'
        denials:
          - query: select * from catalog.permissions
            only: {decision: [refused]}
            to: '{principal_name}'
            privilege: '{permission}'
            kind: '{object_type}'
            database: '{database_name}'
            schema: '{schema_name}'
            name: '{object_name}'
            column: '{column_name}'

      writing:
        client: anything that speaks to a stand-in
        undoable: false
        words: {server: SERVER, database: DATABASE, schema: SCHEMA, table: TABLE, view: VIEW}
        statements:
          create_role: CREATE ROLE {role}
          drop_role: DROP ROLE {role}
          create_user: CREATE USER {user} PASSWORD {secret}
          create_user_without_secret: CREATE USER {user}
          drop_user: DROP USER {user}
          set_secret: ALTER USER {user} PASSWORD {secret}
          rename_user: ALTER USER {user} RENAME TO {name}
          rename_role: ALTER ROLE {role} RENAME TO {name}
          let_log_in: ALTER USER {user} UNLOCK
          keep_out: ALTER USER {user} LOCK
          give_role: GRANT ROLE {role} TO {member}
          give_role_with_admin: GRANT ROLE {role} TO {member} WITH ADMIN OPTION
          take_admin: REVOKE ADMIN OPTION FOR ROLE {role} FROM {member}
          take_role: REVOKE ROLE {role} FROM {member}
          grant: GRANT {privileges} ON {on} TO {grantee}
          grant_with_option: GRANT {privileges} ON {on} TO {grantee} WITH GRANT OPTION
          revoke: REVOKE {privileges} ON {on} FROM {grantee}
          revoke_option: REVOKE GRANT OPTION FOR {privileges} ON {on} FROM {grantee}
          deny: REFUSE {privileges} ON {on} TO {grantee}
          lift_denial: LIFT {privileges} ON {on} FOR {grantee}
          change_owner: ALTER {on} OWNER TO {owner}
          set_default_role: ALTER USER {user} DEFAULT ROLE {role}
          set_no_default_role: ALTER USER {user} DEFAULT ROLE NONE
          switch_to_role: SET ROLE {role}
          become_user: ACT AS {user}
          ask_rights: WOULD {statement}
      """;

  private static final String SEALED = "    - {on: %s, needs: %s, where: sealed}\n";

  private final String sheet;
  private final boolean databases;
  private final boolean oneAtATime;
  private final boolean rolesOnly;
  private final boolean options;
  private final boolean labels;
  private final String sealed;
  private final String key;

  /** One that comes along. */
  RandomHouse(String shipped) throws IOException {
    sheet = HouseSheets.text(shipped);
    databases = sheet.contains("\n    database: [");
    oneAtATime = sheet.contains("roles: one at a time");
    rolesOnly = sheet.contains("    - roles only\n");
    options = sheet.contains("    - grant options\n");
    labels = sheet.contains("    - labels\n");
    sealed = sheet.contains(SEALED.formatted("schema", "usage")) ? "schema" : null;
    key = "usage";
  }

  /** One that is made up. */
  RandomHouse(long seed) {
    Random random = new Random(seed * 7919);
    databases = random.nextInt(3) > 0;
    boolean denials = random.nextInt(3) > 0;
    oneAtATime = random.nextInt(3) == 0;
    rolesOnly = random.nextInt(3) == 0;
    options = random.nextBoolean();
    int seal = (int) (seed % 4);
    sealed = seal == 0 ? null : seal == 1 && databases ? "database" : "schema";
    key = "database".equals(sealed) ? "connect" : seal == 3 ? "create" : "usage";
    List<String> facts = new ArrayList<>();
    add(facts, denials, "denials");
    add(facts, random.nextInt(3) > 0, "schema grants reach down");
    add(facts, denials && seed % 3 == 2, "denials stay");
    add(facts, random.nextBoolean(), "everybody holds roles");
    add(facts, options, "grant options");
    add(facts, rolesOnly, "roles only");
    add(facts, random.nextBoolean(), "checks under views");
    add(facts, random.nextInt(3) == 0, "owning roles grant nothing");
    add(facts, random.nextInt(3) == 0, "powers grant on");
    add(facts, random.nextInt(3) == 0, "superuser inherited");
    add(facts, random.nextBoolean(), "roles in circles");
    add(facts, true, "locks accounts");
    add(facts, true, "renames users");
    add(facts, true, "renames roles");
    add(facts, true, "changes owners");
    add(facts, true, "columns apart");
    add(facts, true, "runs nothing else");
    add(facts, oneAtATime, "default roles");
    labels = seed % 5 < 3;
    add(facts, labels, "labels");
    StringBuilder rules = new StringBuilder("house: random\nabout: made for a test\n\nrules:\n");
    rules.append("  privileges:\n    server: [connect, create, select]\n");
    if (databases) {
      rules.append("    database: [connect, create, select, insert]\n");
    }
    rules.append("    schema: [usage, create, select, insert, update, delete]\n");
    rules.append("    table: [select, insert, update, delete, references]\n");
    rules.append("    view: [select]\n    columns: [select, insert, update, references]\n");
    rules.append("  gates:\n");
    int gates = random.nextInt(4);
    if (gates == 0) {
      rules.append("    - {on: server, needs: connect, when: login}\n");
    }
    if (databases && gates < 3) {
      rules.append("    - {on: database, needs: connect, when: ");
      rules.append(random.nextBoolean() ? "login" : "use");
      rules.append(random.nextBoolean() ? ", own: true}\n" : "}\n");
    }
    rules.append("    - {on: schema, needs: usage, own: ").append(random.nextBoolean());
    rules.append("}\n");
    rules.append(sealed == null ? "" : SEALED.formatted(sealed, key));
    rules.append("  roles: ").append(oneAtATime ? "one at a time" : "all on");
    String[] owners = {"object", "schema", "none"};
    rules.append("\n  owners: ").append(owners[random.nextInt(3)]);
    rules.append(
        "\n  powers:\n    read everything:\n      table: [select]\n      view: [select]\n");
    rules.append("  names:\n    unquoted: none\n    quote: '\"'\n    principals: 128 characters\n");
    rules.append("    things: 128 characters\n  so:\n");
    facts.forEach(fact -> rules.append("    - ").append(fact).append('\n'));
    sheet = rules + REST.indent(0);
  }

  private static void add(List<String> facts, boolean so, String fact) {
    if (so) {
      facts.add(fact);
    }
  }

  String sheet() {
    return sheet;
  }

  boolean databases() {
    return databases;
  }

  boolean oneAtATime() {
    return oneAtATime;
  }

  boolean rolesOnly() {
    return rolesOnly;
  }

  /** What kind of container is sealed here; null for none. */
  String sealed() {
    return sealed;
  }

  /** What lets people in where it is. */
  String key() {
    return key;
  }

  boolean labels() {
    return labels;
  }

  boolean options() {
    return options;
  }
}
