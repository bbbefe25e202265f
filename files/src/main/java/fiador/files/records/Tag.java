package fiador.files.records;

/** What stands before each value; written by its ordinal. */
enum Tag {
  NULL,
  /** A record or text that was there before, by its number. */
  BEFORE,
  TEXT,
  NUMBER,
  LONG_NUMBER,
  TRUE,
  FALSE,
  LIST,
  SET,
  MAP,
  /** A map whose keys are told apart by identity. */
  IDENTITY_MAP,
  ENUM,
  RECORD,
  DECIMAL,
  INSTANT,
  DATE,
  DATE_TIME;

  private static final Tag[] ALL = values();

  /** The tag of an ordinal; null where there is none. */
  static @org.jspecify.annotations.Nullable Tag of(int ordinal) {
    return ordinal < ALL.length ? ALL[ordinal] : null;
  }
}
