package fiador.changes.outcome;

/** How what somebody has compares with what they had. */
enum Tilt {
  SAME,
  LESS,
  /** More, or some of it more and some less. */
  OTHER;

  /** Of two comparisons together. */
  Tilt and(Tilt more) {
    return compareTo(more) > 0 ? this : more;
  }

  /** Of sets of bits. */
  static Tilt of(long had, long has) {
    return had == has ? SAME : (has & ~had) == 0 ? LESS : OTHER;
  }
}
