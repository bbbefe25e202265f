package fiador.report.text;

import fiador.predicates.Values;
import fiador.report.shown.Visible;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Rows of a table as a user gets them, for people and for programs. */
public final class PreviewText {
  private PreviewText() {}

  /**
   * The rows in aligned columns, numbers to the right; cells are cut so that a line fits.
   *
   * @param rows null stands for SQL's null
   */
  public static String table(List<String> columns, List<Object[]> rows, int width) {
    int[] widths = new int[columns.size()];
    List<String[]> cells = new ArrayList<>();
    cells.add(columns.stream().map(Visible::of).toArray(String[]::new));
    for (Object[] row : rows) {
      String[] line = new String[row.length];
      for (int i = 0; i < row.length; i++) {
        line[i] = cell(row[i]);
      }
      cells.add(line);
    }
    for (String[] line : cells) {
      for (int i = 0; i < line.length; i++) {
        widths[i] = Math.max(widths[i], length(line[i]));
      }
    }
    fit(widths, width);
    boolean[] numbers = numbers(rows, widths.length);
    StringBuilder text = new StringBuilder();
    for (String[] line : cells) {
      StringBuilder one = new StringBuilder(" ");
      for (int i = 0; i < line.length; i++) {
        String shown = cut(line[i], widths[i]);
        String blanks = " ".repeat(widths[i] - length(shown));
        one.append(' ').append(numbers[i] ? blanks + shown : shown + blanks).append(' ');
      }
      text.append(one.toString().stripTrailing()).append('\n');
    }
    return text.toString();
  }

  private static boolean[] numbers(List<Object[]> rows, int columns) {
    boolean[] found = new boolean[columns];
    for (int i = 0; i < columns; i++) {
      int column = i;
      found[i] = rows.stream().allMatch(r -> r[column] == null || r[column] instanceof Number);
    }
    return found;
  }

  private static int length(String text) {
    return text.codePointCount(0, text.length());
  }

  private static String cut(String text, int room) {
    return length(text) <= room
        ? text
        : text.substring(0, text.offsetByCodePoints(0, room - 1)) + "…";
  }

  private static void fit(int[] widths, int width) {
    int narrowest = 6;
    while (true) {
      int all = 2;
      int widest = 0;
      for (int i = 0; i < widths.length; i++) {
        all += widths[i] + 2;
        widest = widths[i] > widths[widest] ? i : widest;
      }
      if (all <= width || widths[widest] <= narrowest) {
        return;
      }
      widths[widest]--;
    }
  }

  private static String cell(Object value) {
    return value == null
        ? "-"
        : Visible.of(
            Values.text(value).replace("\n", "\\n").replace("\r", "\\r").replace("\t", "\\t"));
  }

  /** Counts by the values of a column, for programs. */
  public static List<Map<String, Object>> groups(Map<String, long[]> counts, boolean compared) {
    List<Map<String, Object>> groups = new ArrayList<>();
    counts.forEach(
        (value, count) -> {
          Map<String, Object> one = new LinkedHashMap<>();
          one.put("value", value);
          one.put("rows", count[0]);
          one.put("shown", count[1]);
          if (compared) {
            one.put("compared", count[2]);
          }
          groups.add(one);
        });
    return groups;
  }

  /** One row for programs; nulls stay. */
  public static Map<String, Object> document(List<String> columns, Object[] row) {
    Map<String, Object> document = new LinkedHashMap<>();
    for (int i = 0; i < row.length; i++) {
      Object value = row[i];
      boolean plain = value == null || value instanceof Number || value instanceof Boolean;
      document.put(columns.get(i), plain ? value : Values.text(value));
    }
    return document;
  }
}
