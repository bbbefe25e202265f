package fiador.grants;

import fiador.estate.Account;
import fiador.estate.ColumnType;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Privilege;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.PostgresqlRules;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Makes small estates in a few lines, by names. */
public final class TinyEstate {
  private final AccessBuilder builder = new AccessBuilder();
  private final EstateBuilder estate = builder.estate();
  private final Map<String, Integer> principals = new HashMap<>(Map.of("PUBLIC", 0));
  private final Map<String, Integer> nodes = new HashMap<>();
  private final Map<String, Integer> places = new HashMap<>();
  private final HouseRules rules;
  private String server = "box";

  /** An estate under those rules, with nothing but the server in it. */
  public TinyEstate(HouseRules rules) {
    this.rules = rules;
    nodes.put("", estate.node(-1, NodeKind.SERVER, "box", -1));
  }

  /** A PostgreSQL 18 with one database {@code d} that everybody may connect to. */
  public static TinyEstate postgresql() {
    return new TinyEstate(PostgresqlRules.of(18))
        .node(NodeKind.DATABASE, "d")
        .grant("PUBLIC", "connect", "d");
  }

  /** Adds users. */
  public TinyEstate users(String... names) {
    for (String name : names) {
      principals.put(name, estate.principal(PrincipalKind.USER, name, 0, -1));
    }
    return this;
  }

  /** Adds roles. */
  public TinyEstate roles(String... names) {
    for (String name : names) {
      principals.put(name, estate.principal(PrincipalKind.ROLE, name, 0, -1));
    }
    return this;
  }

  /** Gives a principal a power. */
  public TinyEstate power(String principal, Power power) {
    estate.power(principals.get(principal), power);
    return this;
  }

  /** Adds a node by its dotted path; its container must be there. */
  public TinyEstate node(NodeKind kind, String path, String... columns) {
    return owned(kind, path, null, columns);
  }

  /** Adds a node with an owner. */
  public TinyEstate owned(NodeKind kind, String path, String owner, String... columns) {
    int dot = path.lastIndexOf('.');
    int parent = nodes.get(dot < 0 ? "" : path.substring(0, dot));
    int by = owner == null ? -1 : principals.get(owner);
    nodes.put(path, estate.node(parent, kind, path.substring(dot + 1), by));
    estate.columns(List.of(columns));
    return this;
  }

  /** Adds a table whose columns have types, written {@code name:type}. */
  public TinyEstate table(String path, String owner, String... columns) {
    owned(NodeKind.TABLE, path, owner);
    for (String column : columns) {
      String[] parts = column.split(":", 2);
      estate.column(parts[0]).type(ColumnType.named(parts[1]));
    }
    return this;
  }

  /** Says that a view or table was made from policies. */
  public TinyEstate kept(String path, String table, boolean asMade, String... policies) {
    String text = String.join("\n", policies) + "\n";
    builder.sights().kept(nodes.get(path), new Sights.Kept(nodes.get(table), text, asMade));
    return this;
  }

  /** Says how a table fills its columns. */
  public TinyEstate fills(String table, Sights.Fills how) {
    builder.sights().fills(nodes.get(table), how);
    return this;
  }

  /** Gives a user an attribute, in the database d where there is one. */
  public TinyEstate attribute(String user, String name, String... values) {
    for (String value : values) {
      builder.sights().attribute(nodes.getOrDefault("d", 0), user, name, value);
    }
    return this;
  }

  /** Filters a table by rules, each for some roles. */
  public TinyEstate filter(String table, Sights.Rule... rules) {
    builder.sights().filter(nodes.get(table), new Sights.Filter(true, false, List.of(rules)));
    return this;
  }

  /** A rule for somebody. */
  public Sights.Rule rule(String name, boolean any, String role, String using, String predicate) {
    long select = Privilege.SELECT.bit();
    List<Integer> roles = List.of(principals.get(role));
    return new Sights.Rule(name, any, select, roles, using, predicate);
  }

  /** Says which schema is the guarded one. */
  public TinyEstate guard(String database, String schema) {
    builder.sights().guard(database == null ? 0 : nodes.get(database), nodes.get(schema));
    return this;
  }

  /** Adds a lookup table. */
  public TinyEstate lookup(String name, String table, String key, String value) {
    int database = nodes.getOrDefault("d", 0);
    builder
        .sights()
        .lookup(
            new Sights.LookupTable(
                database, name, nodes.get(table), key, LookupKey.USER, value, true));
    return this;
  }

  /** Adds a fact to a node. */
  public TinyEstate fact(String path, NodeFact fact) {
    estate.fact(nodes.get(path), fact);
    return this;
  }

  /** Takes privileges from a node's owner. */
  public TinyEstate withheld(String path, Privilege... privileges) {
    estate.withheld(nodes.get(path), fiador.estate.PrivilegeSet.of(privileges));
    return this;
  }

  /** Gives a role, inherited and settable. */
  public TinyEstate member(String member, String role) {
    return member(member, role, Membership.PLAIN);
  }

  /** Gives a role in the name of somebody who holds it. */
  public TinyEstate memberBy(String by, String member, String role, Membership how) {
    builder.member(principals.get(member), principals.get(role), how, principals.get(by));
    return this;
  }

  /** Grants in the name of somebody who may. */
  public TinyEstate grantBy(String by, String grantee, String privilege, String path) {
    builder.grant(
        principals.get(grantee),
        nodes.get(path),
        terms(privilege),
        ColumnSets.WHOLE,
        principals.get(by));
    return this;
  }

  /** Gives a role in some way. */
  public TinyEstate member(String member, String role, Membership how) {
    builder.member(principals.get(member), principals.get(role), how, -1);
    return this;
  }

  /** Grants; the privilege ends in {@code *} when it may be granted on. */
  public TinyEstate grant(String grantee, String privilege, String path, String... columns) {
    return grant(grantee, path, terms(privilege), columns);
  }

  /** Grants on those terms. */
  public TinyEstate grant(String grantee, String path, Terms terms, String... columns) {
    builder.grant(principals.get(grantee), nodes.get(path), terms, columnSet(path, columns), -1);
    return this;
  }

  /** Denies. */
  public TinyEstate deny(String principal, String privilege, String path, String... columns) {
    builder.denial(
        principals.get(principal), nodes.get(path), terms(privilege), columnSet(path, columns));
    return this;
  }

  /** Grants, or denies, on one thing because that carries a label. */
  public TinyEstate byLabel(
      boolean grant, String label, String who, String privilege, String path, String... columns) {
    Terms terms = terms(privilege).by(estate.names().intern(label));
    int to = principals.get(who);
    if (grant) {
      builder.grant(to, nodes.get(path), terms, columnSet(path, columns), -1);
    } else {
      builder.denial(to, nodes.get(path), terms, columnSet(path, columns));
    }
    return this;
  }

  /** Says that a view reads columns of something, or just any when none are named. */
  public TinyEstate reads(String view, String under, String... columns) {
    builder.reads(nodes.get(view), nodes.get(under), columnSet(under, columns));
    return this;
  }

  /** Says that a view's column shows a column under it: as it is, or worked out. */
  public TinyEstate shows(String view, String column, String under, String from, boolean asIs) {
    builder.shows(
        nodes.get(view),
        estate.columnOrdinals(nodes.get(view)).get(column),
        nodes.get(under),
        estate.columnOrdinals(nodes.get(under)).get(from),
        asIs);
    return this;
  }

  /** Says that a view's column shows nothing of any table. */
  public TinyEstate showsNothing(String view, String column) {
    int ordinal = estate.columnOrdinals(nodes.get(view)).get(column);
    builder.shows(nodes.get(view), ordinal, Lineage.NOTHING, 0, false);
    return this;
  }

  private static Terms terms(String privilege) {
    boolean grantable = privilege.endsWith("*");
    long bit = Privilege.named(privilege.replace("*", "")).bit();
    return Terms.of(bit, grantable ? bit : 0);
  }

  private int columnSet(String path, String... columns) {
    if (columns.length == 0) {
      return ColumnSets.WHOLE;
    }
    Map<String, Integer> ordinals = estate.columnOrdinals(nodes.get(path));
    return builder.columnSets().intern(Arrays.stream(columns).mapToInt(ordinals::get).toArray());
  }

  /** Says what is known of an account. */
  public TinyEstate account(String user, Account account) {
    estate.account(principals.get(user), account);
    return this;
  }

  /** Grants on the tables that a creator will make in a schema. */
  public TinyEstate later(String creator, String schema, String privilege, String grantee) {
    long bit = Privilege.named(privilege).bit();
    builder.later(
        new LaterGrant(
            principals.get(creator),
            nodes.get(schema),
            NodeKind.TABLE,
            false,
            List.of(new LaterGrant.Given(principals.get(grantee), bit, 0))));
    return this;
  }

  /** Grants on schemas by pattern. */
  public TinyEstate pattern(String grantee, String pattern, String privilege) {
    long bit = Privilege.named(privilege).bit();
    builder.pattern(new SchemaPattern(principals.get(grantee), pattern, bit, 0));
    return this;
  }

  /** Calls the server that, and says where it is reached. */
  public TinyEstate reached(String name, String address) {
    server = name;
    builder.abroad().address(address);
    return this;
  }

  /** Adds the other end of foreign tables. */
  public TinyEstate away(String name, Abroad.Carrier carrier, String host, String port) {
    int in = nodes.getOrDefault("d", 0);
    places.put(
        name, builder.abroad().place(new Abroad.Place(name, in, -1, carrier, "", host, port, "d")));
    return this;
  }

  /** Says as whom somebody goes on. */
  public TinyEstate mapping(String who, String away, String login, boolean secret) {
    builder
        .abroad()
        .login(
            new Abroad.Login(
                principals.get(who), places.get(away), login, secret, true, login != null));
    return this;
  }

  /** Says that a table is elsewhere: {@code schema.name} there. */
  public TinyEstate foreign(String path, String away, String there, Map<Integer, String> columns) {
    int dot = there.lastIndexOf('.');
    String schema = dot < 0 ? "" : there.substring(0, dot);
    builder
        .abroad()
        .table(
            nodes.get(path),
            new Abroad.Table(places.get(away), schema, there.substring(dot + 1), columns));
    return this;
  }

  /** Says that a foreign table is a part of another table. */
  public TinyEstate part(String path, String whole) {
    builder.abroad().part(nodes.get(path), nodes.get(whole));
    return this;
  }

  /** The id of a principal. */
  public int principal(String name) {
    return principals.get(name);
  }

  /** The id of a node. */
  public int at(String path) {
    return nodes.get(path);
  }

  /** The estate. */
  public Access build() {
    return builder.build(new Origin(server, rules.kind(), "18", Instant.EPOCH), rules);
  }
}
