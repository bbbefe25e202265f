package fiador.files.survey;

import com.fasterxml.jackson.core.JsonGenerator;
import fiador.estate.Tree;
import fiador.grants.Abroad;
import java.io.IOException;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/** Writes the lines about what is really elsewhere. */
final class AbroadWriter {
  private final Abroad abroad;
  private final Tree tree;
  private final JsonGenerator json;

  AbroadWriter(Abroad abroad, Tree tree, JsonGenerator json) {
    this.abroad = abroad;
    this.tree = tree;
    this.json = json;
  }

  void write() throws IOException {
    for (String address : abroad.addresses()) {
      json.writeStartObject();
      json.writeStringField("address", address);
      json.writeEndObject();
    }
    for (int at = 0; at < abroad.places().size(); at++) {
      place(at, abroad.places().get(at));
    }
    for (Abroad.Login login : abroad.logins()) {
      login(login);
    }
    for (Map.Entry<Integer, Abroad.Table> table : new TreeMap<>(abroad.tables()).entrySet()) {
      table(table.getKey(), table.getValue());
    }
  }

  private void place(int at, Abroad.Place place) throws IOException {
    json.writeStartObject();
    json.writeNumberField("foreign_server", at);
    text("name", place.name());
    json.writeNumberField("in", place.in());
    if (place.owner() >= 0) {
      json.writeNumberField("owner", place.owner());
    }
    json.writeStringField("carrier", place.carrier().name().toLowerCase(Locale.ROOT));
    text("wrapper", place.wrapper());
    text("host", place.host());
    text("port", place.port());
    text("database", place.database());
    json.writeEndObject();
  }

  private void login(Abroad.Login login) throws IOException {
    json.writeStartObject();
    json.writeNumberField("user_mapping", login.place());
    json.writeNumberField("of", login.who());
    if (login.user() != null) {
      json.writeStringField("user", login.user());
    }
    json.writeBooleanField("secret", login.secret());
    json.writeBooleanField("secret_needed", login.secretNeeded());
    if (!login.shown()) {
      json.writeBooleanField("shown", false);
    }
    json.writeEndObject();
  }

  private void table(int node, Abroad.Table table) throws IOException {
    json.writeStartObject();
    json.writeNumberField("foreign_table", node);
    json.writeNumberField("server", table.place());
    text("schema", table.schema());
    text("name", table.name());
    if (!table.columns().isEmpty()) {
      json.writeObjectFieldStart("columns");
      for (Map.Entry<Integer, String> column : new TreeMap<>(table.columns()).entrySet()) {
        json.writeStringField(tree.column(node, column.getKey()), column.getValue());
      }
      json.writeEndObject();
    }
    if (!table.wholes().isEmpty()) {
      json.writeArrayFieldStart("part_of");
      for (int whole : table.wholes()) {
        json.writeNumber(whole);
      }
      json.writeEndArray();
    }
    json.writeEndObject();
  }

  private void text(String field, String value) throws IOException {
    if (!value.isEmpty()) {
      json.writeStringField(field, value);
    }
  }
}
