package fiador.grants;

/**
 * What one grant row gives, apart from who and where. Estates use few different terms, so grants
 * keep an int for them.
 *
 * @param privileges the privileges given
 * @param grantable those of them that may be granted on
 * @param covers the kinds of node (bits of {@link fiador.estate.NodeKind}) inside the container
 *     that the grant reaches; 0 when it speaks about its own node only
 * @param until the epoch second after which it is over, or {@link #FOREVER}
 * @param pattern the index of the {@link SchemaPattern} it comes from, or {@link #NO_PATTERN}
 * @param label the id among the estate's texts of the label it was given by, or {@link #NO_LABEL}:
 *     then it stands here on each thing that carries the label
 */
public record Terms(
    long privileges, long grantable, int covers, long until, int pattern, int label) {
  /** The {@code until} of what has no end. */
  public static final long FOREVER = Long.MAX_VALUE;

  /** The {@code pattern} of what was given on a node by its name. */
  public static final int NO_PATTERN = -1;

  /** The {@code label} of what was given on the thing itself. */
  public static final int NO_LABEL = -1;

  /** Terms of a grant by name. */
  public Terms(long privileges, long grantable, int covers, long until) {
    this(privileges, grantable, covers, until, NO_PATTERN, NO_LABEL);
  }

  /** Terms for the node itself, without an end. */
  public static Terms of(long privileges, long grantable) {
    return new Terms(privileges, grantable, 0, FOREVER);
  }

  /** The same, given on all that carries a label. */
  public Terms by(int otherLabel) {
    return new Terms(privileges, grantable, covers, until, pattern, otherLabel);
  }

  /** Whether it was given on the thing by its name, so that a statement about it takes it. */
  public boolean isByName() {
    return pattern == NO_PATTERN && label == NO_LABEL;
  }

  /** Whether it is over at that epoch second. */
  public boolean isOver(long epochSecond) {
    return until < epochSecond;
  }

  // written out: the generated ones are bootstrapped at the first call, which every start would pay

  @Override
  public boolean equals(Object other) {
    return other instanceof Terms terms
        && terms.privileges == privileges
        && terms.grantable == grantable
        && terms.covers == covers
        && terms.until == until
        && terms.pattern == pattern
        && terms.label == label;
  }

  @Override
  public int hashCode() {
    return Long.hashCode(privileges * 31 + grantable) * 31
        + covers
        + pattern * 7
        + label * 13
        + Long.hashCode(until);
  }
}
