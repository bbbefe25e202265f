package fiador.servers.postgresql;

import fiador.changes.steps.SafeView;
import fiador.policies.ColumnMask;
import fiador.policies.Mask;
import fiador.policies.SafeColumn;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import java.util.List;
import java.util.StringJoiner;
import java.util.function.UnaryOperator;

/**
 * Makes the views that show tables safely, beside them or under their names. What the server knows
 * of the table and no survey does (types, and for a view under its name defaults, comments and the
 * key) it puts in itself, in the same transaction: the statements are the same whoever runs them.
 *
 * <p>Columns have their types without lengths, so that a mask may be longer than the values; and
 * the base type of a domain, whose checks are code of whoever made it. What nobody has masked is
 * the column itself, so that its indexes are found. A view that is there keeps the types it has:
 * the server replaces no view by one with others.
 *
 * <p>What is inserted and updated under a table's name is carried on by a trigger with the rights
 * of who writes, as on the table itself; a delete needs none.
 */
final class SafeViewSql {
  /** The function that carries on what is written. */
  static final String FUNCTION = "write_through";

  /**
   * With the rights of who writes: triggers of the table's owner run as they did before, and no
   * error shows a value that its reader may not select.
   *
   * <p>Arguments: the table; the columns that the server fills; all columns; the condition for the
   * row, by its key; the query for what was changed.
   */
  static final String WRITE_THROUGH =
      """

      DECLARE
        base text := TG_ARGV[0];
        one text;
        names text := '';
        given text := '';
        same text := '';
        filled text := '';
        changed text[];
        has boolean;
        back jsonb;
        rows bigint;
      BEGIN
        IF TG_OP = 'INSERT' THEN
          FOREACH one IN ARRAY TG_ARGV[2]::text[] LOOP
            has := true;
            IF one = ANY (TG_ARGV[1]::text[]) THEN
              EXECUTE pg_catalog.format('SELECT pg_catalog.num_nonnulls(($1).%I) = 1', one)
                 INTO has USING NEW;
              IF NOT has AND pg_catalog.has_column_privilege(base, one, 'SELECT') THEN
                filled := filled || pg_catalog.format(', %L, %I', one, one);
              END IF;
            END IF;
            IF has THEN
              names := names || pg_catalog.format(', %I', one);
              given := given || pg_catalog.format(', ($1).%I', one);
            END IF;
          END LOOP;
          one := pg_catalog.format('INSERT INTO %s AS t ', base)
            || CASE WHEN names = '' THEN 'DEFAULT VALUES'
                    ELSE '(' || pg_catalog.substr(names, 3) || ') VALUES ('
                      || pg_catalog.substr(given, 3) || ')' END;
          IF filled = '' THEN
            EXECUTE one USING NEW;
          ELSE
            EXECUTE one || ' RETURNING pg_catalog.jsonb_build_object('
              || pg_catalog.substr(filled, 3) || ')' INTO back USING NEW;
            IF back IS NULL THEN
              RETURN NULL;
            END IF;
            NEW := pg_catalog.jsonb_populate_record(NEW, back);
          END IF;
          RETURN NEW;
        END IF;
        IF TG_ARGV[3] = '' THEN
          RAISE EXCEPTION 'rows of %.% cannot be told apart by a key that everybody sees: update %',
            TG_TABLE_SCHEMA, TG_TABLE_NAME, base USING ERRCODE = 'object_not_in_prerequisite_state';
        END IF;
        EXECUTE TG_ARGV[4] INTO changed USING NEW, OLD;
        IF pg_catalog.cardinality(changed) = 0 THEN
          RETURN NEW;
        END IF;
        -- a view's rows are not locked by reading them, so what was read may be old by now
        EXECUTE pg_catalog.format('SELECT true FROM %s AS t WHERE ', base) || TG_ARGV[3]
          || ' FOR NO KEY UPDATE' INTO has USING NEW, OLD;
        IF has IS NULL THEN
          RETURN NULL;
        END IF;
        FOREACH one IN ARRAY changed LOOP
          names := names || pg_catalog.format(', %I = ($1).%I', one, one);
          same := same || pg_catalog.format(
            ' AND ROW(t.%I)::record OPERATOR(pg_catalog.*=) ROW(($2).%I)::record', one, one);
        END LOOP;
        EXECUTE pg_catalog.format('SELECT true FROM %I.%I AS t WHERE ', TG_TABLE_SCHEMA,
          TG_TABLE_NAME) || TG_ARGV[3] || same INTO has USING NEW, OLD;
        IF has IS NULL THEN
          RAISE EXCEPTION 'a row of %.% was changed by somebody else meanwhile: try again',
            TG_TABLE_SCHEMA, TG_TABLE_NAME USING ERRCODE = 'serialization_failure';
        END IF;
        EXECUTE pg_catalog.format('UPDATE %s AS t SET ', base) || pg_catalog.substr(names, 3)
          || ' WHERE ' || TG_ARGV[3] USING NEW, OLD;
        GET DIAGNOSTICS rows = ROW_COUNT;
        IF rows = 0 THEN
          RETURN NULL;
        END IF;
        RETURN NEW;
      END
      """;

  private static final String MAKE =
      """

      DECLARE
        base regclass := %1$s;
        view text := %2$s;
        names text[] := ARRAY[%3$s]::text[];
        masks text[] := ARRAY[%4$s]::text[];
        fixed text[] := ARRAY[%5$s]::text[];
        masked text[] := '{}';
        columns text := '';
        type oid;
        other boolean;
        kind text;
        made text;
        one record;
      BEGIN
        FOR i IN 1 .. cardinality(names) LOOP
          SELECT a.atttypid, a.atttypmod, y.typtype INTO STRICT one
            FROM pg_attribute a JOIN pg_type y ON y.oid = a.atttypid
           WHERE a.attrelid = base AND a.attname = names[i] AND NOT a.attisdropped;
          WITH RECURSIVE under AS (
            SELECT one.atttypid AS type
             UNION ALL
            SELECT y.typbasetype FROM under u JOIN pg_type y ON y.oid = u.type
             WHERE y.typtype = 'd')
          SELECT coalesce(h.atttypid, u.type), coalesce(h.atttypid <> u.type, false)
            INTO STRICT type, other
            FROM under u JOIN pg_type y ON y.oid = u.type
            LEFT JOIN pg_attribute h ON h.attrelid = to_regclass(view) AND h.attname = names[i]
                                    AND NOT h.attisdropped
           WHERE y.typtype <> 'd';
          kind := format_type(type, -1);
          IF masks[i] <> '' THEN
            made := replace(masks[i], %6$s, kind);
            masked := masked || names[i];
            IF other THEN
              made := format('CAST(%%s AS %%s)', made, kind);
            END IF;
          ELSIF one.atttypmod = -1 AND one.typtype <> 'd' AND NOT other THEN
            made := format('t.%%I', names[i]);
          ELSE
            made := format('CAST(t.%%I AS %%s)', names[i], kind);
          END IF;
          IF fixed[i] <> '' THEN
            EXECUTE replace(fixed[i], %6$s, kind);
          END IF;
          columns := columns || format(', %%s AS %%I', made, names[i]);
        END LOOP;
        EXECUTE 'CREATE OR REPLACE VIEW ' || view || ' WITH (security_barrier = true) AS SELECT '
          || substr(columns, 3) || ' FROM ' || %7$s;
      """;

  /** What a view under a table's name has besides. */
  private static final String UNDER_NAME =
      """
        FOR one IN
          SELECT '' AS name, obj_description(base, 'pg_class') AS said
           UNION ALL
          SELECT a.attname, col_description(base, a.attnum) FROM pg_attribute a
           WHERE a.attrelid = base AND a.attnum > 0 AND NOT a.attisdropped
        LOOP
          IF one.name = '' THEN
            EXECUTE format('COMMENT ON VIEW %%s IS %%L', view, one.said);
          ELSE
            EXECUTE format('COMMENT ON COLUMN %%s.%%I IS %%L', view, one.name, one.said);
          END IF;
        END LOOP;
        FOR one IN
          SELECT a.attname AS name, pg_get_expr(d.adbin, d.adrelid) AS value
            FROM pg_attribute a
            LEFT JOIN pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum
           WHERE a.attrelid = base AND a.attnum > 0 AND NOT a.attisdropped
             AND a.attgenerated = '' AND a.attidentity = ''
        LOOP
          IF one.value IS NULL THEN
            EXECUTE format('ALTER VIEW %%s ALTER COLUMN %%I DROP DEFAULT', view, one.name);
          ELSE
            EXECUTE format('ALTER VIEW %%s ALTER COLUMN %%I SET DEFAULT %%s', view, one.name,
              one.value);
          END IF;
        END LOOP;
        SELECT coalesce(array_agg(a.attname)
                 FILTER (WHERE a.attgenerated <> '' OR a.attidentity <> ''), '{}') AS filled,
               coalesce(string_agg(format('t.%%1$I = ($2).%%1$I', a.attname), ' AND ')
                 FILTER (WHERE a.attnum = ANY (k.indkey)), '') AS key,
               coalesce(bool_or(a.attnum = ANY (k.indkey) AND a.attname = ANY (masked)), false)
                 AS hidden,
               'SELECT pg_catalog.array_remove(ARRAY[' || string_agg(format(
                 'CASE WHEN ROW(($1).%%1$I)::record OPERATOR(pg_catalog.*<>)'
                   || ' ROW(($2).%%1$I)::record THEN %%1$L END',
                 a.attname), ', ' ORDER BY a.attnum) || ']::text[], NULL)' AS changed
          INTO one
          FROM pg_attribute a
          LEFT JOIN pg_index k ON k.indrelid = base AND k.indisprimary
         WHERE a.attrelid = base AND a.attnum > 0 AND NOT a.attisdropped;
        EXECUTE format('DROP TRIGGER IF EXISTS fiador_write ON %%s', view);
        EXECUTE format('CREATE TRIGGER fiador_write INSTEAD OF INSERT OR UPDATE ON %%s FOR EACH ROW'
          || ' EXECUTE FUNCTION fiador_guard.write_through(%%L, %%L, %%L, %%L, %%L)',
          view, %1$s, one.filled::text, names::text,
          CASE WHEN one.hidden THEN '' ELSE one.key END, one.changed);
      """;

  private final PostgresqlSightSql sql = new PostgresqlSightSql("t.");
  private final UnaryOperator<String> quoted;

  SafeViewSql(UnaryOperator<String> quoted) {
    this.quoted = quoted;
  }

  /**
   * Makes the view, or changes it.
   *
   * @param view its name in SQL
   * @param table its table's name in SQL
   */
  List<String> make(SafeView shown, String view, String table) {
    TableSight sight = shown.sight();
    StringJoiner names = new StringJoiner(", ");
    StringJoiner masks = new StringJoiner(", ");
    StringJoiner fixed = new StringJoiner(", ");
    String kind = kindMark(shown.policies());
    for (SafeColumn column : shown.columns()) {
      List<ColumnMask> on = sight.masksOf(column.name());
      names.add(sql.literal(column.name()));
      masks.add(sql.literal(on.isEmpty() ? "" : cases(column, on, kind)));
      fixed.add(sql.literal(tried(column, on, kind)));
    }
    Expression condition = sight.condition();
    String from =
        table
            + " t"
            + (condition.equals(Expression.TRUE) ? "" : " WHERE " + sql.predicate(condition));
    String made =
        MAKE.formatted(
            sql.literal(table),
            sql.literal(view),
            names,
            masks,
            fixed,
            sql.literal(kind),
            sql.literal(from));
    if (!shown.underName()) {
      return List.of("DO " + sql.literal(made + "END"));
    }
    String body = made + UNDER_NAME.formatted(sql.literal(table)) + "END";
    return List.of(
        "CREATE OR REPLACE FUNCTION fiador_guard."
            + FUNCTION
            + "() RETURNS trigger LANGUAGE plpgsql AS "
            + sql.literal(WRITE_THROUGH),
        "REVOKE ALL ON FUNCTION fiador_guard." + FUNCTION + "() FROM PUBLIC",
        "DO " + sql.literal(body));
  }

  /**
   * What stands for the column's type until the server puts it in; no text of a policy holds it.
   */
  private static String kindMark(String policies) {
    String mark = "@type@";
    while (policies.contains(mark)) {
      mark = "@" + mark + "@";
    }
    return mark;
  }

  private String cases(SafeColumn column, List<ColumnMask> masks, String kind) {
    String plain = "t." + quoted.apply(column.name());
    StringBuilder cases = new StringBuilder("CASE");
    for (ColumnMask mask : masks) {
      cases
          .append(" WHEN ")
          .append(sql.predicate(mask.acts()))
          .append(" THEN CAST(")
          .append(sql.masked(mask.mask(), plain, column.type()))
          .append(" AS ")
          .append(kind)
          .append(")");
    }
    return cases + " ELSE " + plain + " END";
  }

  /** A value that does not fit the column must stop the change, and not those who read. */
  private String tried(SafeColumn column, List<ColumnMask> masks, String kind) {
    StringJoiner tries = new StringJoiner(", ", "SELECT ", "").setEmptyValue("");
    for (ColumnMask mask : masks) {
      if (mask.mask() instanceof Mask.Fixed) {
        tries.add("CAST(" + sql.masked(mask.mask(), "''", column.type()) + " AS " + kind + ")");
      }
    }
    return tries.toString();
  }
}
