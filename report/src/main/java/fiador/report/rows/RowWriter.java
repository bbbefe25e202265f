package fiador.report.rows;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import com.fasterxml.jackson.core.util.MinimalPrettyPrinter;
import com.fasterxml.jackson.dataformat.csv.CsvFactory;
import com.fasterxml.jackson.dataformat.csv.CsvGenerator;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Writer;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;

/**
 * Writes rows, one after the other as they come, in a machine format: an array of objects, one
 * object per line, CSV, or a Markdown table. Values are texts, numbers, booleans, lists and maps;
 * null means absent.
 */
public abstract class RowWriter implements AutoCloseable {
  /**
   * A writer.
   *
   * @param format any but text
   * @param fields the fields rows may have, in order; CSV and Markdown need them
   */
  public static RowWriter to(OutputStream out, Format format, List<String> fields)
      throws IOException {
    return switch (format) {
      case JSON -> new Json(out, true);
      case JSONL -> new Json(out, false);
      case CSV -> new Csv(out, fields);
      case MARKDOWN -> new Markdown(out, fields);
      case TEXT -> throw new IllegalArgumentException("text is not made of rows");
    };
  }

  /** Writes one row. */
  public abstract void row(Map<String, ?> values) throws IOException;

  @Override
  public abstract void close() throws IOException;

  private static final class Json extends RowWriter {
    private final JsonGenerator json;
    private final boolean array;

    Json(OutputStream out, boolean array) throws IOException {
      this.json = new JsonFactory().createGenerator(out);
      this.array = array;
      json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
      json.setPrettyPrinter(array ? new DefaultPrettyPrinter() : new MinimalPrettyPrinter("\n"));
      if (array) {
        json.writeStartArray();
      }
    }

    @Override
    public void row(Map<String, ?> values) throws IOException {
      value(json, values);
    }

    @Override
    public void close() throws IOException {
      if (array) {
        json.writeEndArray();
      }
      boolean any = json.getOutputContext().getEntryCount() > 0;
      if (array || any) {
        json.writeRaw('\n');
      }
      json.close();
    }
  }

  /** Writes a value of any of the types that rows hold. */
  static void value(JsonGenerator json, Object value) throws IOException {
    if (value instanceof Map<?, ?> map) {
      json.writeStartObject();
      for (Map.Entry<?, ?> entry : map.entrySet()) {
        if (entry.getValue() != null) {
          json.writeFieldName(entry.getKey().toString());
          value(json, entry.getValue());
        }
      }
      json.writeEndObject();
    } else if (value instanceof Collection<?> items) {
      json.writeStartArray();
      for (Object item : items) {
        value(json, item);
      }
      json.writeEndArray();
    } else if (value instanceof Boolean flag) {
      json.writeBoolean(flag);
    } else if (value instanceof Number number) {
      json.writeNumber(number.toString());
    } else {
      json.writeString(String.valueOf(value));
    }
  }

  /** A document of one object, for answers that are no list. */
  public static void document(OutputStream out, Map<String, ?> values) throws IOException {
    try (JsonGenerator json = new JsonFactory().createGenerator(out)) {
      json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
      json.setPrettyPrinter(new DefaultPrettyPrinter());
      value(json, values);
      json.writeRaw('\n');
    }
  }

  private static String cell(Object value) {
    if (value instanceof Collection<?> items) {
      StringJoiner joined = new StringJoiner(", ");
      items.forEach(item -> joined.add(String.valueOf(item)));
      return joined.toString();
    }
    return value == null ? "" : value.toString();
  }

  private static final class Csv extends RowWriter {
    private final CsvGenerator csv;
    private final List<String> fields;

    Csv(OutputStream out, List<String> fields) throws IOException {
      this.fields = fields;
      this.csv = new CsvFactory().createGenerator(out);
      csv.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
      CsvSchema.Builder schema = CsvSchema.builder().setUseHeader(true);
      fields.forEach(schema::addColumn);
      csv.setSchema(schema.build());
    }

    /**
     * A spreadsheet takes what begins with one of these for a formula; a quote before it stops
     * that.
     */
    private static String harmless(String cell) {
      return !cell.isEmpty() && "=+-@\t\r".indexOf(cell.charAt(0)) >= 0 ? "'" + cell : cell;
    }

    @Override
    public void row(Map<String, ?> values) throws IOException {
      csv.writeStartArray();
      for (String field : fields) {
        csv.writeString(harmless(cell(values.get(field))));
      }
      csv.writeEndArray();
    }

    @Override
    public void close() throws IOException {
      csv.close();
    }
  }

  private static final class Markdown extends RowWriter {
    private final Writer out;
    private final List<String> fields;

    Markdown(OutputStream out, List<String> fields) throws IOException {
      this.fields = fields;
      this.out = new java.io.OutputStreamWriter(out, java.nio.charset.StandardCharsets.UTF_8);
      this.out.write("| " + String.join(" | ", fields) + " |\n");
      this.out.write("|" + " --- |".repeat(fields.size()) + "\n");
    }

    @Override
    public void row(Map<String, ?> values) throws IOException {
      StringJoiner cells = new StringJoiner(" | ", "| ", " |\n");
      for (String field : fields) {
        cells.add(escaped(cell(values.get(field))));
      }
      out.write(cells.toString());
    }

    /** Whatever could begin markup; an underscore within a word cannot. */
    private static String escaped(String cell) {
      StringBuilder plain = new StringBuilder(cell.length() + 8);
      for (int i = 0; i < cell.length(); i++) {
        char c = cell.charAt(i);
        boolean within =
            c == '_'
                && i > 0
                && i < cell.length() - 1
                && Character.isLetterOrDigit(cell.charAt(i - 1))
                && Character.isLetterOrDigit(cell.charAt(i + 1));
        if (c == '\n' || c == '\r') {
          plain.append(' ');
        } else {
          plain.append("\\|`*_[]<>&".indexOf(c) >= 0 && !within ? "\\" : "").append(c);
        }
      }
      return plain.toString();
    }

    @Override
    public void close() throws IOException {
      out.flush();
    }
  }
}
