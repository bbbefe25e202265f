package fiador.grants;

/**
 * How much is given.
 *
 * @param privileges as a mask
 * @param grantable those that may be granted on
 */
public record Extent(long privileges, long grantable) {
  /** Nothing at all. */
  public static final Extent NONE = new Extent(0, 0);

  /** Of a grant. */
  public static Extent of(Terms terms) {
    return new Extent(terms.privileges(), terms.grantable());
  }

  /** Together with another. */
  public Extent and(Extent other) {
    return new Extent(privileges | other.privileges, grantable | other.grantable);
  }

  /** What the other has not, of either, as a mask. */
  public long beyond(Extent other) {
    return privileges & ~other.privileges | grantable & ~other.grantable;
  }
}
