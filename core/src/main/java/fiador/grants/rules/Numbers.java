package fiador.grants.rules;

/**
 * How exactly a server reckons.
 *
 * @param mostDigits how many digits the result of arithmetic may have; more is an error while
 *     reading
 * @param wholeDigits how many digits before the point attributes are compared by
 * @param fractionDigits how many behind it
 */
public record Numbers(int mostDigits, int wholeDigits, int fractionDigits) {
  /** As many digits as there are. */
  public static final Numbers EXACT =
      new Numbers(Integer.MAX_VALUE, Integer.MAX_VALUE, Integer.MAX_VALUE);

  /**
   * Whether a text is a number of more digits than attributes are compared by. Such a one would be
   * taken for its neighbour.
   */
  public boolean isBeyond(String text) {
    if (!text.matches("[+-]?\\d*(\\.\\d*)?")) {
      return false;
    }
    String digits = text.replaceFirst("^[+-]?0*", "");
    int point = digits.indexOf('.');
    int whole = point < 0 ? digits.length() : point;
    String fraction = point < 0 ? "" : digits.substring(point + 1).replaceFirst("0+$", "");
    return whole > wholeDigits || fraction.length() > fractionDigits;
  }
}
