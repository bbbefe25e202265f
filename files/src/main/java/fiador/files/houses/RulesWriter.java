package fiador.files.houses;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.NameRules;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.Numbers;
import fiador.grants.rules.WaysUp;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Writes house rules as they stand in a sheet, in JSON, which is YAML too; the same each time. */
public final class RulesWriter {
  private final JsonGenerator json;

  private RulesWriter(JsonGenerator json) {
    this.json = json;
  }

  /** The rules as a text that {@link Rules#read} reads back. */
  public static String text(HouseRules rules) {
    StringWriter text = new StringWriter();
    try (JsonGenerator json = new JsonFactory().createGenerator(text)) {
      new RulesWriter(json).write(rules);
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return text.toString();
  }

  private void write(HouseRules rules) throws IOException {
    json.writeStartObject();
    json.writeObjectFieldStart("privileges");
    byKind(rules.privileges());
    if (rules.columnPrivileges() != 0) {
      privileges(RulesReader.COLUMNS, rules.columnPrivileges());
    }
    json.writeEndObject();
    privileges("never_granted", rules.neverGranted());
    privileges("guarded", rules.guarded());
    json.writeArrayFieldStart("gates");
    for (Gate gate : rules.gates()) {
      json.writeStartObject();
      json.writeStringField("on", gate.container().text());
      json.writeStringField("needs", gate.privilege().text());
      if (gate.sealedOnly()) {
        json.writeStringField("where", "sealed");
      } else {
        json.writeStringField("when", gate.atLogin() ? "login" : "use");
        json.writeBooleanField("own", gate.ownPrivileges());
      }
      json.writeEndObject();
    }
    json.writeEndArray();
    json.writeStringField("roles", Words.of(rules.activation()));
    json.writeStringField("owners", Words.of(rules.ownership()));
    json.writeObjectFieldStart("powers");
    for (Power power : Power.values()) {
      if (rules.powers().containsKey(power)) {
        json.writeObjectFieldStart(power.text());
        byKind(rules.powers().get(power));
        json.writeEndObject();
      }
    }
    json.writeEndObject();
    texts("system_columns", rules.systemColumns());
    words("limits", rules.accountLimits().stream());
    names(rules.names());
    numbers(rules.numbers());
    waysUp(rules.waysUp());
    words("so", rules.facts().stream());
    json.writeEndObject();
  }

  private void byKind(Map<NodeKind, Long> privileges) throws IOException {
    for (NodeKind kind : NodeKind.values()) {
      if (privileges.containsKey(kind)) {
        privileges(kind.text(), privileges.get(kind));
      }
    }
  }

  private void privileges(String name, long bits) throws IOException {
    texts(name, PrivilegeSet.list(bits).stream().map(Privilege::text).toList());
  }

  private void words(String name, Stream<? extends Enum<?>> values) throws IOException {
    texts(name, values.map(Words::of).sorted().toList());
  }

  private void texts(String name, Collection<String> texts) throws IOException {
    json.writeArrayFieldStart(name);
    // lists of privileges, facts and limits are in their own order when they come; names are not
    for (String text : texts instanceof List ? texts : texts.stream().sorted().toList()) {
      json.writeString(text);
    }
    json.writeEndArray();
  }

  private void names(NameRules names) throws IOException {
    json.writeObjectFieldStart("names");
    json.writeStringField("unquoted", Words.of(names.folding()));
    json.writeStringField("quote", String.valueOf(names.quote()));
    json.writeStringField("principals", length(names.principals()));
    json.writeStringField("things", length(names.things()));
    json.writeBooleanField("keeps_blanks", names.keepsBlanks());
    json.writeBooleanField("all_planes", names.allPlanes());
    texts("own", names.own());
    texts("own_prefixes", names.ownPrefixes());
    json.writeEndObject();
  }

  private static String length(Length length) {
    return length.most() + " " + Words.of(length.unit());
  }

  private void numbers(Numbers numbers) throws IOException {
    json.writeObjectFieldStart("numbers");
    digits("most_digits", numbers.mostDigits());
    digits("whole_digits", numbers.wholeDigits());
    digits("fraction_digits", numbers.fractionDigits());
    json.writeEndObject();
  }

  private void digits(String name, int most) throws IOException {
    if (most != Integer.MAX_VALUE) {
      json.writeNumberField(name, most);
    }
  }

  private void waysUp(WaysUp ways) throws IOException {
    json.writeObjectFieldStart("ways_up");
    texts("roles_that_leave_the_server", ways.rolesThatLeaveTheServer());
    privileges("sets_any_secret", ways.setsAnySecret());
    privileges("makes_in_any_name", ways.makesInAnyName());
    if (ways.roleThatTakesAnyPlace() != null) {
      json.writeStringField("role_that_takes_any_place", ways.roleThatTakesAnyPlace());
    }
    if (ways.accountsSchema() != null) {
      json.writeStringField("accounts_schema", ways.accountsSchema());
    }
    json.writeEndObject();
  }
}
