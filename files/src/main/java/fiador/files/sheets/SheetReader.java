package fiador.files.sheets;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import fiador.reviews.Returned.Row;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;

/** Reads sheets: xlsx, or CSV with commas, semicolons or tabs. The first row names the columns. */
public final class SheetReader {
  private static final long LARGEST = 64L << 20;

  /** No program for tables has more. */
  private static final int MOST_ROWS = 1 << 20;

  private SheetReader() {}

  /**
   * A sheet.
   *
   * @param columns the names in its first row, in lower case
   * @param rows the others; those that are all empty are left out
   */
  public record Sheet(List<String> columns, List<Row> rows) {}

  /**
   * Reads a sheet.
   *
   * @throws SheetException when it is neither, or broken
   */
  public static Sheet read(Path file) throws SheetException, IOException {
    if (Files.size(file) > LARGEST) {
      throw new SheetException(file + " is larger than 64 MiB; that is no sheet of a review");
    }
    byte[] bytes = Files.readAllBytes(file);
    boolean zip = bytes.length > 4 && bytes[0] == 'P' && bytes[1] == 'K';
    if (zip) {
      Workbook.check(file);
    }
    List<List<Cells>> rows = zip ? xlsx(file) : csv(file, bytes);
    if (rows.isEmpty()) {
      throw new SheetException(file + " is empty");
    }
    List<String> columns =
        rows.get(0).stream().map(cell -> cell.text().strip().toLowerCase(Locale.ROOT)).toList();
    List<Row> found = new ArrayList<>();
    for (int i = 1; i < rows.size(); i++) {
      Map<String, String> cells = new LinkedHashMap<>();
      List<String> formulas = new ArrayList<>();
      for (int at = 0; at < Math.min(columns.size(), rows.get(i).size()); at++) {
        Cells cell = rows.get(i).get(at);
        cells.putIfAbsent(columns.get(at), cell.text());
        if (cell.formula()) {
          formulas.add(columns.get(at));
        }
      }
      if (cells.values().stream().anyMatch(text -> !text.isBlank())) {
        found.add(new Row(i + 1, cells, formulas));
      }
    }
    return new Sheet(columns, found);
  }

  private record Cells(String text, boolean formula) {}

  private static List<List<Cells>> xlsx(Path file) throws SheetException, IOException {
    try (InputStream in = Files.newInputStream(file);
        ReadableWorkbook book = new ReadableWorkbook(in)) {
      List<List<Cells>> rows = new ArrayList<>();
      book.getFirstSheet()
          .read()
          .forEach(
              row -> {
                // rows that were left empty are not in the file
                if (row.getRowNum() > MOST_ROWS) {
                  throw new IllegalStateException(
                      "row " + row.getRowNum() + " is beyond any sheet");
                }
                while (rows.size() < row.getRowNum() - 1) {
                  rows.add(List.of());
                }
                List<Cells> cells = new ArrayList<>();
                for (Cell cell : row) {
                  cells.add(cells(cell));
                }
                rows.add(cells);
              });
      return rows;
    } catch (FileSystemException unreadable) {
      throw unreadable;
    } catch (IOException | RuntimeException broken) {
      // the library's own complaints, and those of what it reads XML with
      throw new SheetException(file + " cannot be read as xlsx: " + broken.getMessage());
    }
  }

  private static Cells cells(Cell cell) {
    if (cell == null) {
      return new Cells("", false);
    }
    String text = cell.getText() == null ? "" : cell.getText();
    return new Cells(text, cell.getType() == CellType.FORMULA);
  }

  private static List<List<Cells>> csv(Path file, byte[] bytes) throws SheetException, IOException {
    String text;
    try {
      text = StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes)).toString();
    } catch (CharacterCodingException notUtf8) {
      throw new SheetException(file + " is not UTF-8; save it as CSV UTF-8, or as xlsx");
    }
    text = text.startsWith("\ufeff") ? text.substring(1) : text;
    String head = text.lines().findFirst().orElse("");
    char separator = ',';
    for (char other : new char[] {';', '\t'}) {
      separator = count(head, other) > count(head, separator) ? other : separator;
    }
    CsvSchema schema = CsvSchema.emptySchema().withColumnSeparator(separator);
    List<List<Cells>> rows = new ArrayList<>();
    try (MappingIterator<String[]> all =
        new CsvMapper()
            .enable(CsvParser.Feature.WRAP_AS_ARRAY)
            .readerFor(String[].class)
            .with(schema)
            .readValues(text)) {
      while (all.hasNext()) {
        List<Cells> cells = new ArrayList<>();
        for (String cell : all.next()) {
          // what a program for tables would take for a formula
          cells.add(new Cells(cell, !cell.isEmpty() && "=+@".indexOf(cell.charAt(0)) >= 0));
        }
        rows.add(cells);
      }
    } catch (JsonProcessingException broken) {
      throw new SheetException(
          file
              + ", line "
              + broken.getLocation().getLineNr()
              + ": this is no CSV: "
              + broken.getOriginalMessage());
    } catch (RuntimeException broken) {
      throw new SheetException(file + " is no CSV: " + broken.getMessage());
    }
    return rows;
  }

  private static long count(String text, char wanted) {
    return text.chars().filter(c -> c == wanted).count();
  }
}
