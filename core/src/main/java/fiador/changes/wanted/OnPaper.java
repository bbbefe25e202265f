package fiador.changes.wanted;

import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Grant;
import fiador.changes.wanted.Wanted.Single;
import fiador.estate.DottedName;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.Membership;
import fiador.grants.Origin;
import fiador.grants.Terms;
import fiador.grants.rules.HouseRules;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The estate as a charter alone describes it, before any server was looked at: only things that
 * sentences name are known, and "every table in" stands on the container and reaches the named
 * ones.
 */
public final class OnPaper {
  private final HouseRules rules;
  private final String database;
  private final AccessBuilder builder = new AccessBuilder();
  private final Map<String, Integer> principals = new HashMap<>();
  private final Map<String, Thing> things = new LinkedHashMap<>();

  /** A thing some sentence names; made into a node when all its columns are known. */
  private static final class Thing {
    final NodeKind kind;
    final String parent;
    final String name;
    final Set<String> columns = new LinkedHashSet<>();
    int node = -1;

    Thing(NodeKind kind, String parent, String name) {
      this.kind = kind;
      this.parent = parent;
      this.name = name;
    }
  }

  private OnPaper(HouseRules rules, String database) {
    this.rules = rules;
    this.database = database;
  }

  /**
   * The estate of a charter at a moment. What has ended stays known as such.
   *
   * @param server what the charter calls the server
   * @param database the database that names without one are in; null where the kind has no such
   *     level
   */
  public static Access of(
      Wanted wanted, String server, HouseRules rules, String database, Instant now) {
    return new OnPaper(rules, database).build(wanted.begunBy(now), server);
  }

  private Access build(Wanted wanted, String server) {
    principals.put(Wanted.EVERYBODY, Principals.PUBLIC);
    wanted.roles().forEach(role -> principal(role.name(), PrincipalKind.ROLE));
    wanted.users().forEach(user -> principal(user.name(), PrincipalKind.USER));
    wanted.memberships().stream()
        .filter(member -> isKnown(member.role()))
        .forEach(
            member ->
                builder.member(
                    principals.get(member.member()),
                    principals.get(member.role()),
                    new Membership(false, true, true, end(member.when()), false),
                    None.PRINCIPAL));
    Map<Grant, String> paths = new LinkedHashMap<>();
    for (Grant grant : wanted.grants()) {
      paths.put(grant, note(grant));
    }
    builder.estate().node(None.NODE, NodeKind.SERVER, server, None.PRINCIPAL);
    things.values().forEach(this::make);
    if (database != null) {
      // a new database lets everybody connect
      Terms connect = Terms.of(Privilege.CONNECT.bit(), 0);
      builder.grant(Principals.PUBLIC, 1, connect, ColumnSets.WHOLE, None.PRINCIPAL);
    }
    paths.forEach(this::grant);
    return builder.build(new Origin(server, rules.kind(), "", null), rules);
  }

  /** A role of the server's own is there as soon as somebody is to hold it. */
  private boolean isKnown(String role) {
    boolean own = !principals.containsKey(role) && rules.isOwn(rules.fold(role));
    if (own) {
      principal(role, PrincipalKind.ROLE);
    }
    return principals.containsKey(role);
  }

  /** The last second in which something is wanted. */
  private static long end(Period when) {
    return when.until() == null ? Terms.FOREVER : when.until().getEpochSecond() - 1;
  }

  private void principal(String name, PrincipalKind kind) {
    principals.put(name, builder.estate().principal(kind, rules.fold(name), 0, None.NODE));
  }

  /** Remembers what a grant is on and its containers; gives the key of the thing. */
  private String note(Grant grant) {
    boolean every = grant.target() instanceof Every;
    String name =
        grant.target() instanceof Every all ? all.container() : ((Single) grant.target()).name();
    NodeKind said = grant.target() instanceof Single single ? single.kind() : null;
    if (said == NodeKind.SERVER) {
      return "";
    }
    List<String> parts = new ArrayList<>();
    DottedName.split(name)
        .forEach(part -> parts.add(part.quoted() ? part.text() : rules.fold(part.text())));
    boolean container = every || said == NodeKind.SCHEMA;
    boolean whole = said == NodeKind.DATABASE;
    if (database != null && !whole && parts.size() < (container ? 2 : 3)) {
      parts.add(0, database);
    }
    int schemaDepth = database == null ? 1 : 2;
    String key = "";
    for (int depth = 1; depth <= parts.size(); depth++) {
      NodeKind kind =
          depth > schemaDepth
              ? said == null ? NodeKind.TABLE : said
              : depth == schemaDepth ? NodeKind.SCHEMA : NodeKind.DATABASE;
      String parent = key;
      String own = parts.get(depth - 1);
      key = key + "." + DottedName.quoted(own);
      things.computeIfAbsent(key, fresh -> new Thing(kind, parent, own));
    }
    for (Action action : grant.actions()) {
      for (String column : action.columns()) {
        things.get(key).columns.add(rules.fold(column));
      }
    }
    return key;
  }

  private void make(Thing thing) {
    int parent = thing.parent.isEmpty() ? 0 : things.get(thing.parent).node;
    thing.node = builder.estate().node(parent, thing.kind, thing.name, None.PRINCIPAL);
    thing.columns.forEach(builder.estate()::column);
  }

  /** On the whole server, which reaches all that is in it. */
  private void grantOnServer(Grant grant) {
    long possible = rules.grantableOn(NodeKind.SERVER);
    long bits = 0;
    int covers = 0;
    for (Action action : grant.actions()) {
      bits |= action.privilege() == null ? possible : action.privilege().bit() & possible;
    }
    for (NodeKind kind : NodeKind.values()) {
      covers |= kind == NodeKind.SERVER ? 0 : kind.bit();
    }
    if (bits != 0) {
      Terms terms = new Terms(bits, grant.grantOption() ? bits : 0, covers, end(grant.when()));
      int to = principals.get(grant.grantee());
      builder.grant(to, 0, terms, ColumnSets.WHOLE, None.PRINCIPAL);
    }
  }

  private void grant(Grant grant, String key) {
    if (key.isEmpty()) {
      grantOnServer(grant);
      return;
    }
    Thing thing = things.get(key);
    int covers = 0;
    long possible = rules.privilegesOn(thing.kind);
    if (grant.target() instanceof Every every) {
      possible = 0;
      for (NodeKind kind : every.kinds()) {
        covers |= kind.bit();
        possible |= rules.privilegesOn(kind);
      }
    }
    for (Action action : grant.actions()) {
      long bits = action.privilege() == null ? possible : action.privilege().bit() & possible;
      int columns = ColumnSets.WHOLE;
      if (!action.columns().isEmpty()) {
        Map<String, Integer> ordinals = builder.estate().columnOrdinals(thing.node);
        columns =
            builder
                .columnSets()
                .intern(
                    action.columns().stream()
                        .mapToInt(column -> ordinals.get(rules.fold(column)))
                        .toArray());
      }
      if (bits != 0) {
        Terms terms = new Terms(bits, grant.grantOption() ? bits : 0, covers, end(grant.when()));
        builder.grant(principals.get(grant.grantee()), thing.node, terms, columns, None.PRINCIPAL);
      }
    }
  }
}
