package fiador.files.survey;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import fiador.files.houses.Rules;
import fiador.grants.Access;
import fiador.grants.AccessBuilder;
import fiador.grants.Origin;
import fiador.grants.Seen;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.KnownHouses;
import fiador.houses.HouseSheet;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
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

  private final EstateLines things;
  private final GrantLines given;
  private final ViewLines views;
  private final SightLines sights;
  private final AbroadLines abroad;
  private Origin about;
  private HouseRules rules;
  private boolean ended;

  private SurveyReader(String fileName, JsonParser json) {
    super(fileName, json, new AccessBuilder());
    this.things = new EstateLines(fileName, json, builder);
    this.given = new GrantLines(fileName, json, builder);
    this.views = new ViewLines(fileName, json, builder);
    this.sights = new SightLines(fileName, json, builder);
    this.abroad = new AbroadLines(fileName, json, builder);
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
    return builder.build(about, rules);
  }

  private void line(String first) throws IOException, SurveyException {
    if (about == null && !first.equals("fiador_survey")) {
      throw broken("a survey file begins with \"fiador_survey\"; this is some other file");
    }
    switch (first) {
      case "fiador_survey" -> head();
      case "principal" -> things.principal();
      case "node" -> things.node();
      case "member" -> given.member();
      case "grant" -> given.grant(true);
      case "denial" -> given.grant(false);
      case "pattern" -> given.pattern();
      case "view" -> views.reads();
      case "shows" -> views.shows();
      case "later" -> given.later();
      case "guard" -> sights.guard();
      case "doubt" -> sights.doubt();
      case "attribute" -> sights.attribute();
      case "lookup" -> sights.lookup();
      case "seal" -> sights.seal();
      case "fills" -> sights.fills();
      case "filter" -> sights.filter();
      case "policies_on" -> sights.policies();
      case "address" -> abroad.address();
      case "foreign_server" -> abroad.place();
      case "user_mapping" -> abroad.login();
      case "foreign_table" -> abroad.table();
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
    String brought = null;
    while (nextField()) {
      switch (json.currentName()) {
        case "server" -> server = text();
        case "kind" -> kind = text();
        case "version" -> version = text();
        case "taken" -> taken = instant();
        case "identity" -> identity = text();
        case "rules" -> brought = text();
        default -> throw unknownField();
      }
    }
    about = new Origin(server, kind, version, taken, identity);
    rules = rules(kind, version, brought);
  }

  /** A survey brings the house rules of a kind that a sheet describes, and of no other. */
  private HouseRules rules(String kind, String version, String brought)
      throws IOException, SurveyException {
    HouseRules known = KnownHouses.of(kind, version);
    boolean described = HouseSheet.describes(kind);
    if (known == null && !described) {
      throw broken("the kind of server \"" + kind + "\" is not known");
    } else if (described == (brought == null)) {
      throw broken(
          described
              ? "the rules of a server of kind " + kind + " are missing"
              : "the rules of " + kind + " are known, and a survey brings none of its own");
    }
    try {
      return described ? Rules.read(kind, brought) : known;
    } catch (IOException nonsense) {
      throw broken("the house rules cannot be read: " + nonsense.getMessage());
    }
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
