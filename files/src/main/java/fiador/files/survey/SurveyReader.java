package fiador.files.survey;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import fiador.estate.Account;
import fiador.estate.ColumnType;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Secret;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.LaterGrant;
import fiador.grants.Lineage;
import fiador.grants.Membership;
import fiador.grants.Origin;
import fiador.grants.SchemaPattern;
import fiador.grants.Seen;
import fiador.grants.Terms;
import fiador.grants.rules.KnownHouses;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.zip.GZIPInputStream;

/**
 * Reads survey files, token by token into the builder's arrays: no object per line. Everything is
 * checked on the way in, so that what comes out can be trusted. Cost: a small multiple of a bare
 * scan of the tokens.
 */
public final class SurveyReader extends SurveyTokens {
  /** Longer than any name, for the sake of policies. */
  private static final int MAX_NAME = 1 << 20;

  private final SightLines sights;
  private final List<ColumnType> columnTypes = new ArrayList<>();
  private Origin about;
  private boolean ended;

  private SurveyReader(String fileName, JsonParser json) {
    super(fileName, json, new AccessBuilder());
    this.sights = new SightLines(fileName, json, builder);
  }

  /**
   * Reads a survey.
   *
   * @throws SurveyException when it is no survey, is cut off, or contradicts itself
   * @throws IOException when the file cannot be read
   */
  public static Access read(Path file) throws SurveyException, IOException {
    if (Files.isDirectory(file)) {
      throw new SurveyException(file + " is a folder; a survey file was expected");
    }
    try (InputStream in = Files.newInputStream(file)) {
      boolean packed = file.toString().endsWith(".gz");
      return read(file.toString(), packed ? new GZIPInputStream(in, 1 << 16) : in);
    } catch (NoSuchFileException missing) {
      throw new SurveyException(
          "there is no survey file " + file + "; make one with fiador survey --to " + file);
    }
  }

  /** As the other, from a stream. */
  public static Access read(String fileName, InputStream in) throws SurveyException, IOException {
    JsonFactory factory =
        JsonFactory.builder()
            .streamReadConstraints(
                StreamReadConstraints.builder()
                    .maxNestingDepth(10)
                    .maxStringLength(MAX_NAME)
                    .build())
            .build();
    try (JsonParser json = factory.createParser(in)) {
      SurveyReader reader = new SurveyReader(fileName, json);
      try {
        return reader.readAll();
      } catch (JsonProcessingException malformed) {
        throw reader.broken(
            reader.about == null
                ? "this is no survey file: " + malformed.getOriginalMessage()
                : "the line is cut off or damaged ("
                    + malformed.getOriginalMessage()
                    + "); take the survey again");
      }
    }
  }

  private Access readAll() throws IOException, SurveyException {
    while (json.nextToken() != null) {
      if (json.currentToken() != JsonToken.START_OBJECT
          || json.nextToken() != JsonToken.FIELD_NAME) {
        throw broken("a survey line is one JSON object; this is something else");
      }
      if (ended) {
        throw broken("there is more after the line that ends the survey");
      }
      line(json.currentName());
    }
    if (about == null) {
      throw new SurveyException(fileName + " is empty; a survey file was expected");
    }
    if (!ended) {
      throw broken(
          "the file ends here without its closing line: it was cut off; take the survey again");
    }
    return builder.build(about, KnownHouses.of(about.kind(), about.version()));
  }

  private void line(String first) throws IOException, SurveyException {
    if (about == null && !first.equals("fiador_survey")) {
      throw broken("a survey file begins with \"fiador_survey\"; this is some other file");
    }
    switch (first) {
      case "fiador_survey" -> head();
      case "principal" -> principal();
      case "node" -> node();
      case "member" -> member();
      case "grant" -> grant(true);
      case "denial" -> grant(false);
      case "pattern" -> pattern();
      case "view" -> reads();
      case "shows" -> shows();
      case "later" -> later();
      case "guard" -> sights.guard();
      case "doubt" -> sights.doubt();
      case "attribute" -> sights.attribute();
      case "lookup" -> sights.lookup();
      case "seal" -> sights.seal();
      case "filter" -> sights.filter();
      case "policies_on" -> sights.policies();
      case "beside" -> beside();
      case "unseen" -> unseen();
      case "end" -> end();
      default -> throw broken("a line that begins with \"" + first + "\" is not known");
    }
  }

  private void beside() throws IOException, SurveyException {
    int principal = number(estate.principals(), "principal");
    Seen.Tie tie = Seen.Tie.MAY;
    String what = "";
    while (nextField()) {
      switch (json.currentName()) {
        case "tie" -> tie = tie(text());
        case "what" -> what = text();
        default -> throw unknownField();
      }
    }
    builder.beside(new Seen.Beside(principal, tie, what));
  }

  private Seen.Tie tie(String word) throws SurveyException {
    for (Seen.Tie tie : Seen.Tie.values()) {
      if (tie.name().toLowerCase(Locale.ROOT).equals(word)) {
        return tie;
      }
    }
    throw broken("\"" + word + "\" is no tie; owns, may or named was expected");
  }

  private void unseen() throws IOException, SurveyException {
    String what = text();
    String why = "";
    while (nextField()) {
      switch (json.currentName()) {
        case "why" -> why = text();
        default -> throw unknownField();
      }
    }
    builder.unseen(new Seen.Unseen(what, why));
  }

  private int columnSet(int node) throws SurveyException {
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

  private void head() throws IOException, SurveyException {
    if (about != null) {
      throw broken("a second head line");
    }
    json.nextToken();
    if (json.currentToken() != JsonToken.VALUE_NUMBER_INT
        || json.getIntValue() != SurveyWriter.VERSION) {
      throw broken(
          "this survey is of format "
              + json.getText()
              + "; this program reads format "
              + SurveyWriter.VERSION
              + ", so take the survey again");
    }
    String server = "";
    String kind = "";
    String version = "";
    Instant taken = Instant.EPOCH;
    String identity = "";
    while (nextField()) {
      switch (json.currentName()) {
        case "server" -> server = text();
        case "kind" -> kind = text();
        case "version" -> version = text();
        case "taken" -> taken = instant();
        case "identity" -> identity = text();
        default -> throw unknownField();
      }
    }
    about = new Origin(server, kind, version, taken, identity);
    if (KnownHouses.of(kind, version) == null) {
      throw broken("the kind of server \"" + kind + "\" is not known");
    }
  }

  private void principal() throws IOException, SurveyException {
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
        default -> throw unknownField();
      }
    }
    if (name == null) {
      throw broken("principal " + id + " has no name");
    }
    estate.principal(kind, name, powers, scope);
    estate.account(id, new Account(disabled, until, comment, switching, secret));
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

  private void node() throws IOException, SurveyException {
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

  private NodeKind nodeKind() throws IOException, SurveyException {
    NodeKind kind = NodeKind.named(text());
    if (kind == null) {
      throw broken("there is no kind of node " + json.getText());
    }
    return kind;
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

  private void member() throws IOException, SurveyException {
    int member = principalId();
    int role = -1;
    int by = -1;
    List<String> options = List.of();
    long until = Terms.FOREVER;
    while (nextField()) {
      switch (json.currentName()) {
        case "of" -> role = principalId();
        case "options" -> options = texts();
        case "by" -> by = principalId();
        case "until" -> until = instant().getEpochSecond();
        default -> throw unknownField();
      }
    }
    if (role < 0) {
      throw broken("a membership needs \"of\"");
    }
    builder.member(
        member,
        role,
        new Membership(
            options.contains("admin"),
            options.contains("inherit"),
            options.contains("set"),
            until,
            options.contains("implicit")),
        by);
  }

  private void grant(boolean positive) throws IOException, SurveyException {
    long privileges = privileges();
    int node = -1;
    int grantee = -1;
    int by = -1;
    long grantable = 0;
    int covers = 0;
    boolean byColumn = false;
    long until = Terms.FOREVER;
    while (nextField()) {
      switch (json.currentName()) {
        case "on" -> node = nodeId();
        case "to" -> grantee = principalId();
        case "by" -> by = principalId();
        case "columns" -> {
          columns();
          byColumn = true;
        }
        case "grantable" -> grantable = privileges();
        case "covers" -> covers = covers();
        case "until" -> until = instant().getEpochSecond();
        default -> throw unknownField();
      }
    }
    if (node < 0 || grantee < 0) {
      throw broken("a grant needs \"on\" and \"to\"");
    }
    Terms terms = new Terms(privileges, grantable, covers, until);
    int columns = byColumn ? columnSet(node) : ColumnSets.WHOLE;
    if (positive) {
      builder.grant(grantee, node, terms, columns, by);
    } else {
      builder.denial(grantee, node, terms, columns);
    }
  }

  private void pattern() throws IOException, SurveyException {
    String pattern = text();
    int grantee = -1;
    long privileges = 0;
    long grantable = 0;
    while (nextField()) {
      switch (json.currentName()) {
        case "to" -> grantee = principalId();
        case "privileges" -> privileges = privileges();
        case "grantable" -> grantable = privileges();
        default -> throw unknownField();
      }
    }
    if (grantee < 0) {
      throw broken("a grant by pattern needs \"to\"");
    }
    builder.pattern(new SchemaPattern(grantee, pattern, privileges, grantable));
  }

  private int covers() throws IOException, SurveyException {
    array();
    int bits = 0;
    while (nextItem()) {
      bits |= nodeKind().bit();
    }
    return bits;
  }

  private void reads() throws IOException, SurveyException {
    int view = nodeId();
    int under = -1;
    boolean byColumn = false;
    while (nextField()) {
      switch (json.currentName()) {
        case "reads" -> under = nodeId();
        case "columns" -> {
          columns();
          byColumn = true;
        }
        default -> throw unknownField();
      }
    }
    if (under < 0) {
      throw broken("a view line needs \"reads\"");
    }
    builder.reads(view, under, byColumn ? columnSet(under) : ColumnSets.WHOLE);
  }

  private void shows() throws IOException, SurveyException {
    int view = nodeId();
    int under = Lineage.NOTHING;
    String column = null;
    String from = null;
    boolean asIs = false;
    while (nextField()) {
      switch (json.currentName()) {
        case "column" -> column = text();
        case "of" -> under = nodeId();
        case "from" -> from = text();
        case "as_is" -> asIs = flag();
        default -> throw unknownField();
      }
    }
    if (column == null || (under == Lineage.NOTHING) != (from == null)) {
      throw broken("a shows line needs \"column\", and \"of\" and \"from\" or neither");
    }
    int at = under == Lineage.NOTHING ? 0 : ordinal(under, from);
    builder.shows(view, ordinal(view, column), under, at, asIs);
  }

  private int ordinal(int node, String column) throws SurveyException {
    int ordinal = estate.columnOrdinal(node, estate.names().intern(column));
    if (ordinal < 0) {
      throw broken("node " + node + " has no column " + column);
    }
    return ordinal;
  }

  private void later() throws IOException, SurveyException {
    NodeKind kind = nodeKind();
    int in = -1;
    int creator = -1;
    boolean replaces = false;
    List<LaterGrant.Given> given = new ArrayList<>();
    while (nextField()) {
      switch (json.currentName()) {
        case "in" -> in = nodeId();
        case "creator" -> creator = principalId();
        case "replaces" -> replaces = flag();
        case "given" -> {
          array();
          while (nextItem()) {
            given.add(given());
          }
        }
        default -> throw unknownField();
      }
    }
    if (in < 0) {
      throw broken("a later grant needs \"in\"");
    }
    builder.later(new LaterGrant(creator, in, kind, replaces, List.copyOf(given)));
  }

  private LaterGrant.Given given() throws IOException, SurveyException {
    int to = -1;
    long privileges = 0;
    long grantable = 0;
    while (nextField()) {
      switch (json.currentName()) {
        case "to" -> to = principalId();
        case "privileges" -> privileges = privileges();
        case "grantable" -> grantable = privileges();
        default -> throw unknownField();
      }
    }
    if (to < 0) {
      throw broken("what is given needs \"to\"");
    }
    return new LaterGrant.Given(to, privileges, grantable);
  }

  private void end() throws IOException, SurveyException {
    flag();
    int[] found = {estate.principals(), estate.nodes(), builder.memberships(), builder.grants()};
    int[] said = new int[found.length];
    List<String> names = List.of("principals", "nodes", "memberships", "grants");
    while (nextField()) {
      int at = names.indexOf(json.currentName());
      if (at < 0) {
        throw unknownField();
      }
      said[at] = number(Integer.MAX_VALUE, Objects.toString(json.currentName()));
    }
    if (!Arrays.equals(found, said)) {
      throw broken(
          "the closing line counts other numbers of lines: some are missing; survey again");
    }
    ended = true;
  }
}
