package fiador.grants.rules;

/** When a role given to somebody counts. */
public enum Activation {
  /** At once or after switching, as an attribute of the member says. */
  PER_MEMBER,
  /** At once or after switching, as each membership says. */
  PER_MEMBERSHIP,
  /** At once, always. */
  ALL_ON,
  /**
   * One role at a time, with all it holds, adds to the account's own rights: the default role after
   * login, another after switching.
   */
  ONE_AT_A_TIME
}
