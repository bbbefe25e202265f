package fiador.files.survey;

import com.fasterxml.jackson.core.JsonParser;
import fiador.estate.NodeKind;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.LaterGrant;
import fiador.grants.Membership;
import fiador.grants.SchemaPattern;
import fiador.grants.Terms;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Lines of a survey about who was given what. */
final class GrantLines extends SurveyTokens {
  GrantLines(String fileName, JsonParser json, AccessBuilder builder) {
    super(fileName, json, builder);
  }

  void member() throws IOException, SurveyException {
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

  void grant(boolean positive) throws IOException, SurveyException {
    long privileges = privileges();
    int node = -1;
    int grantee = -1;
    int by = -1;
    long grantable = 0;
    int covers = 0;
    boolean byColumn = false;
    int label = Terms.NO_LABEL;
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
        case "label" -> label = builder.estate().names().intern(text());
        default -> throw unknownField();
      }
    }
    if (node < 0 || grantee < 0) {
      throw broken("a grant needs \"on\" and \"to\"");
    }
    Terms terms = new Terms(privileges, grantable, covers, until).by(label);
    int columns = byColumn ? columnSet(node) : ColumnSets.WHOLE;
    if (positive) {
      builder.grant(grantee, node, terms, columns, by);
    } else {
      builder.denial(grantee, node, terms, columns);
    }
  }

  void pattern() throws IOException, SurveyException {
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

  void later() throws IOException, SurveyException {
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
}
