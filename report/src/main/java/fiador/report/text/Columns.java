package fiador.report.text;

import fiador.report.shown.Visible;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Lines of cells in aligned columns. Where they do not fit, the widest column gives way first, and
 * its cells are wrapped at blanks.
 */
public final class Columns {
  private static final String INDENT = "  ";
  private static final String GAP = "   ";
  private static final int NARROWEST = 16;

  private final int width;
  private final List<String[]> lines = new ArrayList<>();

  /**
   * @param width how wide a line may be
   */
  public Columns(int width) {
    this.width = width;
  }

  /** Adds a line. */
  public Columns line(String... cells) {
    String[] seen = new String[cells.length];
    for (int i = 0; i < cells.length; i++) {
      seen[i] = Visible.of(cells[i]);
    }
    lines.add(seen);
    return this;
  }

  /** The whole. */
  public String text() {
    int[] widths = widths();
    StringBuilder text = new StringBuilder();
    for (String[] cells : lines) {
      List<List<String>> wrapped = new ArrayList<>();
      int height = 1;
      for (int i = 0; i < cells.length; i++) {
        wrapped.add(wrapped(cells[i], widths[i]));
        height = Math.max(height, wrapped.get(i).size());
      }
      for (int row = 0; row < height; row++) {
        StringBuilder line = new StringBuilder(INDENT);
        for (int i = 0; i < cells.length; i++) {
          String part = row < wrapped.get(i).size() ? wrapped.get(i).get(row) : "";
          line.append(i == 0 ? "" : GAP).append(part);
          line.append(" ".repeat(Math.max(0, widths[i] - part.length())));
        }
        text.append(line.toString().stripTrailing()).append('\n');
      }
    }
    return text.toString();
  }

  private int[] widths() {
    int columns = lines.stream().mapToInt(cells -> cells.length).max().orElse(0);
    int[] widths = new int[columns];
    for (String[] cells : lines) {
      for (int i = 0; i < cells.length; i++) {
        widths[i] = Math.max(widths[i], cells[i].length());
      }
    }
    int room = width - INDENT.length() - GAP.length() * Math.max(0, columns - 1);
    while (Arrays.stream(widths).sum() > room) {
      int widest = 0;
      for (int i = 1; i < columns; i++) {
        widest = widths[i] > widths[widest] ? i : widest;
      }
      if (widths[widest] <= NARROWEST) {
        break;
      }
      widths[widest]--;
    }
    return widths;
  }

  private static List<String> wrapped(String cell, int room) {
    List<String> parts = new ArrayList<>();
    String rest = cell;
    while (rest.length() > room) {
      int cut = rest.lastIndexOf(' ', room);
      if (cut <= 0) {
        break;
      }
      parts.add(rest.substring(0, cut));
      // what is wrapped stands a little further in, so that it is not taken for a line of its own
      rest = "  " + rest.substring(cut + 1);
      if (rest.length() > room && rest.lastIndexOf(' ', room) <= 1) {
        break;
      }
    }
    parts.add(rest);
    return parts;
  }
}
