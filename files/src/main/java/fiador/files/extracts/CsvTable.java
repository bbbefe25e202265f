package fiador.files.extracts;

import de.siegmar.fastcsv.reader.CloseableIterator;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows with commas between their fields, or semicolons or tabs where the header has those. An empty
 * field is nothing.
 */
final class CsvTable implements Table {
  /** A field is a name or the text of a view. */
  private static final int LONGEST_FIELD = 1 << 20;

  private static final char BYTE_ORDER_MARK = '\uFEFF';
  private static final char[] SEPARATORS = {',', ';', '\t'};

  private final CsvReader<CsvRecord> reader;
  private final CloseableIterator<CsvRecord> records;
  private final List<String> header;
  private @Nullable CsvRecord row;
  private long line = 1;

  CsvTable(Reader text) throws IOException, BrokenRowException {
    BufferedReader buffered = new BufferedReader(text, 1 << 16);
    this.reader =
        CsvReader.builder()
            .fieldSeparator(separator(buffered))
            .skipEmptyLines(true)
            .maxBufferSize(LONGEST_FIELD)
            .ofCsvRecord(buffered);
    this.records = reader.iterator();
    CsvRecord names = record();
    this.header = names == null ? List.of() : new ArrayList<>(names.getFields());
  }

  /** Which of them stands most often in the first line; leaves the reader at the first name. */
  private static char separator(BufferedReader text) throws IOException {
    text.mark(1);
    if (text.read() != BYTE_ORDER_MARK) {
      text.reset();
    }
    text.mark(1 << 16);
    char[] start = new char[(1 << 16) - 1];
    int length = text.read(start);
    text.reset();
    int[] counts = new int[SEPARATORS.length];
    for (int i = 0; i < length && start[i] != '\n'; i++) {
      for (int s = 0; s < SEPARATORS.length; s++) {
        counts[s] += start[i] == SEPARATORS[s] ? 1 : 0;
      }
    }
    int best = 0;
    for (int s = 1; s < SEPARATORS.length; s++) {
      best = counts[s] > counts[best] ? s : best;
    }
    return SEPARATORS[best];
  }

  private @Nullable CsvRecord record() throws IOException, BrokenRowException {
    try {
      return records.hasNext() ? records.next() : null;
    } catch (CsvParseException broken) {
      throw new BrokenRowException(line + 1, "this is no row: " + broken.getMessage(), true);
    } catch (UncheckedIOException failed) {
      throw failed.getCause();
    }
  }

  @Override
  public List<String> header() {
    return header;
  }

  @Override
  public boolean next() throws IOException, BrokenRowException {
    CsvRecord found = record();
    row = found;
    if (found == null) {
      return false;
    }
    line = found.getStartingLineNumber();
    if (found.getFieldCount() != header.size()) {
      throw new BrokenRowException(
          line,
          "the row has " + found.getFieldCount() + " fields, and the header names " + header.size(),
          false);
    }
    return true;
  }

  @Override
  public @Nullable String value(int column) {
    String field = row == null ? "" : row.getField(column);
    return field.isEmpty() ? null : field;
  }

  @Override
  public long line() {
    return line;
  }

  @Override
  public void close() throws IOException {
    reader.close();
  }
}
