package fiador.estate;

import java.util.Locale;

/** What a column holds, as far as predicates and masks have to know. */
public enum ColumnType {
  /** Anything else, or not known. */
  OTHER,
  /** Text of varying length. */
  TEXT,
  /** Text filled up with blanks, which are no part of its value. */
  PADDED,
  /** Whole numbers. */
  INTEGER,
  /** Exact numbers with decimals. */
  DECIMAL,
  /** Numbers that servers round each in their own way. */
  FLOAT,
  DATE,
  /** Date and time without a zone. */
  TIMESTAMP,
  BOOLEAN;

  private static final ColumnType[] ALL = values();

  private final String text = name().toLowerCase(Locale.ROOT);

  /** The type of that ordinal. */
  public static ColumnType at(int ordinal) {
    return ALL[ordinal];
  }

  /** The word in survey files and messages. */
  public String text() {
    return text;
  }

  /** The type of that word; OTHER for words not known. */
  public static ColumnType named(String word) {
    for (ColumnType type : ALL) {
      if (type.text().equals(word)) {
        return type;
      }
    }
    return OTHER;
  }

  /** Whether values are texts. */
  public boolean isText() {
    return this == TEXT || this == PADDED;
  }

  /** Whether values are exact numbers. */
  public boolean isNumber() {
    return this == INTEGER || this == DECIMAL;
  }

  /** Whether predicates may compare values of the one with values of the other. */
  public boolean compares(ColumnType other) {
    return isText() && other.isText()
        || isNumber() && other.isNumber()
        || this == other && this != FLOAT && this != OTHER;
  }
}
