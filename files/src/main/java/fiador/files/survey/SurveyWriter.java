package fiador.files.survey;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.util.MinimalPrettyPrinter;
import fiador.estate.Account;
import fiador.estate.AccountLimit;
import fiador.estate.ColumnType;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Secret;
import fiador.estate.Tree;
import fiador.files.WholeFile;
import fiador.files.houses.RulesWriter;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import fiador.grants.Lineage;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.SchemaPattern;
import fiador.grants.Seen;
import fiador.grants.Terms;
import fiador.houses.HouseSheet;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Locale;
import java.util.Map;

/** Writes survey files. */
public final class SurveyWriter {
  /** The version of the format. */
  public static final int VERSION = 1;

  private final Access access;
  private final JsonGenerator json;

  private SurveyWriter(Access access, JsonGenerator json) {
    this.access = access;
    this.json = json;
  }

  /** Writes a survey whole or not at all. */
  public static void write(Access access, Path file) throws IOException {
    WholeFile.write(file, out -> write(access, out));
  }

  /** Writes a survey to a stream, which stays open. Cost: its size. */
  public static void write(Access access, OutputStream out) throws IOException {
    JsonFactory factory = new JsonFactory();
    try (JsonGenerator json = factory.createGenerator(out)) {
      json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
      json.setPrettyPrinter(new MinimalPrettyPrinter("\n"));
      new SurveyWriter(access, json).writeAll();
      json.writeRaw('\n');
    }
  }

  private void writeAll() throws IOException {
    head();
    for (int principal = 1; principal < access.principals().size(); principal++) {
      principal(principal);
    }
    for (int node = 0; node < access.tree().size(); node++) {
      node(node);
    }
    for (int edge = 0; edge < access.memberships().size(); edge++) {
      membership(edge);
    }
    int grants = 0;
    for (int row = 0; row < access.grants().size(); row++) {
      // what comes from a pattern is worked out again when the survey is read
      if (access.grants().terms(row).pattern() == Terms.NO_PATTERN) {
        grant("grant", access.grants(), row);
        grants++;
      }
    }
    for (SchemaPattern pattern : access.patterns()) {
      pattern(pattern);
    }
    for (int row = 0; row < access.denials().size(); row++) {
      grant("denial", access.denials(), row);
    }
    for (int view = 0; view < access.tree().size(); view++) {
      reads(view);
    }
    for (int view = 0; view < access.tree().size(); view++) {
      shows(view);
    }
    for (LaterGrant later : access.later()) {
      later(later);
    }
    new SightWriter(access.sights(), json).write();
    new AbroadWriter(access.seen().abroad(), access.tree(), json).write();
    seen(access.seen());
    end(grants);
  }

  private void head() throws IOException {
    json.writeStartObject();
    json.writeNumberField("fiador_survey", VERSION);
    json.writeStringField("server", access.about().server());
    json.writeStringField("kind", access.about().kind());
    json.writeStringField("version", access.about().version());
    json.writeStringField("taken", access.about().taken().toString());
    if (!access.about().identity().isEmpty()) {
      json.writeStringField("identity", access.about().identity());
    }
    if (HouseSheet.describes(access.about().kind())) {
      json.writeStringField("rules", RulesWriter.text(access.rules()));
    }
    json.writeEndObject();
  }

  private void principal(int id) throws IOException {
    Principals principals = access.principals();
    Account account = principals.account(id);
    json.writeStartObject();
    json.writeNumberField("principal", id);
    json.writeStringField("name", principals.name(id));
    json.writeStringField("kind", principals.kind(id).text());
    if (principals.powers(id) != 0) {
      json.writeArrayFieldStart("powers");
      for (Power power : Power.values()) {
        if (principals.has(id, power)) {
          json.writeString(power.text());
        }
      }
      json.writeEndArray();
    }
    idField("local_to", principals.scope(id));
    if (account.disabled()) {
      json.writeBooleanField("disabled", true);
    }
    if (account.until() != null) {
      json.writeStringField("until", account.until().toString());
    }
    if (account.comment() != null) {
      json.writeStringField("comment", account.comment());
    }
    if (account.switching()) {
      json.writeBooleanField("switching", true);
    }
    if (account.secret() != Secret.UNKNOWN) {
      json.writeStringField("secret", account.secret().text());
    }
    if (account.secretSince() != null) {
      json.writeStringField("secret_since", account.secretSince().toString());
    }
    if (!account.limits().isEmpty()) {
      json.writeObjectFieldStart("limits");
      for (Map.Entry<AccountLimit, Integer> limit :
          AccountLimit.inOrder(account.limits()).entrySet()) {
        json.writeNumberField(limit.getKey().text(), limit.getValue());
      }
      json.writeEndObject();
    }
    json.writeEndObject();
  }

  private void idField(String name, int id) throws IOException {
    if (id >= 0) {
      json.writeNumberField(name, id);
    }
  }

  private void node(int id) throws IOException {
    Tree tree = access.tree();
    json.writeStartObject();
    json.writeNumberField("node", id);
    idField("in", tree.parent(id));
    json.writeStringField("kind", tree.kind(id).text());
    json.writeStringField("name", tree.name(id));
    idField("owner", tree.owner(id));
    boolean any = false;
    for (NodeFact fact : NodeFact.values()) {
      if (tree.is(id, fact)) {
        if (!any) {
          json.writeArrayFieldStart("facts");
          any = true;
        }
        json.writeString(fact.text());
      }
    }
    if (any) {
      json.writeEndArray();
    }
    privileges("withheld", tree.withheld(id), false);
    if (tree.columns(id) > 0) {
      json.writeArrayFieldStart("columns");
      for (int column = 0; column < tree.columns(id); column++) {
        json.writeString(tree.column(id, column));
      }
      json.writeEndArray();
      types(id);
    }
    json.writeEndObject();
  }

  private void types(int node) throws IOException {
    Tree tree = access.tree();
    boolean known = false;
    for (int column = 0; column < tree.columns(node); column++) {
      known |= tree.columnType(node, column) != ColumnType.OTHER;
    }
    if (known) {
      json.writeArrayFieldStart("types");
      for (int column = 0; column < tree.columns(node); column++) {
        json.writeString(tree.columnType(node, column).text());
      }
      json.writeEndArray();
    }
  }

  private void privileges(String field, long bits, boolean evenIfEmpty) throws IOException {
    if (bits != 0 || evenIfEmpty) {
      json.writeArrayFieldStart(field);
      for (Privilege privilege : PrivilegeSet.list(bits)) {
        json.writeString(privilege.text());
      }
      json.writeEndArray();
    }
  }

  private void membership(int edge) throws IOException {
    Memberships memberships = access.memberships();
    Membership how = memberships.options(edge);
    json.writeStartObject();
    json.writeNumberField("member", memberships.member(edge));
    json.writeNumberField("of", memberships.role(edge));
    json.writeArrayFieldStart("options");
    option(how.inherit(), "inherit");
    option(how.set(), "set");
    option(how.admin(), "admin");
    option(how.implicit(), "implicit");
    json.writeEndArray();
    idField("by", memberships.grantor(edge));
    until(how.until());
    json.writeEndObject();
  }

  private void option(boolean on, String name) throws IOException {
    if (on) {
      json.writeString(name);
    }
  }

  private void until(long epochSecond) throws IOException {
    if (epochSecond != Terms.FOREVER) {
      json.writeStringField("until", Instant.ofEpochSecond(epochSecond).toString());
    }
  }

  private void grant(String word, Grants grants, int row) throws IOException {
    Terms terms = grants.terms(row);
    json.writeStartObject();
    privileges(word, terms.privileges(), true);
    json.writeNumberField("on", grants.node(row));
    json.writeNumberField("to", grants.grantee(row));
    idField("by", grants.grantor(row));
    columns(grants.node(row), grants.columns(row));
    privileges("grantable", terms.grantable(), false);
    if (terms.covers() != 0) {
      json.writeArrayFieldStart("covers");
      for (NodeKind kind : NodeKind.values()) {
        if ((terms.covers() & kind.bit()) != 0) {
          json.writeString(kind.text());
        }
      }
      json.writeEndArray();
    }
    until(terms.until());
    if (terms.label() != Terms.NO_LABEL) {
      json.writeStringField("label", access.labelOf(terms));
    }
    json.writeEndObject();
  }

  private void pattern(SchemaPattern pattern) throws IOException {
    json.writeStartObject();
    json.writeStringField("pattern", pattern.pattern());
    json.writeNumberField("to", pattern.grantee());
    privileges("privileges", pattern.privileges(), true);
    privileges("grantable", pattern.grantable(), false);
    json.writeEndObject();
  }

  private void columns(int node, int columnSet) throws IOException {
    if (columnSet != ColumnSets.WHOLE) {
      json.writeArrayFieldStart("columns");
      for (int ordinal : access.columnSets().ordinals(columnSet)) {
        json.writeString(access.tree().column(node, ordinal));
      }
      json.writeEndArray();
    }
  }

  private void reads(int view) throws IOException {
    var reads = access.reads();
    for (int at = reads.byView().from(view); at < reads.byView().to(view); at++) {
      int row = reads.byView().row(at);
      json.writeStartObject();
      json.writeNumberField("view", view);
      json.writeNumberField("reads", reads.under().get(row));
      columns(reads.under().get(row), reads.columns().get(row));
      json.writeEndObject();
    }
  }

  private void shows(int view) throws IOException {
    Lineage lineage = access.reads().lineage();
    for (int row : lineage.byView().run(view)) {
      json.writeStartObject();
      json.writeNumberField("shows", view);
      json.writeStringField("column", access.tree().column(view, lineage.column().get(row)));
      int under = lineage.under().get(row);
      if (under != Lineage.NOTHING) {
        json.writeNumberField("of", under);
        json.writeStringField("from", access.tree().column(under, lineage.from().get(row)));
        json.writeBooleanField("as_is", lineage.isAsIs(row));
      }
      json.writeEndObject();
    }
  }

  private void later(LaterGrant later) throws IOException {
    json.writeStartObject();
    json.writeStringField("later", later.kind().text());
    json.writeNumberField("in", later.in());
    idField("creator", later.creator());
    json.writeBooleanField("replaces", later.replaces());
    json.writeArrayFieldStart("given");
    for (LaterGrant.Given given : later.given()) {
      json.writeStartObject();
      json.writeNumberField("to", given.grantee());
      privileges("privileges", given.privileges(), true);
      privileges("grantable", given.grantable(), false);
      json.writeEndObject();
    }
    json.writeEndArray();
    json.writeEndObject();
  }

  private void end(int grants) throws IOException {
    json.writeStartObject();
    json.writeBooleanField("end", true);
    json.writeNumberField("principals", access.principals().size());
    json.writeNumberField("nodes", access.tree().size());
    json.writeNumberField("memberships", access.memberships().size());
    json.writeNumberField("grants", grants);
    json.writeEndObject();
  }

  private void seen(Seen seen) throws IOException {
    for (Seen.Beside beside : seen.beside()) {
      json.writeStartObject();
      json.writeNumberField("beside", beside.principal());
      json.writeStringField("tie", beside.tie().name().toLowerCase(Locale.ROOT));
      json.writeStringField("what", beside.what());
      json.writeEndObject();
    }
    for (Seen.Unseen unseen : seen.unseen()) {
      json.writeStartObject();
      json.writeStringField("unseen", unseen.what());
      json.writeStringField("why", unseen.why());
      json.writeEndObject();
    }
  }
}
