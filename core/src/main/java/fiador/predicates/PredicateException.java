package fiador.predicates;

import fiador.refusal.Refusal;

/** A predicate that cannot be read, or makes no sense. */
public final class PredicateException extends Refusal {
  private static final long serialVersionUID = 1L;

  private final int at;

  /**
   * Something wrong.
   *
   * @param at where in the text, counted from 0
   */
  public PredicateException(String message, int at) {
    super(message);
    this.at = at;
  }

  /** Where in the text, counted from 0. */
  public int at() {
    return at;
  }
}
