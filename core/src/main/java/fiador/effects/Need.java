package fiador.effects;

import java.util.BitSet;

/** What has to be held for one part of a statement. */
public sealed interface Need {
  /** On what. */
  int node();

  /**
   * A right.
   *
   * @param anyOf privileges of which one is enough
   * @param columns ordinals, all of which it has to be on; null for the whole
   * @param anyPart whether it may be on any part of the thing instead: nothing of it is read, but
   *     that it is there
   */
  record Right(long anyOf, int node, BitSet columns, boolean anyPart) implements Need {}

  /** To own the thing, or what it lies in where that is enough to create and drop. */
  record Ownership(int node) implements Need {}
}
