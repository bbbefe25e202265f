package fiador.files.survey;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import fiador.estate.EstateBuilder;
import fiador.estate.Names;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.AccessBuilder;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.io.IOException;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;

/** Takes the tokens of a survey file for what they should be, and says where they are not. */
abstract class SurveyTokens {
  final String fileName;
  final JsonParser json;
  final AccessBuilder builder;
  final EstateBuilder estate;
  final IntArrayList columnNames = new IntArrayList();
  private final Names words = vocabulary();

  SurveyTokens(String fileName, JsonParser json, AccessBuilder builder) {
    this.fileName = fileName;
    this.json = json;
    this.builder = builder;
    this.estate = builder.estate();
  }

  /** The ids of these words are the ordinals of the privileges. */
  private static Names vocabulary() {
    Names words = new Names();
    for (Privilege privilege : Privilege.values()) {
      words.intern(privilege.text());
    }
    return words;
  }

  final SurveyException broken(String what) {
    return new SurveyException(fileName + ":" + json.currentLocation().getLineNr() + ": " + what);
  }

  /** Moves to the next field; false at the end of the object. */
  final boolean nextField() throws IOException {
    return json.nextToken() == JsonToken.FIELD_NAME;
  }

  final SurveyException unknownField() throws IOException {
    return broken("the field \"" + json.currentName() + "\" is not known here");
  }

  final String text() throws IOException, SurveyException {
    if (json.currentToken() == JsonToken.FIELD_NAME) {
      json.nextToken();
    }
    if (json.currentToken() != JsonToken.VALUE_STRING) {
      throw broken("\"" + json.currentName() + "\" must be a text");
    }
    return json.getText();
  }

  final int number(int limit, String what) throws IOException, SurveyException {
    if (json.nextToken() != JsonToken.VALUE_NUMBER_INT) {
      throw broken("\"" + json.currentName() + "\" must be a number");
    }
    int value = json.getIntValue();
    if (value < 0 || value >= limit) {
      throw broken("there is no " + what + " " + value + " before this line");
    }
    return value;
  }

  final int principalId() throws IOException, SurveyException {
    return number(estate.principals(), "principal");
  }

  final int nodeId() throws IOException, SurveyException {
    return number(estate.nodes(), "node");
  }

  final boolean flag() throws IOException, SurveyException {
    JsonToken token = json.nextToken();
    if (token != JsonToken.VALUE_TRUE && token != JsonToken.VALUE_FALSE) {
      throw broken("\"" + json.currentName() + "\" must be true or false");
    }
    return token == JsonToken.VALUE_TRUE;
  }

  final Instant instant() throws IOException, SurveyException {
    String text = text();
    try {
      return isUsual(text) ? usual(text) : Instant.parse(text);
    } catch (DateTimeException malformed) {
      throw broken(text + " is no point in time such as 2027-03-31T00:00:00Z");
    }
  }

  /** Whether it is in the form in which times are written: in UTC, with a fraction or without. */
  private static boolean isUsual(String text) {
    int end = text.length() - 1;
    boolean shaped = end >= 19 && end <= 29 && end != 20 && text.charAt(end) == 'Z';
    for (int i = 0; shaped && i < end; i++) {
      char shape = i < 20 ? "0000-00-00T00:00:00.".charAt(i) : '0';
      char c = text.charAt(i);
      shaped = shape == '0' ? c >= '0' && c <= '9' : c == shape;
    }
    return shaped;
  }

  /** The library's formats take a short answer longer to load than all the rest of the file. */
  private static Instant usual(String text) {
    int[] parts = new int[6];
    int from = 0;
    for (int i = 0; i < parts.length; i++) {
      int to = from + (i == 0 ? 4 : 2);
      parts[i] = Integer.parseInt(text, from, to, 10);
      from = to + 1;
    }
    int nanos = 0;
    for (int i = 20; i < 29; i++) {
      nanos = nanos * 10 + (i < text.length() - 1 ? text.charAt(i) - '0' : 0);
    }
    return LocalDateTime.of(parts[0], parts[1], parts[2], parts[3], parts[4], parts[5], nanos)
        .toInstant(ZoneOffset.UTC);
  }

  final void array() throws IOException, SurveyException {
    if (json.nextToken() != JsonToken.START_ARRAY) {
      throw broken("\"" + json.currentName() + "\" must be a list");
    }
  }

  final boolean nextItem() throws IOException {
    return json.nextToken() != JsonToken.END_ARRAY;
  }

  final long privileges() throws IOException, SurveyException {
    array();
    long bits = 0;
    while (nextItem()) {
      if (json.currentToken() != JsonToken.VALUE_STRING) {
        throw broken("a privilege must be a text");
      }
      int ordinal =
          words.find(json.getTextCharacters(), json.getTextOffset(), json.getTextLength());
      if (ordinal < 0) {
        throw broken("there is no privilege " + json.getText());
      }
      bits |= 1L << ordinal;
    }
    return bits;
  }

  final List<String> texts() throws IOException, SurveyException {
    array();
    List<String> texts = new ArrayList<>(4);
    while (nextItem()) {
      texts.add(text());
    }
    return texts;
  }

  final int internedText() throws IOException, SurveyException {
    if (json.currentToken() != JsonToken.VALUE_STRING) {
      throw broken("a name must be a text");
    }
    return estate
        .names()
        .intern(json.getTextCharacters(), json.getTextOffset(), json.getTextLength());
  }

  final void columns() throws IOException, SurveyException {
    array();
    columnNames.clear();
    while (nextItem()) {
      columnNames.add(internedText());
    }
  }

  /** A kind of node by its name. */
  final NodeKind nodeKind() throws IOException, SurveyException {
    NodeKind kind = NodeKind.named(text());
    if (kind == null) {
      throw broken("there is no kind of node " + json.getText());
    }
    return kind;
  }

  /** The set of the columns that were read, of a node. */
  final int columnSet(int node) throws SurveyException {
    int[] ordinals = new int[columnNames.size()];
    for (int i = 0; i < ordinals.length; i++) {
      ordinals[i] = estate.columnOrdinal(node, columnNames.getInt(i));
      if (ordinals[i] < 0) {
        throw broken(
            "node " + node + " has no column " + estate.names().text(columnNames.getInt(i)));
      }
    }
    return builder.columnSets().intern(ordinals);
  }
}
