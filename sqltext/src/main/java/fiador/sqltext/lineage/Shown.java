package fiador.sqltext.lineage;

/**
 * What a column of a view shows.
 *
 * @param under the node under the view
 * @param column the ordinal of its column
 * @param asIs whether its values come as they are; else something is worked out of them
 */
public record Shown(int under, int column, boolean asIs) {
  /** The same, with something done to the values. */
  Shown changed() {
    return asIs ? new Shown(under, column, false) : this;
  }
}
