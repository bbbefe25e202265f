package fiador.files.survey;

import com.fasterxml.jackson.core.JsonParser;
import fiador.grants.AccessBuilder;
import fiador.grants.ColumnSets;
import fiador.grants.Lineage;
import java.io.IOException;

/** Lines of a survey about what views read and show. */
final class ViewLines extends SurveyTokens {
  ViewLines(String fileName, JsonParser json, AccessBuilder builder) {
    super(fileName, json, builder);
  }

  void reads() throws IOException, SurveyException {
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

  void shows() throws IOException, SurveyException {
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
}
