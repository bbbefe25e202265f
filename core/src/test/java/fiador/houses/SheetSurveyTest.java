package fiador.houses;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.AccountLimit;
import fiador.estate.ColumnType;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Secret;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.grants.Forms;
import fiador.grants.Origin;
import fiador.grants.rules.Activation;
import fiador.grants.rules.Folding;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HouseRulesBuilder;
import fiador.grants.rules.NameRules;
import fiador.grants.rules.NameRules.Length;
import fiador.grants.rules.NameRules.Unit;
import fiador.grants.rules.Numbers;
import fiador.grants.rules.Ownership;
import fiador.grants.rules.WaysUp;
import java.time.Clock;
import java.time.Instant;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rows, of whatever origin, become an estate. */
class SheetSurveyTest {
  private static final HouseRules RULES =
      new HouseRulesBuilder("house/x")
          .on(NodeKind.DATABASE, Privilege.CONNECT, Privilege.SELECT)
          .on(NodeKind.SCHEMA, Privilege.USAGE, Privilege.SELECT)
          .on(NodeKind.TABLE, Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE)
          .on(NodeKind.VIEW, Privilege.SELECT)
          .on(NodeKind.SEQUENCE, Privilege.USAGE)
          .on(NodeKind.ROUTINE, Privilege.EXECUTE)
          .onColumns(Privilege.SELECT)
          .neverGranted(Privilege.UPDATE)
          .gate(new Gate(NodeKind.SCHEMA, Privilege.USAGE, false, false))
          .gate(Gate.ofSealed(NodeKind.DATABASE, Privilege.CONNECT))
          .roles(Activation.ONE_AT_A_TIME)
          .owners(Ownership.SCHEMA)
          .power(
              Power.READ_EVERYTHING, new EnumMap<>(Map.of(NodeKind.TABLE, Privilege.SELECT.bit())))
          .systemColumns("rowid")
          .accountLimits(Set.of(AccountLimit.CONNECTIONS))
          .names(
              new NameRules(
                  Folding.UPPER,
                  '"',
                  new Length(30, Unit.BYTES),
                  new Length(40, Unit.CHARACTERS),
                  false,
                  true,
                  Set.of("SYS"),
                  Set.of("SYS_")))
          .numbers(new Numbers(65, 35, 15))
          .waysUp(new WaysUp(Set.of("files"), 0, 0, "any", null))
          .with(HouseFact.DENIALS, HouseFact.SCHEMA_GRANTS_REACH_DOWN)
          .with(HouseFact.EVERYBODY_HOLDS_ROLES, HouseFact.EVERYBODY_SWITCHES)
          .build();

  private final Map<FactSort, List<FactSource>> sources = new EnumMap<>(FactSort.class);
  private final HouseSheet sheet =
      new HouseSheet(
          "x",
          "",
          RULES,
          new Reading(
              null,
              Set.of(),
              null,
              null,
              "ALL",
              Map.of("read", List.of(Privilege.SELECT), "whole", List.of()),
              Set.of("back up"),
              Set.of("SYS"),
              sources),
          Writing.NONE);
  private final SheetSurvey survey = new SheetSurvey(sheet, "dw");

  /** One source with one row; its columns are called like the fields. */
  private void row(FactSort sort, boolean skips, String... fieldsAndValues) throws BadRowException {
    Map<String, FieldValue> fields = new LinkedHashMap<>();
    List<String> header = new java.util.ArrayList<>();
    List<String> values = new java.util.ArrayList<>();
    for (int i = 0; i < fieldsAndValues.length; i += 2) {
      fields.put(fieldsAndValues[i], new FieldValue(Expression.of("{" + fieldsAndValues[i] + "}")));
      header.add(fieldsAndValues[i]);
      values.add(fieldsAndValues[i + 1]);
    }
    FactSource source = new FactSource(sort, "q", null, Map.of(), fields, skips, false);
    survey.begin(source, header).take(column -> values.get(column));
  }

  private void row(FactSort sort, String... fieldsAndValues) throws BadRowException {
    row(sort, false, fieldsAndValues);
  }

  private void people() throws BadRowException {
    row(FactSort.PRINCIPALS, "name", "ines", "kind", "user", "secret", "sound");
    row(FactSort.PRINCIPALS, "name", "rui", "kind", "user", "disabled", "Y", "until", "2027-01-31");
    row(FactSort.PRINCIPALS, "name", "reader", "kind", "role", "comment", "reads");
    row(FactSort.PRINCIPALS, "name", "team", "kind", "role");
    row(FactSort.PRINCIPALS, "name", "ALL", "kind", "role");
    row(FactSort.POWERS, "name", "rui", "power", "read everything, superuser");
    row(FactSort.CONTAINERS, "kind", "database", "name", "d");
    row(FactSort.CONTAINERS, "kind", "schema", "name", "s", "database", "d", "owner", "team");
    row(FactSort.CONTAINERS, "kind", "schema", "name", "SYS", "database", "d");
    table("t", "table", "a", "b");
    table("v", "view", "a");
    row(FactSort.OBJECTS, "kind", "sequence", "database", "d", "schema", "s", "name", "q");
    row(
        FactSort.OBJECTS,
        "kind",
        "routine",
        "database",
        "d",
        "schema",
        "s",
        "name",
        "f",
        "arguments",
        "int");
    row(FactSort.OBJECTS, "kind", "procedure", "database", "d", "schema", "s", "name", "f");
  }

  private void table(String name, String kind, String... columns) throws BadRowException {
    for (String column : columns) {
      row(
          FactSort.COLUMNS,
          "database",
          "d",
          "schema",
          "s",
          "name",
          name,
          "column",
          column,
          "type",
          "integer");
    }
    row(
        FactSort.OBJECTS,
        "kind",
        kind,
        "database",
        "d",
        "schema",
        "s",
        "name",
        name,
        "reads_as",
        kind.equals("view") ? "asker" : "owner",
        "text",
        kind.equals("view") ? "select a" : "");
  }

  private void grant(FactSort sort, String to, String privilege, String... more)
      throws BadRowException {
    List<String> all = new java.util.ArrayList<>(List.of("to", to, "privilege", privilege));
    all.addAll(List.of("database", "d", "schema", "s"));
    all.addAll(List.of(more));
    row(sort, all.toArray(String[]::new));
  }

  private Access build() {
    return Forms.of(
        survey.build(
            new Origin("dw", "house/x", "1", Instant.EPOCH), (builder, things, node, text) -> {}));
  }

  private static State state(Access access, String user, Privilege privilege, String path) {
    for (Holding row :
        new Holdings(access, Clock.systemUTC(), false).of(access.principals().named(user))) {
      if (row.privilege() == privilege && access.tree().path(row.node()).equals(path)) {
        return row.state();
      }
    }
    return null;
  }

  @Test
  void allSortsOfFactsAreTaken() throws BadRowException {
    people();
    row(FactSort.MEMBERSHIPS, "member", "ines", "role", "team", "admin", "yes");
    row(FactSort.MEMBERSHIPS, "member", "team", "role", "reader");
    row(FactSort.MEMBERSHIPS, "member", "ALL", "role", "reader");
    grant(FactSort.GRANTS, "ALL", "usage");
    grant(FactSort.GRANTS, "ines", "select", "name", "t", "column", "a");
    grant(FactSort.GRANTS, "ines", "select", "name", "t", "column", "a");
    grant(FactSort.GRANTS, "reader", "whole", "name", "t", "kind", "table", "grantable", "1");
    grant(FactSort.GRANTS, "reader", "Execute", "name", "f", "kind", "procedure");
    grant(FactSort.GRANTS, "ines", "usage", "name", "q", "kind", "relation");
    grant(FactSort.GRANTS, "ines", "back up");
    grant(FactSort.DENIALS, "team", "read, insert", "name", "t", "columns_by_number", "{1}");
    grant(FactSort.LATER_GRANTS, "reader", "select", "kind", "table", "creator", "team");
    row(
        FactSort.READS,
        "database",
        "d",
        "schema",
        "s",
        "name",
        "v",
        "reads_database",
        "d",
        "reads_schema",
        "s",
        "reads_name",
        "t",
        "reads_column",
        "b");
    Access access = build();
    assertThat(access.rules()).isEqualTo(RULES);
    assertThat(state(access, "ines", Privilege.SELECT, "d.s.t")).isEqualTo(State.LIVE);
    assertThat(state(access, "ines", Privilege.INSERT, "d.s.t")).isEqualTo(State.ON_REQUEST);
    assertThat(state(access, "ines", Privilege.USAGE, "d.s.q")).isEqualTo(State.LIVE);
    int procedure = access.tree().size() - 1;
    assertThat(access.tree().name(procedure)).isEqualTo("f()");
    assertThat(access.tree().is(procedure, NodeFact.PROCEDURE)).isTrue();
    int rui = access.principals().named("rui");
    assertThat(access.principals().account(rui).until()).isEqualTo("2027-01-31T00:00:00Z");
    assertThat(access.principals().has(rui, Power.SUPERUSER)).isTrue();
    assertThat(access.principals().account(access.principals().named("ines")).secret())
        .isEqualTo(Secret.SOUND);
    int table = access.denials().node(0);
    assertThat(access.tree().columnType(table, 0)).isEqualTo(ColumnType.INTEGER);
    assertThat(access.columnSets().ordinals(access.denials().columns(0))).containsExactly(1);
    assertThat(access.denials().terms(0).privileges())
        .isEqualTo(PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT));
    assertThat(access.later()).hasSize(1);
    assertThat(access.reads().hasAny(access.tree().size() - 4)).isTrue();
  }

  @Test
  void whatAnotherServerHasIsTaken() throws BadRowException {
    people();
    survey.reachedAt("DW.example:5000");
    row(FactSort.ADDRESSES, "address", "10.0.0.7:5000");
    row(FactSort.FOREIGN_SERVERS, "name", "lake", "host", "lake.example", "port", "700");
    row(FactSort.USER_MAPPINGS, "of", "ALL", "server", "lake", "user", "reader");
    row(FactSort.USER_MAPPINGS, "of", "ines", "server", "lake", "user", "ih", "secret", "no");
    row(
        FactSort.FOREIGN_TABLES,
        "database",
        "d",
        "schema",
        "s",
        "name",
        "t",
        "server",
        "lake",
        "schema_there",
        "raw",
        "name_there",
        "meters");
    Access access = build();
    Abroad abroad = access.seen().abroad();
    assertThat(abroad.addresses()).containsExactly("dw.example:5000", "10.0.0.7:5000");
    int table = abroad.tables().keySet().iterator().next();
    assertThat(access.tree().path(table)).isEqualTo("d.s.t");
    assertThat(abroad.table(table).schema() + "." + abroad.table(table).name())
        .isEqualTo("raw.meters");
    assertThat(abroad.placeOf(table).carrier()).isEqualTo(Abroad.Carrier.WAREHOUSE);
    assertThat(abroad.login(access.principals().named("rui"), 0))
        .isEqualTo(new Abroad.Login(0, 0, "reader", true, true, true));
    assertThat(abroad.login(access.principals().named("ines"), 0).secret()).isFalse();
  }

  @Test
  void whatOfAnotherServerIsNotThereIsSaid() throws BadRowException {
    people();
    row(FactSort.FOREIGN_SERVERS, "name", "lake", "host", "lake.example", "port", "700");
    assertThatThrownBy(() -> row(FactSort.ADDRESSES, "address", "somewhere"))
        .hasMessageContaining("no host and port");
    assertThatThrownBy(
            () -> row(FactSort.FOREIGN_SERVERS, "name", "lake", "host", "other", "port", "1"))
        .hasMessageContaining("already");
    assertThatThrownBy(() -> row(FactSort.USER_MAPPINGS, "of", "ines", "server", "sea"))
        .hasMessage("there is no foreign server \"sea\"");
    assertThatThrownBy(() -> row(FactSort.USER_MAPPINGS, "of", "eva", "server", "lake"))
        .hasMessage("there is no user or role \"eva\"");
    assertThatThrownBy(
            () -> row(FactSort.FOREIGN_TABLES, "name", "x", "server", "lake", "name_there", "y"))
        .hasMessage("there is no table \"x\" there");
  }

  @Test
  void whatIsOnAContainerReachesWhatIsInIt() throws BadRowException {
    people();
    grant(FactSort.GRANTS, "ines", "usage");
    row(FactSort.GRANTS, "to", "ines", "privilege", "select", "database", "d");
    grant(FactSort.DENIALS, "ines", "select", "covers", "view");
    Access access = build();
    assertThat(state(access, "ines", Privilege.SELECT, "d.s.t")).isEqualTo(State.LIVE);
    assertThat(state(access, "ines", Privilege.SELECT, "d.s.v")).isEqualTo(State.DENIED);
  }

  @ParameterizedTest
  @CsvSource({
    "nobody, select, t, '', there is no user or role \"nobody\"",
    "ines, fly, t, '', '\"fly\" is no privilege the sheet knows; add it to words or to ignored'",
    "ines, select, x, '', 'there is no table or view \"x\" there'",
    "ines, select, t, z, there is no column \"z\" in it",
    "ines, '', t, '', privilege is missing",
  })
  void whatIsNoFactIsSaid(String to, String privilege, String name, String column, String message)
      throws BadRowException {
    people();
    assertThatThrownBy(() -> grant(FactSort.GRANTS, to, privilege, "name", name, "column", column))
        .isInstanceOf(BadRowException.class)
        .hasMessage(message);
  }

  @Test
  void whatIsThereTwiceOrNowhereIsSaid() throws BadRowException {
    people();
    assertThatThrownBy(() -> row(FactSort.PRINCIPALS, "name", "ines", "kind", "role"))
        .hasMessageContaining("already");
    assertThatThrownBy(() -> table("t", "table", "a")).hasMessageContaining("already");
    assertThatThrownBy(
            () -> row(FactSort.CONTAINERS, "kind", "schema", "name", "s9", "sealed", "yes"))
        .hasMessageContaining("no gate of the sheet says");
    assertThatThrownBy(() -> row(FactSort.CONTAINERS, "kind", "database", "name", "d"))
        .hasMessageContaining("already");
    assertThatThrownBy(
            () -> row(FactSort.CONTAINERS, "kind", "schema", "name", "x", "database", "nowhere"))
        .hasMessage("there is no database \"nowhere\"");
    assertThatThrownBy(() -> row(FactSort.PRINCIPALS, "name", "z", "kind", "group"))
        .hasMessage("\"group\" is neither user nor role");
    assertThatThrownBy(() -> row(FactSort.POWERS, "name", "ines", "power", "flying"))
        .hasMessage("\"flying\" is no power");
    assertThatThrownBy(() -> row(FactSort.PRINCIPALS, "name", "z", "kind", "user", "until", "soon"))
        .hasMessageContaining("is no time");
  }

  @Test
  void aColumnIsThereOnceAndNumbersNameColumns() throws BadRowException {
    people();
    row(FactSort.COLUMNS, "database", "d", "schema", "s", "name", "x", "column", "a");
    assertThatThrownBy(
            () -> row(FactSort.COLUMNS, "database", "d", "schema", "s", "name", "x", "column", "a"))
        .hasMessage("there is a column \"a\" in it already");
    assertThatThrownBy(
            () -> grant(FactSort.GRANTS, "ines", "select", "name", "t", "columns_by_number", "{}"))
        .hasMessage("\"{}\" names no column");
  }

  @Test
  void whatIsAboutNobodyIsLeftOutWhereTheSheetSaysSo() throws BadRowException {
    people();
    row(FactSort.MEMBERSHIPS, true, "member", "gone", "role", "reader");
    row(FactSort.MEMBERSHIPS, true, "member", "ines", "role", "gone");
    assertThat(survey.skipped())
        .containsExactly(
            "2 of the memberships are about users, roles or things that are not there; they are"
                + " left out");
    assertThat(survey.notKnown())
        .anyMatch(note -> note.startsWith("denials are not known"))
        .noneMatch(note -> note.startsWith("later grants"));
  }

  @ParameterizedTest
  @CsvSource({
    "2027-03-31, 2027-03-31T00:00:00Z",
    "2027-03-31 12:30, 2027-03-31T12:30:00Z",
    "2027-03-31T12:30:15.5, 2027-03-31T12:30:15.500Z",
    "2027-03-31 12:30:00+02, 2027-03-31T10:30:00Z",
    "2027-03-31 12:30:00-0330, 2027-03-31T16:00:00Z",
    "2027-03-31T12:30:00Z, 2027-03-31T12:30:00Z",
  })
  void timesAreReadAsServersWriteThem(String written, Instant expected) throws BadRowException {
    row(FactSort.PRINCIPALS, "name", "z", "kind", "user", "until", written);
    Access access = build();
    assertThat(access.principals().account(1).until()).isEqualTo(expected);
  }
}
