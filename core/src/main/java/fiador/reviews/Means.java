package fiador.reviews;

/** Through what somebody has access. */
public enum Means {
  /** A role that was given to him. */
  ROLE,
  /** Grants to himself. */
  GRANT,
  /** Things that he owns. */
  OWNER,
  /** A power of his account, such as that of a superuser. */
  POWER,
  /** Grants to everybody. */
  EVERYBODY
}
