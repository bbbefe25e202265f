package fiador.policies;

import java.math.BigDecimal;
import java.util.BitSet;

/**
 * Tells whether two sets of rows are the same in whatever order, without keeping them: two sums of
 * 64-bit hashes, mixed in different ways. Memory: none per row.
 */
public final class RowsDigest {
  private static final long SEED = 1125899906842597L;
  private static final long GOLDEN = 0x9E3779B97F4A7C15L;

  private long rows;
  private long sum;
  private long mixed;

  /** Adds the values of some columns of a row. Numbers are the same whatever their scale. */
  public void add(Object[] row, BitSet columns) {
    long hash = SEED;
    for (int i = columns.nextSetBit(0); i >= 0; i = columns.nextSetBit(i + 1)) {
      String text = canonical(row[i]);
      for (int at = 0; at < text.length(); at++) {
        hash = 31 * hash + text.charAt(at);
      }
      hash = 31 * hash + 0x1F;
    }
    rows++;
    sum += hash;
    mixed += Long.rotateLeft(hash * GOLDEN, 29) ^ hash;
  }

  private static String canonical(Object value) {
    if (value == null) {
      return "\0";
    }
    return value instanceof BigDecimal number
        ? number.stripTrailingZeros().toPlainString()
        : String.valueOf(value);
  }

  /** How many rows there were. */
  public long rows() {
    return rows;
  }

  /** Whether the same rows were added to both. */
  public boolean sameAs(RowsDigest other) {
    return rows == other.rows && sum == other.sum && mixed == other.mixed;
  }
}
