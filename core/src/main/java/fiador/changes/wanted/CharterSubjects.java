package fiador.changes.wanted;

import fiador.grants.AccountName;
import fiador.policies.ColumnMask;
import fiador.predicates.Expression;
import fiador.predicates.Simplifier;
import fiador.predicates.Subject;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/** The users of a charter as policies find them. */
public final class CharterSubjects {
  private final Wanted wanted;
  private final UnaryOperator<String> stored;
  private final Map<String, Set<String>> rolesOf = new HashMap<>();

  public CharterSubjects(Wanted wanted, UnaryOperator<String> stored) {
    this.wanted = wanted;
    this.stored = stored;
    for (Wanted.Member member : wanted.memberships()) {
      rolesOf.computeIfAbsent(member.member(), none -> new HashSet<>()).add(member.role());
    }
  }

  /** A user as the server names whoever is logged in: without a host. */
  public String key(String user) {
    String name = stored.apply(user);
    return name.contains("@") ? AccountName.of(name).user() : name;
  }

  /** A name without the quotes in which a charter may write it. */
  public static String unquoted(String name) {
    boolean quoted = name.length() > 1 && name.startsWith("\"") && name.endsWith("\"");
    return quoted ? name.substring(1, name.length() - 1).replace("\"\"", "\"") : name;
  }

  private record User(String name, Map<String, List<String>> attributes, Set<String> roles)
      implements Subject {
    @Override
    public List<String> attribute(String attribute) {
      return attributes.getOrDefault(attribute, List.of());
    }

    @Override
    public boolean holds(String role) {
      return roles.contains(role);
    }

    @Override
    public List<Object> lookup(String lookup) {
      return null;
    }
  }

  /** A user of the charter; roles by the names the server stores. */
  Subject of(String user) {
    Set<String> held = new HashSet<>();
    Deque<String> open = new ArrayDeque<>(rolesOf.getOrDefault(user, Set.of()));
    while (!open.isEmpty()) {
      String role = open.pop();
      if (held.add(stored.apply(role))) {
        open.addAll(rolesOf.getOrDefault(role, Set.of()));
      }
    }
    return new User(unquoted(user), wanted.sight().attributes().getOrDefault(user, Map.of()), held);
  }

  /** The first user to whom both masks apply; null if there is none. */
  public String firstWithBoth(ColumnMask one, ColumnMask other) {
    for (Wanted.Principal user : wanted.users()) {
      Simplifier about = new Simplifier(of(user.name()));
      boolean both =
          Stream.of(one, other)
              .noneMatch(mask -> about.known(mask.applies()).equals(Expression.FALSE));
      if (both) {
        return user.name();
      }
    }
    return null;
  }
}
