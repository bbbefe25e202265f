package fiador.report;

import java.util.ArrayList;
import java.util.List;

/** Lines of cells, laid out in aligned columns; the last one may run as wide as it likes. */
public final class Columns {
  private static final String GAP = "   ";

  private final int width;
  private final List<String[]> lines = new ArrayList<>();

  /**
   * @param width how wide a line may be; longer last cells are wrapped at blanks
   */
  public Columns(int width) {
    this.width = width;
  }

  /** Adds a line. */
  public Columns line(String... cells) {
    lines.add(cells);
    return this;
  }

  /** The whole, each line indented by two. */
  public String text() {
    int[] widths = new int[lines.stream().mapToInt(cells -> cells.length).max().orElse(0)];
    for (String[] cells : lines) {
      for (int i = 0; i + 1 < cells.length; i++) {
        widths[i] = Math.max(widths[i], Math.min(cells[i].length(), 60));
      }
    }
    StringBuilder text = new StringBuilder();
    for (String[] cells : lines) {
      StringBuilder line = new StringBuilder("  ");
      for (int i = 0; i < cells.length; i++) {
        if (i + 1 == cells.length) {
          appendWrapped(line, cells[i]);
        } else {
          line.append(cells[i]).append(" ".repeat(Math.max(0, widths[i] - cells[i].length())));
          line.append(GAP);
        }
      }
      text.append(line.toString().stripTrailing()).append('\n');
    }
    return text.toString();
  }

  private void appendWrapped(StringBuilder line, String cell) {
    int indent = line.length() - (line.lastIndexOf("\n") + 1);
    int room = Math.max(20, width - indent);
    String rest = cell;
    while (rest.length() > room) {
      int cut = rest.lastIndexOf(' ', room) + 1;
      if (cut <= 0) {
        break;
      }
      line.append(rest, 0, cut).append('\n').append(" ".repeat(indent));
      rest = rest.substring(cut).stripLeading();
    }
    line.append(rest);
  }
}
