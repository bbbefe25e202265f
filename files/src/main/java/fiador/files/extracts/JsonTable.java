package fiador.files.extracts;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import java.io.IOException;
import java.io.Reader;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;
import org.jspecify.annotations.Nullable;

/**
 * One JSON object a line. The first one names the columns; fields may come in any order, and may be
 * missing. A list of values is one text with commas.
 */
final class JsonTable implements Table {
  private static final int LONGEST_FIELD = 1 << 20;
  private static final int DEEPEST = 3;

  private final JsonParser json;
  private final List<String> header = new ArrayList<>();
  private final Map<String, Integer> places = new HashMap<>();
  private String[] values = {};
  private boolean first;
  private long line = 1;

  JsonTable(Reader text) throws IOException, BrokenRowException {
    JsonFactory factory =
        JsonFactory.builder()
            .streamReadConstraints(
                StreamReadConstraints.builder()
                    .maxNestingDepth(DEEPEST)
                    .maxStringLength(LONGEST_FIELD)
                    .build())
            .build();
    this.json = factory.createParser(text);
    this.first = row(true);
  }

  @Override
  public List<String> header() {
    return header;
  }

  @Override
  public boolean next() throws IOException, BrokenRowException {
    if (first) {
      first = false;
      return true;
    }
    return row(false);
  }

  private boolean row(boolean names) throws IOException, BrokenRowException {
    try {
      JsonToken begin = json.nextToken();
      if (begin == null) {
        return false;
      }
      line = json.currentTokenLocation().getLineNr();
      if (begin != JsonToken.START_OBJECT) {
        throw new BrokenRowException(line, "one JSON object a line was expected", true);
      }
      Arrays.fill(values, null);
      while (json.nextToken() == JsonToken.FIELD_NAME) {
        String name = String.valueOf(json.currentName());
        if (names && !places.containsKey(name)) {
          places.put(name, header.size());
          header.add(name);
          values = Arrays.copyOf(values, header.size());
        }
        json.nextToken();
        String value = value();
        Integer place = places.get(name);
        if (place != null) {
          values[place] = value;
        }
      }
      return true;
    } catch (JsonProcessingException broken) {
      throw new BrokenRowException(
          Math.max(line, broken.getLocation() == null ? 0 : broken.getLocation().getLineNr()),
          "this is no JSON: " + broken.getOriginalMessage(),
          true);
    }
  }

  private @Nullable String value() throws IOException, BrokenRowException {
    JsonToken token = json.currentToken();
    if (token == JsonToken.VALUE_NULL) {
      return null;
    } else if (token == JsonToken.START_ARRAY) {
      StringJoiner all = new StringJoiner(",");
      while (json.nextToken() != JsonToken.END_ARRAY) {
        String one = value();
        if (one != null) {
          all.add(one);
        }
      }
      return all.toString();
    } else if (token == JsonToken.START_OBJECT) {
      throw new BrokenRowException(
          line, "\"" + json.currentName() + "\" is an object; a value was expected", true);
    }
    return json.getText();
  }

  @Override
  public @Nullable String value(int column) {
    String value = values[column];
    return value == null || value.isEmpty() ? null : value;
  }

  @Override
  public long line() {
    return line;
  }

  @Override
  public void close() throws IOException {
    json.close();
  }
}
