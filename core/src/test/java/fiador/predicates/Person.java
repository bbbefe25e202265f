package fiador.predicates;

import java.util.List;
import java.util.Map;
import java.util.Set;

/** A user for tests. */
public record Person(
    String name,
    Map<String, List<String>> attributes,
    Set<String> roles,
    Map<String, List<Object>> lookups)
    implements Subject {
  /** One who is in the north and the delta, and holds the role clerk. */
  public static final Person INES =
      new Person(
          "ines",
          Map.of("districts", List.of("north", "delta"), "desk", List.of("hills")),
          Set.of("clerk"),
          Map.of("desks", List.of("harbour")));

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
    return lookups.get(lookup);
  }
}
