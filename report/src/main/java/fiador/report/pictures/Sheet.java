package fiador.report.pictures;

import java.awt.Color;
import java.awt.Font;
import java.awt.Graphics2D;
import java.awt.geom.Rectangle2D;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiFunction;
import org.jfree.svg.SVGHints;

/**
 * What all drawings have: ground, title, what it was drawn from, notes. Writes text with fonts that
 * depend on the format.
 */
final class Sheet {
  static final double MARGIN = 26;
  static final double HEADER = 62;
  static final double LEGEND = 34;
  static final double NOTE = 17;

  private final Graphics2D to;
  private final Theme theme;
  private final BiFunction<String, Float, Font> fonts;

  Sheet(Graphics2D to, Theme theme, BiFunction<String, Float, Font> fonts) {
    this.to = to;
    this.theme = theme;
    this.fonts = fonts;
  }

  Graphics2D pen() {
    return to;
  }

  Theme theme() {
    return theme;
  }

  void ground(double width, double height) {
    to.setColor(theme.paper());
    to.fill(new Rectangle2D.Double(0, 0, width, height));
  }

  void title(String title, String origin) {
    text(title, MARGIN, MARGIN + 16, Lettering.TITLE, theme.text());
    text(origin, MARGIN, MARGIN + 36, Lettering.SMALL + 1, theme.faint());
  }

  void text(String text, double x, double y, float size, Color colour) {
    if (!text.isEmpty()) {
      to.setColor(colour);
      to.setFont(fonts.apply(text, size));
      to.drawString(text, (float) x, (float) y);
    }
  }

  /** What whoever points at the next thing drawn is told; formats without such leave it out. */
  void says(String text) {
    to.setRenderingHint(SVGHints.KEY_ELEMENT_TITLE, text);
  }

  /**
   * Notes below everything.
   *
   * @param width how wide their lines may be
   */
  void notes(List<String> notes, double y, double width) {
    double at = y;
    for (String line : broken(notes, width)) {
      text(line, MARGIN, at, Lettering.SMALL + 1, theme.faint());
      at += NOTE;
    }
  }

  /** How high notes are. */
  static double height(List<String> notes, double width) {
    return broken(notes, width).size() * NOTE;
  }

  private static List<String> broken(List<String> notes, double width) {
    List<String> lines = new ArrayList<>();
    for (String note : notes) {
      StringBuilder line = new StringBuilder();
      for (String word : note.split(" ", -1)) {
        boolean full = Lettering.width(line + " " + word, Lettering.SMALL + 1) > width;
        if (full && line.length() > 0) {
          lines.add(line.toString());
          line.setLength(0);
        }
        line.append(line.length() == 0 ? "" : " ").append(word);
      }
      lines.add(line.toString());
    }
    return lines;
  }
}
