package fiador.servers.postgresql;

import fiador.estate.EstateBuilder;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.Extent;
import fiador.grants.LaterGrant;
import fiador.grants.LaterGrant.Given;
import fiador.grants.Terms;
import fiador.servers.jdbc.Sql;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.Long2IntFunction;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads who was given what. An ACL that is empty means nobody; one that is NULL means the built-in
 * defaults, which for relations, sequences and schemas are the owner's own rights and nothing else,
 * so only databases and routines need theirs spelled out.
 *
 * <p>What an owner has from themselves is not a grant: the node remembers what of it they have
 * taken away.
 */
final class AclReader {
  private static final String EXPLODED =
      """
      select o.oid, o.owner, e.grantor, e.grantee, e.privilege_type, e.is_grantable
        from (%s) o
        left join lateral aclexplode(o.acl) e on true
       order by o.oid, e.grantee, e.grantor
      """;

  private static final String DATABASES =
      EXPLODED.formatted(
          """
          select oid, datdba as owner, coalesce(datacl, acldefault('d', datdba)) as acl
            from pg_database\
          """);

  private static final String SCHEMAS =
      EXPLODED.formatted(
          "select oid, nspowner as owner, nspacl as acl from pg_namespace where nspacl is not null");

  private static final String RELATIONS =
      EXPLODED.formatted(
          """
          select oid, relowner as owner, relacl as acl
            from pg_class
           where relacl is not null and relkind in ('r', 'p', 'f', 'v', 'm', 'S')\
          """);

  private static final String ROUTINES =
      EXPLODED.formatted(
          """
          select oid, proowner as owner, coalesce(proacl, acldefault('f', proowner)) as acl
            from pg_proc\
          """);

  private static final String COLUMNS =
      """
      select a.attrelid, a.attname, e.grantor, e.grantee, e.privilege_type, e.is_grantable
        from pg_attribute a cross join lateral aclexplode(a.attacl) e
       where a.attacl is not null and not a.attisdropped
       order by a.attrelid, e.grantee, e.grantor, e.privilege_type
      """;

  private static final String LATER =
      """
      select d.oid, d.defaclrole, d.defaclnamespace, d.defaclobjtype,
             e.grantee, e.privilege_type, e.is_grantable
        from pg_default_acl d
        left join lateral aclexplode(d.defaclacl) e on true
       where d.defaclobjtype in ('r', 'S', 'f', 'n')
       order by d.oid, e.grantee
      """;

  private final Catalog catalog;
  private final AccessBuilder builder;
  private final EstateBuilder estate;

  AclReader(Catalog catalog) {
    this.catalog = catalog;
    this.builder = catalog.builder();
    this.estate = builder.estate();
  }

  /** The rights on the databases themselves; pg_database_owner there means each database's own. */
  void readDatabases(Connection connection, Map<Integer, Database> byNode) throws SQLException {
    Grouped grouped =
        new Grouped(catalog.databases(), (oid, node) -> byNode.get(node).principal(oid));
    Sql.rows(connection, DATABASES, grouped::row);
    grouped.finish();
  }

  void read(Connection connection, Database database) throws SQLException {
    readInto(connection, SCHEMAS, database, database.schemas());
    readInto(connection, RELATIONS, database, database.relations());
    readInto(connection, ROUTINES, database, database.routines());
    readColumns(connection, database);
    readLater(connection, database);
  }

  private void readInto(
      Connection connection, String query, Database database, Long2IntFunction nodeOf)
      throws SQLException {
    Grouped grouped = new Grouped(nodeOf, (oid, node) -> database.principal(oid));
    Sql.rows(connection, query, grouped::row);
    grouped.finish();
  }

  @FunctionalInterface
  private interface PrincipalOf {
    int principal(long oid, int node);
  }

  /** Adds up consecutive rows of one object, grantee and grantor. */
  private final class Grouped {
    private final Long2IntFunction nodeOf;
    private final PrincipalOf principalOf;
    private long object = -1;
    private long owner;
    private long ownPrivileges;
    private long grantee;
    private long grantor;
    private long privileges;
    private long grantable;

    Grouped(Long2IntFunction nodeOf, PrincipalOf principalOf) {
      this.nodeOf = nodeOf;
      this.principalOf = principalOf;
    }

    void row(ResultSet row) throws SQLException {
      long oid = row.getLong("oid");
      if (oid != object) {
        finish();
        object = oid;
        owner = row.getLong("owner");
        ownPrivileges = 0;
        grantee = -1;
      }
      String type = row.getString("privilege_type");
      if (type == null) {
        return;
      }
      long to = row.getLong("grantee");
      long by = row.getLong("grantor");
      if (to != grantee || by != grantor) {
        flush();
        grantee = to;
        grantor = by;
      }
      Privilege privilege = Privilege.named(type);
      if (privilege != null) {
        privileges |= privilege.bit();
        grantable |= row.getBoolean("is_grantable") ? privilege.bit() : 0;
      }
    }

    private void flush() {
      int node = nodeOf.get(object);
      if (privileges != 0 && node >= 0) {
        if (grantee == owner && grantor == owner) {
          ownPrivileges |= privileges;
        } else {
          int to = principalOf.principal(grantee, node);
          if (to >= 0) {
            builder.grant(
                to,
                node,
                Terms.of(privileges, grantable),
                ColumnSets.WHOLE,
                principalOf.principal(grantor, node));
          }
        }
      }
      privileges = 0;
      grantable = 0;
    }

    void finish() {
      if (object < 0) {
        return;
      }
      flush();
      int node = nodeOf.get(object);
      if (node >= 0) {
        estate.withheld(node, catalog.rules().privilegesOn(estate.kind(node)) & ~ownPrivileges);
      }
      object = -1;
    }
  }

  private record ColumnGrant(
      int node, long grantee, long grantor, Privilege privilege, boolean grantable) {}

  private void readColumns(Connection connection, Database database) throws SQLException {
    Map<ColumnGrant, IntArrayList> grants = new LinkedHashMap<>();
    Map<Integer, Map<String, Integer>> ordinals = new HashMap<>();
    Sql.rows(
        connection,
        COLUMNS,
        row -> {
          int node = database.relations().get(row.getLong("attrelid"));
          Privilege privilege = Privilege.named(row.getString("privilege_type"));
          if (node >= 0 && privilege != null) {
            Integer ordinal =
                ordinals
                    .computeIfAbsent(node, estate::columnOrdinals)
                    .get(row.getString("attname"));
            ColumnGrant grant =
                new ColumnGrant(
                    node,
                    row.getLong("grantee"),
                    row.getLong("grantor"),
                    privilege,
                    row.getBoolean("is_grantable"));
            grants.computeIfAbsent(grant, fresh -> new IntArrayList()).add(ordinal.intValue());
          }
        });
    grants.forEach(
        (grant, columns) -> {
          int to = database.principal(grant.grantee());
          long bit = grant.privilege().bit();
          if (to >= 0) {
            builder.grant(
                to,
                grant.node(),
                Terms.of(bit, grant.grantable() ? bit : 0),
                builder.columnSets().intern(columns.toIntArray()),
                database.principal(grant.grantor()));
          }
        });
  }

  private record LaterKey(int creator, int in, NodeKind kind, boolean replaces) {}

  private void readLater(Connection connection, Database database) throws SQLException {
    Map<LaterKey, Map<Integer, Extent>> found = new LinkedHashMap<>();
    Sql.rows(
        connection,
        LATER,
        row -> {
          long namespace = row.getLong("defaclnamespace");
          LaterKey key =
              new LaterKey(
                  database.principal(row.getLong("defaclrole")),
                  namespace == 0 ? database.node() : database.schemas().get(namespace),
                  laterKind(row.getString("defaclobjtype")),
                  namespace == 0);
          Map<Integer, Extent> given = found.computeIfAbsent(key, k -> new LinkedHashMap<>());
          String type = row.getString("privilege_type");
          Privilege privilege = type == null ? null : Privilege.named(type);
          if (privilege != null) {
            long bit = privilege.bit();
            Extent more = new Extent(bit, row.getBoolean("is_grantable") ? bit : 0);
            given.merge(database.principal(row.getLong("grantee")), more, Extent::and);
          }
        });
    found.forEach(
        (key, given) -> {
          List<Given> entries = new ArrayList<>();
          given.forEach(
              (to, much) -> entries.add(new Given(to, much.privileges(), much.grantable())));
          if (key.in() >= 0) {
            builder.later(
                new LaterGrant(
                    key.creator(), key.in(), key.kind(), key.replaces(), List.copyOf(entries)));
          }
        });
  }

  private static NodeKind laterKind(String objectType) {
    return switch (objectType) {
      case "S" -> NodeKind.SEQUENCE;
      case "f" -> NodeKind.ROUTINE;
      case "n" -> NodeKind.SCHEMA;
      default -> NodeKind.TABLE;
    };
  }
}
