package fiador.report.pictures;

/**
 * How wide letters are, so that boxes fit their names without asking the system for its fonts, and
 * the same on every machine. The widths are those that Liberation Sans and the fonts made to its
 * measure share, in thousandths of the size.
 */
final class Lettering {
  /** The family that is drawn with. */
  static final String FAMILY = "Liberation Sans";

  static final float TITLE = 19;
  static final float NAME = 13;
  static final float SMALL = 11;

  private static final int OTHER = 600;
  private static final int WIDE = 1000;
  private static final int FIRST_WIDE = 0x1100;

  /** From the space to the tilde. */
  private static final int[] WIDTHS = {
    278, 278, 355, 556, 556, 889, 667, 191, 333, 333, 389, 584, 278, 333, 278, 278, 556, 556, 556,
    556, 556, 556, 556, 556, 556, 556, 278, 278, 584, 584, 584, 556, 1015, 667, 667, 722, 722, 667,
    611, 778, 722, 278, 500, 667, 556, 833, 722, 778, 667, 778, 722, 667, 611, 722, 667, 944, 667,
    667, 611, 278, 278, 278, 469, 556, 333, 556, 556, 500, 556, 556, 278, 556, 556, 222, 222, 500,
    222, 833, 556, 556, 556, 556, 333, 500, 278, 556, 500, 722, 500, 500, 500, 334, 260, 334, 584
  };

  private Lettering() {}

  /** How wide a text of a size is. */
  static double width(String text, double size) {
    long sum = 0;
    for (int at = 0; at < text.length(); at += Character.charCount(text.codePointAt(at))) {
      sum += width(text.codePointAt(at));
    }
    return sum * size / WIDE;
  }

  private static int width(int codePoint) {
    int at = codePoint - ' ';
    if (at >= 0 && at < WIDTHS.length) {
      return WIDTHS[at];
    }
    return codePoint >= FIRST_WIDE && Character.isIdeographic(codePoint) ? WIDE : OTHER;
  }

  /** A text no wider than that; what is too much goes from the middle. */
  static String fitting(String text, double size, double most) {
    if (width(text, size) <= most) {
      return text;
    }
    int[] points = text.codePoints().toArray();
    int kept = points.length - 1;
    String shorter = text;
    while (kept > 1 && width(shorter, size) > most) {
      int head = (kept + 1) / 2;
      int tail = kept - head;
      shorter = new String(points, 0, head) + "…" + new String(points, points.length - tail, tail);
      kept--;
    }
    return shorter;
  }
}
