package fiador.report.rows;

import fiador.effects.SideBySide.Line;
import fiador.grants.Access;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What two hold, as rows for programs; see docs/output.md. */
public final class SideBySideRows {
  /** The fields, in order. */
  public static final List<String> FIELDS =
      List.of(
          "user",
          "beside",
          "held_by",
          "privilege",
          "kind",
          "object",
          "columns",
          "state",
          "grantable",
          "beside_state",
          "beside_grantable");

  private SideBySideRows() {}

  /**
   * One line.
   *
   * @param first whose holdings were asked for
   * @param second whose holdings stand beside
   */
  public static Map<String, Object> row(Access access, int first, int second, Line line) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("user", access.principals().name(first));
    row.put("beside", access.principals().name(second));
    row.put("held_by", line.second() == null ? "user" : line.first() == null ? "beside" : "both");
    HoldingRows.thing(access, line.privilege(), line.node(), line.columns(), row);
    if (line.first() != null) {
      row.put("state", line.first().state().text());
      row.put("grantable", line.first().grantable());
    }
    if (line.second() != null) {
      row.put("beside_state", line.second().state().text());
      row.put("beside_grantable", line.second().grantable());
    }
    return row;
  }
}
