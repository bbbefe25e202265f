package fiador.changes.outcome;

import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;

/**
 * Who holds which role through another one, by names. Cost of a question: the memberships above who
 * is asked about.
 */
public final class HeldThrough {
  private final Map<String, Set<String>> rolesOf = new HashMap<>();

  /** A membership. */
  public void add(String member, String role) {
    rolesOf.computeIfAbsent(member, fresh -> new LinkedHashSet<>()).add(role);
  }

  /** Whether a member would hold a role if it had not been given to them themselves. */
  public boolean others(String member, String role) {
    Set<String> seen = new HashSet<>();
    Deque<String> open = new ArrayDeque<>();
    Collection<String> first = rolesOf.getOrDefault(member, Set.of());
    first.stream().filter(each -> !each.equals(role)).forEach(open::add);
    while (!open.isEmpty()) {
      String at = open.remove();
      if (at.equals(role)) {
        return true;
      }
      if (seen.add(at)) {
        open.addAll(rolesOf.getOrDefault(at, Set.of()));
      }
    }
    return false;
  }
}
