package fiador.predicates;

import java.util.List;

/** The user who asks, as predicates know one. */
public interface Subject {
  /** Its name, as the charter writes it where there is one. */
  String name();

  /** The values of an attribute; empty when it has none. */
  List<String> attribute(String attribute);

  /** Whether it holds a role, directly or through others. */
  boolean holds(String role);

  /** Something about the session in which it asks; null when that is not known. */
  default String session(SessionFact fact) {
    return null;
  }

  /** What a lookup table says of it; null when its contents are not known. */
  List<Object> lookup(String lookup);
}
