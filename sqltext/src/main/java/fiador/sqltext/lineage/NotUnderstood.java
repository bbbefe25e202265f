package fiador.sqltext.lineage;

/** A text is beyond the parser, or names something that is not known. */
public final class NotUnderstood extends Exception {
  private static final long serialVersionUID = 1L;

  /** What it is. */
  public NotUnderstood(String what) {
    super(what);
  }

  /** Why the parser gave up. */
  public NotUnderstood(Throwable why) {
    super(why);
  }
}
