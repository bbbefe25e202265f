package fiador.findings.check;

/** Which principals one principal holds, for asking very often in a row about the same one. */
public final class Stamps {
  /** Tells all that a principal holds. */
  interface Closure {
    int[] of(int principal);
  }

  private final Closure closure;
  private final int[] stamp;
  private int round;
  private int whose = -1;

  Stamps(int principals, Closure closure) {
    this.stamp = new int[principals];
    this.closure = closure;
  }

  /** Whether the one holds the other, or is it. Cost: nothing, while the first stays the same. */
  public boolean holds(int principal, int role) {
    if (principal != whose) {
      whose = principal;
      round++;
      for (int held : closure.of(principal)) {
        stamp[held] = round;
      }
    }
    return stamp[role] == round;
  }
}
