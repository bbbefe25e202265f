package fiador.files.survey;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.ColumnType;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Secret;
import fiador.grants.AccessBuilder;
import java.io.IOException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Lines of a survey about users, roles and things. */
final class EstateLines extends SurveyTokens {
  private final List<ColumnType> columnTypes = new ArrayList<>();

  EstateLines(String fileName, JsonParser json, AccessBuilder builder) {
    super(fileName, json, builder);
  }

  void principal() throws IOException, SurveyException {
    int id = number(Integer.MAX_VALUE, "principal");
    if (id != estate.principals()) {
      throw broken("principal " + estate.principals() + " was expected, this is " + id);
    }
    String name = null;
    PrincipalKind kind = PrincipalKind.ROLE;
    int powers = 0;
    int scope = -1;
    boolean disabled = false;
    Instant until = null;
    String comment = null;
    boolean switching = false;
    Secret secret = Secret.UNKNOWN;
    Instant since = null;
    Map<AccountLimit, Integer> limits = Map.of();
    while (nextField()) {
      switch (json.currentName()) {
        case "name" -> name = text();
        case "kind" -> kind = principalKind(text());
        case "powers" -> powers = powers();
        case "local_to" -> scope = number(Integer.MAX_VALUE, "node");
        case "disabled" -> disabled = flag();
        case "until" -> until = instant();
        case "comment" -> comment = text();
        case "switching" -> switching = flag();
        case "secret" -> secret = secret(text());
        case "secret_since" -> since = instant().truncatedTo(ChronoUnit.SECONDS);
        case "limits" -> limits = limits();
        default -> throw unknownField();
      }
    }
    if (name == null) {
      throw broken("principal " + id + " has no name");
    }
    estate.principal(kind, name, powers, scope);
    estate.account(id, new Account(disabled, until, comment, switching, secret, since, limits));
  }

  private Map<AccountLimit, Integer> limits() throws IOException, SurveyException {
    Map<AccountLimit, Integer> found = new EnumMap<>(AccountLimit.class);
    if (json.nextToken() != JsonToken.START_OBJECT) {
      throw broken("\"limits\" must be an object");
    }
    while (nextField()) {
      AccountLimit limit = AccountLimit.named(json.currentName());
      if (limit == null) {
        throw unknownField();
      }
      found.put(limit, number(Integer.MAX_VALUE, "limit"));
    }
    return found;
  }

  private Secret secret(String text) throws SurveyException {
    Secret secret = Secret.named(text);
    if (secret == null) {
      throw broken("unknown kind of secret \"" + text + "\"");
    }
    return secret;
  }

  private PrincipalKind principalKind(String text) throws SurveyException {
    return switch (text) {
      case "user" -> PrincipalKind.USER;
      case "role" -> PrincipalKind.ROLE;
      default -> throw broken("a principal is a user or a role, not a " + text);
    };
  }

  private int powers() throws IOException, SurveyException {
    array();
    int bits = 0;
    while (nextItem()) {
      Power power = Power.named(text());
      if (power == null) {
        throw broken("there is no power " + json.getText());
      }
      bits |= power.bit();
    }
    return bits;
  }

  void node() throws IOException, SurveyException {
    int id = number(Integer.MAX_VALUE, "node");
    if (id != estate.nodes()) {
      throw broken("node " + estate.nodes() + " was expected, this is " + id);
    }
    int in = -1;
    NodeKind kind = null;
    int name = -1;
    int owner = -1;
    int facts = 0;
    long withheld = 0;
    columnNames.clear();
    columnTypes.clear();
    while (nextField()) {
      switch (json.currentName()) {
        case "in" -> in = nodeId();
        case "kind" -> kind = nodeKind();
        case "name" -> {
          json.nextToken();
          name = internedText();
        }
        case "owner" -> owner = principalId();
        case "facts" -> facts = facts();
        case "withheld" -> withheld = privileges();
        case "columns" -> columns();
        case "types" -> types();
        default -> throw unknownField();
      }
    }
    if (kind == null || name < 0 || (in < 0) != (id == 0)) {
      throw broken("node " + id + " needs a kind, a name and the node it is in");
    }
    estate.node(in, kind, name, owner, facts);
    estate.withheld(id, withheld);
    for (int i = 0; i < columnNames.size(); i++) {
      estate.column(columnNames.getInt(i));
      if (i < columnTypes.size()) {
        estate.type(columnTypes.get(i));
      }
    }
  }

  private void types() throws IOException, SurveyException {
    array();
    while (nextItem()) {
      columnTypes.add(ColumnType.named(text()));
    }
  }

  private int facts() throws IOException, SurveyException {
    array();
    int bits = 0;
    while (nextItem()) {
      String text = text();
      NodeFact fact =
          Arrays.stream(NodeFact.values())
              .filter(f -> f.text().equals(text))
              .findAny()
              .orElse(null);
      if (fact == null) {
        throw broken("there is no fact " + text);
      }
      bits |= fact.bit();
    }
    return bits;
  }
}
