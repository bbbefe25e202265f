package fiador.report.lists;

import fiador.report.shown.Tone;
import fiador.report.shown.Visible;
import fiador.report.text.Columns;
import fiador.report.text.Headline;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A list as a table for people. Columns in which nothing stands are left out, and those that say
 * the same in every row are said once below.
 */
final class ListText {
  /** Points in time, of which people read day and minute. */
  private static final Pattern TIME =
      Pattern.compile("(\\d{4}-\\d\\d-\\d\\d)T(\\d\\d:\\d\\d)(:\\d\\d(\\.\\d+)?)?Z");

  private final Source source;
  private final Listing listing;
  private final int width;
  private final List<Map<String, Object>> rows = new ArrayList<>();

  ListText(Source source, Listing listing, int width) throws IOException {
    this.source = source;
    this.listing = listing;
    this.width = width;
    listing.rows(rows::add);
  }

  long count() {
    return rows.size();
  }

  String whole() {
    String said = listing.counted().of(rows.size());
    StringBuilder text = new StringBuilder();
    text.append(Headline.of(said, source.shown().origin(source.now()), width)).append("\n");
    if (rows.isEmpty()) {
      return text.toString();
    }
    List<String> fields = listing.fields().stream().filter(this::isUsed).toList();
    List<String> alike = fields.stream().filter(this::isAlike).toList();
    text.append("\n").append(table(fields.stream().filter(f -> !alike.contains(f)).toList()));
    Columns remarks = new Columns(width);
    if (!alike.isEmpty()) {
      String all = String.join(", ", alike.stream().map(this::said).toList());
      remarks.line(Tone.FAINT.of("in every row"), all);
    }
    if (!listing.remark().isEmpty()) {
      remarks.line(Tone.FAINT.of("note"), listing.remark());
    }
    String below = remarks.text();
    return text.append(below.isEmpty() ? "" : "\n" + below).toString();
  }

  private boolean isUsed(String field) {
    return rows.stream().anyMatch(row -> row.get(field) != null);
  }

  /** Whether it says the same in each row, and is not what the rows are about. */
  private boolean isAlike(String field) {
    Object first = rows.get(0).get(field);
    boolean about = listing.fields().indexOf(field) < listing.telling();
    return rows.size() > 2
        && !about
        && rows.stream().allMatch(row -> Objects.equals(row.get(field), first));
  }

  private String said(String field) {
    return field.replace('_', ' ') + " " + cell(rows.get(0).get(field));
  }

  private String table(List<String> fields) {
    Columns table = new Columns(width);
    table.line(
        fields.stream()
            .map(field -> Tone.FAINT.of(field.replace('_', ' ')))
            .toArray(String[]::new));
    for (Map<String, Object> row : rows) {
      table.line(fields.stream().map(field -> cell(row.get(field))).toArray(String[]::new));
    }
    return table.fits() || fields.size() <= listing.telling() ? table.text() : blocks(fields);
  }

  /** One below the other, where they are too many for a line. */
  private String blocks(List<String> fields) {
    StringBuilder text = new StringBuilder();
    for (Map<String, Object> row : rows) {
      Columns facts = new Columns(width - 2);
      for (String field : fields.subList(1, fields.size())) {
        if (row.get(field) != null) {
          facts.line("  " + Tone.FAINT.of(field.replace('_', ' ')), cell(row.get(field)));
        }
      }
      text.append(text.isEmpty() ? "" : "\n").append("  ");
      text.append(Tone.STRONG.of(Visible.of(cell(row.get(fields.get(0)))))).append("\n");
      text.append(facts.text());
    }
    return text.toString();
  }

  private static String cell(Object value) {
    if (value instanceof Collection<?> several) {
      return String.join(", ", several.stream().map(String::valueOf).toList());
    } else if (value instanceof Boolean so) {
      return so ? "yes" : "no";
    }
    String text = value == null ? "" : value.toString();
    Matcher time = TIME.matcher(text);
    return time.matches() ? time.group(1) + " " + time.group(2) : text;
  }
}
