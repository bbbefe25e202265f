package fiador.servers.hsqldb;

/** What is asked of the catalog of an HSQLDB. */
final class HsqldbQueries {
  static final String PRINCIPALS =
      """
      select authorization_name, authorization_type from information_schema.authorizations
       where authorization_name <> 'PUBLIC' order by 1
      """;

  /** The digests of an empty secret; an empty one is no secret. */
  static final String WITHOUT_SECRET =
      """
      select user_name from information_schema.system_users
       where authentication <> 'EXTERNAL'
         and lower(password_digest) in ('d41d8cd98f00b204e9800998ecf8427e',
             'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855')
      """;

  static final String MEMBERSHIPS =
      """
      select grantee, role_name from information_schema.role_authorization_descriptors
       where role_name <> 'PUBLIC' and grantee <> 'PUBLIC' order by 1, 2
      """;

  static final String SCHEMAS =
      "select schema_name, schema_owner from information_schema.schemata order by 1";

  static final String TABLES =
      """
      select table_schema, table_name, table_type from information_schema.tables order by 1, 2
      """;

  static final String COLUMNS =
      """
      select table_schema, table_name, column_name, data_type from information_schema.columns
       order by 1, 2, ordinal_position
      """;

  static final String DEFAULTS =
      """
      select table_schema, table_name, column_name, column_default,
             is_generated = 'ALWAYS' or coalesce(identity_generation, '') = 'ALWAYS' as never
        from information_schema.columns
       where table_schema not in ('INFORMATION_SCHEMA', 'SYSTEM_LOBS', 'FIADOR_GUARD')
         and (column_default is not null or is_generated = 'ALWAYS'
              or coalesce(identity_generation, '') = 'ALWAYS')
       order by 1, 2, ordinal_position
      """;

  static final String KEYS =
      """
      select table_schem, table_name, column_name from information_schema.system_primarykeys
       order by 1, 2, key_seq
      """;

  static final String SEQUENCES =
      """
      select sequence_schema, sequence_name from information_schema.sequences order by 1, 2
      """;

  static final String ROUTINES =
      """
      select r.routine_schema, r.routine_name, r.specific_name, r.security_type, p.data_type
        from information_schema.routines r
        left join information_schema.parameters p
               on p.specific_schema = r.specific_schema and p.specific_name = r.specific_name
       where r.routine_schema is not null
       order by 1, 2, 3, p.ordinal_position
      """;

  static final String READS =
      """
      select view_schema, view_name, table_schema, table_name, column_name
        from information_schema.view_column_usage order by 1, 2, 3, 4
      """;

  static final String QUERIES =
      """
      select table_schema, table_name, view_definition
        from information_schema.views where table_schema <> 'INFORMATION_SCHEMA' order by 1, 2
      """;

  static final String ROUTINES_READ =
      """
      select specific_schema, specific_name, table_schema, table_name, column_name
        from information_schema.routine_column_usage
       order by 1, 2, 3, 4
      """;

  /** The text of a view v, with what its triggers do, by which it could be written otherwise. */
  static final String VIEW_TEXT =
      """
      v.view_definition || coalesce(
        (select group_concat(t.action_statement order by t.trigger_name separator '; ')
           from information_schema.triggers t
          where t.event_object_schema = v.table_schema
            and t.event_object_table = v.table_name), '')""";

  static final String KEPT =
      """
      select k.schema_name, k.object_name, k.table_schema, k.table_name, k.policies,
             k.stored = %s as as_made,
             v.view_definition as text
        from fiador_guard.kept k
        left join information_schema.views v
               on (v.table_schema = k.schema_name and v.table_name = k.object_name)
               or (v.table_schema = 'FIADOR_GUARD' and k.policies like 'lookup!_%%' escape '!'
                   and v.table_name = upper(k.object_name))
       order by 1, 2
      """
          .formatted(VIEW_TEXT);

  static final String EVERYBODYS_OWN =
      """
      select table_schema, table_name, privilege_type from information_schema.table_privileges
       where grantee = 'PUBLIC' and table_schema = 'INFORMATION_SCHEMA'
      """;

  private HsqldbQueries() {}
}
