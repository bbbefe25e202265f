package fiador.reviews;

/** Through what somebody has access. */
public enum Means {
  /** A role that was given to them. */
  ROLE,
  /** Grants to themselves. */
  GRANT,
  /** Things that they own. */
  OWNER,
  /** A power of their account, such as that of a superuser. */
  POWER,
  /** Grants to everybody. */
  EVERYBODY
}
