package fiador.changes.steps;

/** What a step does, as far as its place among others depends on that. */
public enum Turn {
  /** Makes something, or gives it another owner, before anybody is granted anything on it. */
  MAKES,
  /** Gives. */
  GIVES,
  /** Takes. */
  TAKES,
  /** Takes from one hand what is given from another: nobody holds anything else than before. */
  TAKES_OVER,
  /** Removes what nobody needs any more once all the rest is done. */
  DROPS
}
