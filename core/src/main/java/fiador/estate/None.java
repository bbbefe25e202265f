package fiador.estate;

/**
 * What stands where an id is missing. Ids of principals, of nodes and ordinals of columns are ints;
 * all that is missing is below zero. Where a method takes ids of both, the principal stands before
 * the node, and the node before the column; a test of the build sees to that.
 */
public final class None {
  /** No principal: nobody owns it, nobody known gave it. */
  public static final int PRINCIPAL = -1;

  /** No node: there is no such thing, or the whole server is meant. */
  public static final int NODE = -1;

  /** No column: the whole thing. */
  public static final int COLUMN = -1;

  private None() {}
}
