package fiador.predicates;

import java.util.List;
import java.util.Map;

/** A user in a session of which something is known. */
public record InSession(Subject user, Map<SessionFact, String> facts) implements Subject {
  @Override
  public String name() {
    return user.name();
  }

  @Override
  public List<String> attribute(String attribute) {
    return user.attribute(attribute);
  }

  @Override
  public boolean holds(String role) {
    return user.holds(role);
  }

  @Override
  public String session(SessionFact fact) {
    return facts.get(fact);
  }

  @Override
  public List<Object> lookup(String lookup) {
    return user.lookup(lookup);
  }
}
