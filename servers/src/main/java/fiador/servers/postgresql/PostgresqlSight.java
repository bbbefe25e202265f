package fiador.servers.postgresql;

import fiador.changes.steps.FilterRows;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.SafeView;
import fiador.policies.RowPolicy;
import fiador.policies.SightText;
import fiador.servers.policies.MaskSql;
import fiador.servers.policies.SightStatements;
import java.util.ArrayList;
import java.util.List;

/** Policies on PostgreSQL: rows by row level security, masks by views. */
final class PostgresqlSight extends SightStatements {
  /** Without a permissive policy row level security shows nothing at all. */
  static final String OPEN = "fiador open";

  @Override
  protected MaskSql writer(String qualifier) {
    return new PostgresqlSightSql(qualifier);
  }

  @Override
  protected String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  @Override
  protected List<String> makeGuard() {
    return List.of(
        "CREATE SCHEMA fiador_guard",
        "CREATE TABLE fiador_guard.attributes (user_name text, attribute text, value text,"
            + " PRIMARY KEY (user_name, attribute, value))",
        "CREATE VIEW fiador_guard.own_attributes WITH (security_barrier = true) AS"
            + " SELECT a.attribute, a.value FROM fiador_guard.attributes a"
            + " WHERE a.user_name = SESSION_USER::text",
        "CREATE TABLE fiador_guard.kept (schema_name text, object_name text, table_schema text,"
            + " table_name text, policies text, stored text,"
            + " PRIMARY KEY (schema_name, object_name))",
        "CREATE TABLE fiador_guard.digest_key (value bytea)",
        "INSERT INTO fiador_guard.digest_key SELECT sha256(convert_to("
            + "gen_random_uuid()::text || gen_random_uuid()::text, 'UTF8'))",
        closed("fiador_guard.attributes"),
        closed("fiador_guard.own_attributes"),
        closed("fiador_guard.kept"),
        closed("fiador_guard.digest_key"),
        "GRANT USAGE ON SCHEMA fiador_guard TO PUBLIC",
        "GRANT SELECT ON fiador_guard.own_attributes TO PUBLIC");
  }

  @Override
  protected String dropGuard() {
    return "DROP SCHEMA fiador_guard CASCADE";
  }

  /** Default privileges may have opened what is new, to be read or even written through. */
  @Override
  protected List<String> closeNew(String name) {
    return List.of(closed(name));
  }

  private String closed(String name) {
    String body =
        """
        DECLARE
          given record;
        BEGIN
          FOR given IN
            SELECT DISTINCT CASE WHEN a.grantee = 0 THEN 'PUBLIC'
                                 ELSE quote_ident(pg_get_userbyid(a.grantee)) END AS grantee
              FROM pg_class c, aclexplode(c.relacl) a
             WHERE c.oid = %s::regclass AND a.grantee <> c.relowner
          LOOP
            EXECUTE format('REVOKE ALL ON %%s FROM %%s', %s::regclass, given.grantee);
          END LOOP;
        END
        """
            .formatted(writer("").literal(name), writer("").literal(name));
    return "DO " + writer("").literal(body);
  }

  @Override
  protected List<String> openGuarded(String name) {
    return List.of("GRANT SELECT ON " + name + " TO PUBLIC");
  }

  @Override
  public String makeView(String name, boolean replace, boolean guarded) {
    return "CREATE OR REPLACE VIEW " + name + " WITH (security_barrier = true)";
  }

  /** The text of a view, with its options, by which it could be opened too. */
  static final String VIEW_TEXT =
      """
      pg_get_viewdef(c.oid) || coalesce(array_to_string(c.reloptions, ','), '')
        || coalesce((select string_agg(pg_get_triggerdef(t.oid) || t.tgenabled::text, e'\\n'
                                       order by t.tgname)
                       from pg_trigger t where t.tgrelid = c.oid and not t.tgisinternal), '')""";

  /** The texts of the policies that were made here. */
  static final String POLICY_TEXTS =
      """
      (select string_agg(concat_ws(' ', p.polname, p.polpermissive, p.polcmd, p.polroles,
                                   pg_get_expr(p.polqual, p.polrelid),
                                   pg_get_expr(p.polwithcheck, p.polrelid)), e'\\n' order by p.polname)
         from pg_policy p
        where p.polrelid = c.oid
          and (p.polname = 'fiador open'
               or strpos(e'\\n' || k.policies, e'\\nany\\t' || p.polname || e'\\t') > 0
               or strpos(e'\\n' || k.policies, e'\\nall\\t' || p.polname || e'\\t') > 0))
        || c.relrowsecurity::text || c.relforcerowsecurity::text""";

  /** Subscribers of what is published know the table by its name, and would lose it. */
  @Override
  protected List<String> rename(MoveTable move, String from, String to) {
    String body =
        """
        BEGIN
          IF EXISTS (SELECT FROM pg_publication_tables p
                       JOIN pg_namespace n ON n.nspname = p.schemaname
                       JOIN pg_class c ON c.relnamespace = n.oid AND c.relname = p.tablename
                      WHERE c.oid = %s::regclass) THEN
            RAISE EXCEPTION '%% is published, and subscribers know it by its name: let its view'
              ' stand beside it', %s::regclass USING ERRCODE = 'object_in_use';
          END IF;
        END
        """
            .formatted(writer("").literal(from), writer("").literal(from));
    return List.of("DO " + writer("").literal(body), "ALTER TABLE " + from + " RENAME TO " + to);
  }

  @Override
  protected List<String> make(SafeView view, boolean replace) {
    return new SafeViewSql(this::quoted).make(view, path(view.view()), path(view.table()));
  }

  @Override
  protected String storedView(String schema, String name) {
    return "SELECT " + VIEW_TEXT + from(schema, name);
  }

  private static String from(String schema, String name) {
    return " FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE n.nspname = "
        + schema
        + " AND c.relname = "
        + name;
  }

  @Override
  public List<String> filterRows(FilterRows step) {
    String table = path(step.table());
    List<RowPolicy> before = SightText.read(step.before(), step.columns()).rows();
    List<RowPolicy> after = SightText.read(step.after(), step.columns()).rows();
    List<String> statements = new ArrayList<>();
    statements.add(forget(step.table()));
    // whatever somebody did to them by hand meanwhile
    if (!before.isEmpty()) {
      names(before)
          .forEach(
              name -> statements.add("DROP POLICY IF EXISTS " + quoted(name) + " ON " + table));
    }
    MaskSql sql = writer("");
    for (RowPolicy policy : after) {
      String shown = sql.predicate(policy.condition());
      String written = policy.bindsWriting() ? shown : "true";
      statements.add(create(policy.name(), table, policy.any(), shown, written));
    }
    if (!after.isEmpty() && after.stream().noneMatch(RowPolicy::any)) {
      statements.add(create(OPEN, table, true, "true", "true"));
    }
    boolean on = !after.isEmpty();
    statements.add("ALTER TABLE " + table + (on ? " ENABLE" : " DISABLE") + " ROW LEVEL SECURITY");
    if (on) {
      List<String> parts = step.table().parts();
      String schema = sql.literal(parts.get(parts.size() - 2));
      String name = sql.literal(parts.get(parts.size() - 1));
      String stored =
          "SELECT "
              + POLICY_TEXTS.replace("k.policies", sql.literal(step.after()))
              + from(schema, name);
      statements.add(keep(step.table(), step.table(), step.after(), stored));
    }
    return statements;
  }

  private static List<String> names(List<RowPolicy> policies) {
    List<String> names = new ArrayList<>(policies.stream().map(RowPolicy::name).toList());
    if (policies.stream().noneMatch(RowPolicy::any)) {
      names.add(OPEN);
    }
    return names;
  }

  /**
   * Makes one rule.
   *
   * @param written which rows may be added, and what rows may be changed to
   */
  private String create(String name, String table, boolean any, String using, String written) {
    return "CREATE POLICY "
        + quoted(name)
        + " ON "
        + table
        + (any ? "" : " AS RESTRICTIVE")
        + " USING ("
        + using
        + ") WITH CHECK ("
        + written
        + ")";
  }
}
