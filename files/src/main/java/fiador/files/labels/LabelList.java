package fiador.files.labels;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import fiador.refusal.BadInput;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;

/**
 * Reads which things of which servers carry a label: CSV with the columns {@code label}, {@code
 * object} and, where not every server is meant, {@code server}.
 */
public final class LabelList {
  private static final long LARGEST = 64L << 20;

  private LabelList() {}

  /**
   * A line.
   *
   * @param label the label
   * @param server the server or a pattern of servers; empty for all
   * @param object a dotted name, or a pattern
   * @param line where it stands
   */
  public record Line(String label, String server, String object, long line) {}

  /**
   * Reads a list.
   *
   * @throws BadInput when it is none, with the line
   */
  public static List<Line> read(Path file) throws BadInput, IOException {
    if (Files.size(file) > LARGEST) {
      throw new BadInput(file + " is larger than 64 MiB; that is no list of labels");
    }
    String text;
    try {
      text = Files.readString(file, StandardCharsets.UTF_8).replaceFirst("^\uFEFF", "");
    } catch (CharacterCodingException other) {
      throw new BadInput(file + " is not in UTF-8");
    }
    if (text.chars().filter(each -> each == '"').count() % 2 == 1) {
      throw new BadInput(file + ": a quote is opened and not closed; this is no CSV");
    }
    List<Line> lines = new ArrayList<>();
    try (CsvReader<CsvRecord> records = CsvReader.builder().ofCsvRecord(text)) {
      List<String> columns = List.of();
      for (CsvRecord record : records) {
        if (columns.isEmpty()) {
          columns = header(file, record);
        } else {
          lines.add(line(file, record, columns));
        }
      }
    } catch (CsvParseException broken) {
      throw new BadInput(file + ": this is no CSV: " + broken.getMessage());
    }
    if (lines.isEmpty()) {
      throw new BadInput(file + " labels nothing");
    }
    return lines;
  }

  private static List<String> header(Path file, CsvRecord record) throws BadInput {
    List<String> columns =
        record.getFields().stream().map(name -> name.strip().toLowerCase(Locale.ROOT)).toList();
    boolean known = List.of("label", "server", "object").containsAll(columns);
    boolean whole = columns.contains("label") && columns.contains("object");
    if (!known || !whole || new HashSet<>(columns).size() < columns.size()) {
      throw new BadInput(
          file
              + ":1: expected the columns label, object and, if need be, server; found "
              + columns);
    }
    return columns;
  }

  private static Line line(Path file, CsvRecord record, List<String> columns) throws BadInput {
    long at = record.getStartingLineNumber();
    if (record.getFieldCount() != columns.size()) {
      throw new BadInput(
          file
              + ":"
              + at
              + ": expected "
              + columns.size()
              + " fields, found "
              + record.getFieldCount());
    }
    String label = record.getField(columns.indexOf("label")).strip();
    String object = record.getField(columns.indexOf("object")).strip();
    int server = columns.indexOf("server");
    if (label.isEmpty() || object.isEmpty()) {
      throw new BadInput(file + ":" + at + ": a label and what carries it have to be there");
    }
    return new Line(label, server < 0 ? "" : record.getField(server).strip(), object, at);
  }
}
