package fiador.files.survey;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import fiador.estate.None;
import fiador.grants.Abroad;
import fiador.grants.AccessBuilder;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Lines of a survey about what is really elsewhere. */
final class AbroadLines extends SurveyTokens {
  AbroadLines(String fileName, JsonParser json, AccessBuilder builder) {
    super(fileName, json, builder);
  }

  void address() throws IOException, SurveyException {
    builder.abroad().address(text());
    if (nextField()) {
      throw unknownField();
    }
  }

  void place() throws IOException, SurveyException {
    int id = number(Integer.MAX_VALUE, "foreign server");
    if (id != builder.abroad().places()) {
      throw broken("foreign server " + id + " stands out of order");
    }
    String name = "";
    int in = None.NODE;
    int owner = None.PRINCIPAL;
    Abroad.Carrier carrier = Abroad.Carrier.OTHER;
    String wrapper = "";
    String host = "";
    String port = "";
    String database = "";
    while (nextField()) {
      switch (json.currentName()) {
        case "name" -> name = text();
        case "in" -> in = nodeId();
        case "owner" -> owner = principalId();
        case "carrier" -> carrier = carrier(text());
        case "wrapper" -> wrapper = text();
        case "host" -> host = text();
        case "port" -> port = text();
        case "database" -> database = text();
        default -> throw unknownField();
      }
    }
    if (in < 0) {
      throw broken("a foreign server needs \"in\"");
    }
    builder
        .abroad()
        .place(new Abroad.Place(name, in, owner, carrier, wrapper, host, port, database));
  }

  private Abroad.Carrier carrier(String word) throws SurveyException {
    for (Abroad.Carrier carrier : Abroad.Carrier.values()) {
      if (carrier.name().toLowerCase(Locale.ROOT).equals(word)) {
        return carrier;
      }
    }
    throw broken("\"" + word + "\" carries no rows as far as this program knows");
  }

  void login() throws IOException, SurveyException {
    int place = placeId();
    int who = None.PRINCIPAL;
    String user = null;
    boolean secret = false;
    boolean needed = true;
    boolean shown = true;
    while (nextField()) {
      switch (json.currentName()) {
        case "of" -> who = principalId();
        case "user" -> user = text();
        case "secret" -> secret = flag();
        case "secret_needed" -> needed = flag();
        case "shown" -> shown = flag();
        default -> throw unknownField();
      }
    }
    if (who < 0) {
      throw broken("a user mapping needs \"of\"");
    }
    builder.abroad().login(new Abroad.Login(who, place, user, secret, needed, shown));
  }

  void table() throws IOException, SurveyException {
    int node = nodeId();
    int place = None.NODE;
    String schema = "";
    String name = "";
    Map<Integer, String> columns = new HashMap<>();
    List<Integer> wholes = new ArrayList<>();
    while (nextField()) {
      switch (json.currentName()) {
        case "part_of" -> wholes(wholes);
        case "server" -> place = placeId();
        case "schema" -> schema = text();
        case "name" -> name = text();
        case "columns" -> columns(node, columns);
        default -> throw unknownField();
      }
    }
    if (place < 0) {
      throw broken("a foreign table needs \"server\"");
    }
    builder.abroad().table(node, new Abroad.Table(place, schema, name, Map.copyOf(columns)));
    wholes.forEach(whole -> builder.abroad().part(node, whole));
  }

  private void wholes(List<Integer> wholes) throws IOException, SurveyException {
    if (json.nextToken() != JsonToken.START_ARRAY) {
      throw broken("\"part_of\" of a foreign table is a list of nodes");
    }
    for (JsonToken token = json.nextToken();
        token != JsonToken.END_ARRAY;
        token = json.nextToken()) {
      int whole = token == JsonToken.VALUE_NUMBER_INT ? json.getIntValue() : None.NODE;
      if (whole < 0 || whole >= estate.nodes()) {
        throw broken("there is no node " + json.getText() + " before this line");
      }
      wholes.add(whole);
    }
  }

  private void columns(int node, Map<Integer, String> columns) throws IOException, SurveyException {
    if (json.nextToken() != JsonToken.START_OBJECT) {
      throw broken("\"columns\" of a foreign table are names here with names there");
    }
    while (nextField()) {
      String here = json.currentName();
      int ordinal = estate.columnOrdinal(node, estate.names().intern(here));
      if (ordinal < 0) {
        throw broken("node " + node + " has no column " + here);
      }
      columns.put(ordinal, text());
    }
  }

  private int placeId() throws IOException, SurveyException {
    return number(builder.abroad().places(), "foreign server");
  }
}
