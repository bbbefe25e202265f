package fiador.grants.rules;

/** What an owner holds. */
public enum Ownership {
  /** Everything on the object itself unless taken away from it; can always grant. */
  OBJECT,
  /** Everything on all that the owned schema holds; can always grant. */
  SCHEMA,
  /** Nothing. */
  NONE
}
