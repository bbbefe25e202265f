package fiador.proofs;

import fiador.climb.Climb;

/** What somebody does by their own means, on the way to something they could not do before. */
public sealed interface Rung {
  /** As whom: the user, or somebody it can act as by then. */
  int by();

  /** Comes to act as somebody else. */
  record Climbs(Climb.Rung rung) implements Rung {
    @Override
    public int by() {
      return rung.by();
    }
  }

  /**
   * Gives a role that it may give to somebody it acts as, so that both count at once.
   *
   * @param to to whom
   */
  record Gives(int by, int role, int to) implements Rung {}

  /**
   * Grants what it may grant.
   *
   * @param privileges a set
   * @param node on what
   * @param to to whom: itself, or somebody it can act as
   * @param owner whether as the owner
   */
  record Grants(int by, long privileges, int node, int to, boolean owner) implements Rung {}

  /**
   * Moves a table to where it may use it.
   *
   * @param node the table
   * @param schema where to
   */
  record Moves(int by, int node, int schema) implements Rung {}
}
