package fiador.standin.serving;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.sun.net.httpserver.HttpExchange;
import de.siegmar.fastcsv.writer.CsvWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Answers in JSON, or rows in CSV, as they come. */
final class Output implements Answer {
  private static final JsonFactory JSON = new JsonFactory();
  private static final int OK = 200;

  private final HttpExchange exchange;
  private final boolean csv;

  Output(HttpExchange exchange) {
    this.exchange = exchange;
    String accepted = exchange.getRequestHeaders().getFirst("Accept");
    this.csv = accepted != null && accepted.startsWith("text/csv");
  }

  private OutputStream begin(String type) throws IOException {
    exchange.getResponseHeaders().set("Content-Type", type);
    exchange.sendResponseHeaders(OK, 0);
    return exchange.getResponseBody();
  }

  @Override
  public void rows(ResultSet rows) throws SQLException, IOException {
    if (csv) {
      csv(rows);
    } else {
      json(rows);
    }
  }

  private void csv(ResultSet rows) throws SQLException, IOException {
    int columns = rows.getMetaData().getColumnCount();
    String[] row = new String[columns];
    for (int i = 0; i < columns; i++) {
      row[i] = rows.getMetaData().getColumnLabel(i + 1);
    }
    try (CsvWriter out =
        CsvWriter.builder()
            .build(
                new OutputStreamWriter(begin("text/csv; charset=utf-8"), StandardCharsets.UTF_8))) {
      out.writeRecord(row);
      while (rows.next()) {
        for (int i = 0; i < columns; i++) {
          row[i] = rows.getString(i + 1);
        }
        out.writeRecord(row);
      }
    }
  }

  private void json(ResultSet rows) throws SQLException, IOException {
    try (JsonGenerator out = JSON.createGenerator(begin("application/json"))) {
      out.writeStartObject();
      out.writeArrayFieldStart("columns");
      ResultSetMetaData columns = rows.getMetaData();
      for (int i = 1; i <= columns.getColumnCount(); i++) {
        out.writeStartObject();
        out.writeStringField("name", columns.getColumnLabel(i));
        out.writeStringField("type", columns.getColumnTypeName(i).toLowerCase(Locale.ROOT));
        out.writeEndObject();
      }
      out.writeEndArray();
      out.writeArrayFieldStart("rows");
      while (rows.next()) {
        out.writeStartArray();
        for (int i = 1; i <= columns.getColumnCount(); i++) {
          Object value = rows.getObject(i);
          // the engine's own text: this machine's calendar has other days long ago
          value(out, value instanceof java.util.Date ? rows.getString(i) : value);
        }
        out.writeEndArray();
      }
      out.writeEndArray();
      // an answer that was cut off has no such end
      out.writeBooleanField("complete", true);
      out.writeEndObject();
    }
  }

  private static void value(JsonGenerator out, @Nullable Object value) throws IOException {
    if (value == null) {
      out.writeNull();
    } else if (value instanceof Boolean truth) {
      out.writeBoolean(truth);
    } else if (value instanceof Integer || value instanceof Long) {
      out.writeNumber(((Number) value).longValue());
    } else if (value instanceof BigDecimal number) {
      // as text: whoever reads numbers as doubles would change it
      out.writeString(number.toPlainString());
    } else {
      out.writeString(value.toString());
    }
  }

  @Override
  public void done(@Nullable Long changed) throws IOException {
    try (JsonGenerator out = JSON.createGenerator(begin("application/json"))) {
      out.writeStartObject();
      if (changed != null) {
        out.writeNumberField("changed", changed);
      }
      out.writeBooleanField("complete", true);
      out.writeEndObject();
    }
  }
}
