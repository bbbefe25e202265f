package fiador.changes.wanted;

import fiador.changes.wanted.Wanted.Governs;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseRules;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.regex.Pattern;
import java.util.stream.IntStream;

/** What of a server a charter decides. The server's own, and whoever looks at it, never. */
public final class Governed {
  private final Access access;
  private final Tree tree;
  private final Governs governs;
  private final Set<String> users;
  private final Set<String> untouchable;
  private final Map<Integer, Boolean> schemas = new HashMap<>();
  private final Pattern schemaPattern;
  private final Pattern rolePattern;
  private final Pattern userPattern;
  private final Pattern namedRoles;

  /**
   * @param untouchable names of principals that are left alone whatever the charter governs
   */
  public Governed(Access access, Governs governs, Set<String> untouchable) {
    this(access, governs, Set.of(), untouchable);
  }

  /** As the other, by a charter that lists users too. */
  public Governed(Access access, Wanted wanted, Set<String> untouchable) {
    this(access, wanted.governs(), users(access, wanted), untouchable);
  }

  private Governed(Access access, Governs governs, Set<String> users, Set<String> untouchable) {
    this.access = access;
    this.tree = access.tree();
    this.governs = governs;
    this.users = users;
    this.untouchable = untouchable;
    this.schemaPattern = anyOf(governs.schemas(), StoredName::thing);
    this.rolePattern = anyOf(governs.roles(), StoredName::of);
    this.userPattern = anyOf(governs.users(), StoredName::of);
    List<String> named = governs.roles().stream().filter(each -> !each.equals("*")).toList();
    this.namedRoles = anyOf(named, StoredName::of);
  }

  private static Set<String> users(Access access, Wanted wanted) {
    Set<String> users = new HashSet<>();
    wanted.users().forEach(user -> users.add(StoredName.of(user.name(), access.rules())));
    return users;
  }

  private Pattern anyOf(List<String> names, BiFunction<String, HouseRules, String> stored) {
    StringBuilder all = new StringBuilder("(?!)");
    for (String name : names) {
      all.append('|');
      // a name in quotes is meant as it stands
      String folded = stored.apply(name, access.rules());
      for (String part : folded.split("\\*", -1)) {
        all.append(Pattern.quote(part)).append(".*");
      }
      all.setLength(all.length() - ".*".length());
    }
    return Pattern.compile(all.toString(), Pattern.DOTALL);
  }

  /** Whether it is left alone whatever is governed, such as whoever carries changes out. */
  public boolean isUntouchable(int id) {
    return untouchable.contains(access.principals().name(id))
        || untouchable.contains(access.bareName(id));
  }

  /** Whether what a charter says of somebody can be taken from them when its time is over. */
  public boolean canEnd(int id) {
    boolean everybody = id == Principals.PUBLIC;
    return everybody || !access.rules().isOwn(access.bareName(id)) && !isUntouchable(id);
  }

  /** Whether the charter decides what somebody is given on something. */
  public boolean grant(int grantee, int node) {
    boolean here = grantee == Principals.PUBLIC ? isEverybodys(node) : node(node);
    return here && principal(grantee);
  }

  /** What everybody has in the guarded schema is what policies need, and no charter's matter. */
  private boolean isEverybodys(int node) {
    if (tree.kind(node) == NodeKind.DATABASE) {
      return isHome(node);
    }
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    return node(node) && !access.sights().guards().containsValue(schema);
  }

  /**
   * Whether it is a database with a governed schema in it: what everybody may there opens these.
   */
  private boolean isHome(int node) {
    return IntStream.of(tree.children().run(node))
        .anyMatch(child -> tree.kind(child) == NodeKind.SCHEMA && node(child));
  }

  /**
   * Whether the charter decides who of its users and roles holds a role: its own, and those of the
   * server's own that it names, not by a star alone.
   */
  public boolean membership(int member, int role) {
    boolean own = access.rules().isOwn(access.bareName(role));
    boolean named = own && namedRoles.matcher(access.bareName(role)).matches();
    return principal(member) && (named || principal(role));
  }

  /** Whether the charter decides on a user or role, or on everybody. */
  public boolean principal(int id) {
    if (id == Principals.PUBLIC) {
      return governs.everybody();
    }
    Principals people = access.principals();
    String name = people.name(id);
    String bare = access.bareName(id);
    boolean own =
        people.has(id, Power.SUPERUSER)
            || people.scope(id) >= 0
            || access.rules().isOwn(bare)
            || isUntouchable(id);
    // who cannot log in just now is a user all the same where the charter says so
    Pattern listed = people.isUser(id) || users.contains(name) ? userPattern : rolePattern;
    return !own && listed.matcher(bare).matches();
  }

  /** Whether the charter decides on a thing. */
  public boolean node(int node) {
    if (tree.isSystem(node)) {
      return false;
    }
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    return schema < 0
        ? governs.schemas().contains("*")
        : schemas.computeIfAbsent(schema, id -> schemaPattern.matcher(tree.name(id)).matches());
  }
}
