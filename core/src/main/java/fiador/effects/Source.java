package fiador.effects;

import fiador.estate.Power;

/** What a path ends in: the thing that gives the privilege. */
public sealed interface Source {
  /** Whether it also gives the right to grant on. */
  boolean grantable();

  /**
   * A grant.
   *
   * @param row its row in the grants
   */
  record Granted(int row, boolean grantable) implements Source {}

  /**
   * Ownership.
   *
   * @param node what is owned: the object, or the schema it lies in
   */
  record Owned(int node) implements Source {
    @Override
    public boolean grantable() {
      return true;
    }
  }

  /**
   * A power.
   *
   * @param power which
   */
  record Powered(Power power) implements Source {
    @Override
    public boolean grantable() {
      return power == Power.SUPERUSER;
    }
  }
}
