package fiador.report.text;

import fiador.report.shown.Tone;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Lines of cells in aligned columns. Where they do not fit, the widest column gives way first, and
 * its cells are wrapped: at blanks, else behind a dot or an underscore, else anywhere.
 */
public final class Columns {
  private static final String INDENT = "  ";
  private static final String GAP = "   ";

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
      seen[i] = Tone.visible(cells[i]);
    }
    lines.add(seen);
    return this;
  }

  /** Whether all lines fit without a word being broken. */
  public boolean fits() {
    int sum = 0;
    int columns = lines.stream().mapToInt(cells -> cells.length).max().orElse(0);
    for (int i = 0; i < columns; i++) {
      int longest = 0;
      for (String[] cells : lines) {
        longest = Math.max(longest, i < cells.length ? longestWord(cells[i]) : 0);
      }
      sum += longest;
    }
    return sum <= room(columns);
  }

  private int room(int columns) {
    return width - INDENT.length() - GAP.length() * Math.max(0, columns - 1);
  }

  /** The whole. */
  public String text() {
    int[] rooms = widths();
    int[] widths = new int[rooms.length];
    List<List<List<String>>> wrapped = new ArrayList<>();
    for (String[] cells : lines) {
      List<List<String>> line = new ArrayList<>();
      for (int i = 0; i < cells.length; i++) {
        List<String> parts = Wrapped.cell(cells[i], rooms[i]);
        for (String part : parts) {
          widths[i] = Math.max(widths[i], Tone.width(part));
        }
        line.add(parts);
      }
      wrapped.add(line);
    }
    StringBuilder text = new StringBuilder();
    wrapped.forEach(line -> append(line, widths, text));
    return text.toString();
  }

  private static void append(List<List<String>> cells, int[] widths, StringBuilder text) {
    int height = cells.stream().mapToInt(List::size).max().orElse(0);
    for (int row = 0; row < height; row++) {
      StringBuilder line = new StringBuilder(INDENT);
      for (int i = 0; i < cells.size(); i++) {
        String part = row < cells.get(i).size() ? cells.get(i).get(row) : "";
        line.append(i == 0 ? "" : GAP).append(part);
        line.append(" ".repeat(Math.max(0, widths[i] - Tone.width(part))));
      }
      text.append(line.toString().stripTrailing()).append('\n');
    }
  }

  private int[] widths() {
    int columns = lines.stream().mapToInt(cells -> cells.length).max().orElse(0);
    int[] widths = new int[columns];
    int[] words = new int[columns];
    for (String[] cells : lines) {
      for (int i = 0; i < cells.length; i++) {
        widths[i] = Math.max(widths[i], Tone.width(cells[i]));
        words[i] = Math.max(words[i], longestWord(cells[i]));
      }
    }
    int room = room(columns);
    // no word is broken while another column still has blanks to be wrapped at
    narrow(widths, words, room);
    int[] least = new int[columns];
    Arrays.fill(least, Wrapped.NARROWEST);
    narrow(widths, least, room);
    return widths;
  }

  /** Takes from the widest that may still give, until all fit or none may. */
  private static void narrow(int[] widths, int[] least, int room) {
    while (Arrays.stream(widths).sum() > room) {
      int widest = -1;
      for (int i = 0; i < widths.length; i++) {
        boolean may = widths[i] > Math.max(least[i], Wrapped.NARROWEST);
        widest = may && (widest < 0 || widths[i] > widths[widest]) ? i : widest;
      }
      if (widest < 0) {
        return;
      }
      widths[widest]--;
    }
  }

  private static int longestWord(String cell) {
    int longest = 0;
    for (String word : cell.split(" ", -1)) {
      longest = Math.max(longest, Tone.width(word));
    }
    // what is wrapped stands a little further in
    return longest + Wrapped.FURTHER.length();
  }
}
