package fiador.effects;

/** What would turn a "no" into a "yes". */
public sealed interface Remedy {
  /**
   * A grant.
   *
   * @param privilege a single bit
   * @param node on what
   * @param column an ordinal, or -1 for the whole
   * @param grantee to whom
   */
  record Grant(long privilege, int node, int column, int grantee) implements Remedy {}

  /**
   * Membership in a role that has it.
   *
   * @param role which
   * @param holdings how many holdings the role carries altogether
   */
  record Join(int role, long holdings) implements Remedy {}
}
