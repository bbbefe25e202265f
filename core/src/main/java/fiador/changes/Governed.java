package fiador.changes;

import fiador.changes.Wanted.Governs;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.AccountName;
import fiador.grants.HouseRules.Accounts;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/** What of a server a charter decides. The server's own, and whoever looks at it, never. */
final class Governed {
  private static final Set<String> OWN =
      Set.of(
          "SA", "DBA", "PUBLIC", "_SYSTEM", "CREATE_SCHEMA", "CHANGE_AUTHORIZATION", "SCRIPT_OPS");

  private final Access access;
  private final Tree tree;
  private final Governs governs;
  private final Set<String> untouchable;
  private final Map<Integer, Boolean> schemas = new HashMap<>();
  private final Pattern schemaPattern;
  private final Pattern rolePattern;
  private final Pattern userPattern;

  /**
   * @param untouchable names of principals that are left alone whatever the charter governs
   */
  Governed(Access access, Governs governs, Set<String> untouchable) {
    this.access = access;
    this.tree = access.tree();
    this.governs = governs;
    this.untouchable = untouchable;
    this.schemaPattern = anyOf(governs.schemas());
    this.rolePattern = anyOf(governs.roles());
    this.userPattern = anyOf(governs.users());
  }

  private Pattern anyOf(List<String> names) {
    StringBuilder all = new StringBuilder("(?!)");
    for (String name : names) {
      all.append('|');
      String folded = access.rules().fold(name);
      for (String part : folded.split("\\*", -1)) {
        all.append(Pattern.quote(part)).append(".*");
      }
      all.setLength(all.length() - ".*".length());
    }
    return Pattern.compile(all.toString(), Pattern.DOTALL);
  }

  boolean principal(int id) {
    Principals people = access.principals();
    String name = people.name(id);
    boolean own =
        id == Principals.PUBLIC
            || people.has(id, Power.SUPERUSER)
            || people.scope(id) >= 0
            || name.startsWith("pg_")
            || OWN.contains(name)
            || untouchable.contains(name);
    if (own) {
      return false;
    }
    if (!people.isUser(id)) {
      return rolePattern.matcher(name).matches();
    }
    boolean byHost = access.rules().accounts() == Accounts.BY_HOST;
    String user = byHost ? AccountName.of(name).user() : name;
    boolean internal = user.isEmpty() || user.equals("root") || user.equals("mariadb.sys");
    return !internal && userPattern.matcher(user).matches();
  }

  boolean node(int node) {
    if (tree.isSystem(node)) {
      return false;
    }
    int schema = tree.enclosing(node, NodeKind.SCHEMA);
    return schema < 0
        ? governs.schemas().contains("*")
        : schemas.computeIfAbsent(schema, id -> schemaPattern.matcher(tree.name(id)).matches());
  }
}
