package fiador.report.text;

import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Lineage;
import fiador.grants.Lineage.Base;
import fiador.report.shown.Shown;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What answers about a view say of the columns under it that it shows. */
public final class LineageLines {
  private static final int NAMES = 8;

  private final Access access;
  private final Shown shown;

  public LineageLines(Access access, Shown shown) {
    this.access = access;
    this.shown = shown;
  }

  /** A line for each table; none where it is no view that could be followed. */
  List<String> of(int view, int column, Privilege privilege) {
    List<String> lines = new ArrayList<>();
    if (!isFollowed(view, privilege)) {
      return lines;
    }
    Map<Integer, List<String>> byTable = new LinkedHashMap<>();
    bases(view, column)
        .forEach(
            (base, asIs) ->
                byTable
                    .computeIfAbsent(base.node(), none -> new ArrayList<>())
                    .add(shown.column(base.node(), base.column()) + (asIs ? "" : " (worked out)")));
    byTable.forEach(
        (table, names) -> {
          String some = String.join(", ", names.subList(0, Math.min(NAMES, names.size())));
          String more = names.size() > NAMES ? " and " + (names.size() - NAMES) + " more" : "";
          lines.add(shown.path(table) + ": " + some + more);
        });
    if (lines.isEmpty()) {
      lines.add("no value of any table");
    }
    return lines;
  }

  /** The same for programs. */
  public List<Map<String, Object>> rows(int view, int column) {
    List<Map<String, Object>> rows = new ArrayList<>();
    for (Map.Entry<Base, Boolean> each : bases(view, column).entrySet()) {
      Map<String, Object> row = new LinkedHashMap<>();
      Base base = each.getKey();
      row.put("object", access.tree().path(base.node()));
      row.put("column", access.tree().column(base.node(), base.column()));
      row.put("as_is", each.getValue());
      rows.add(row);
    }
    return rows;
  }

  /** Without the server's own catalog. */
  private Map<Base, Boolean> bases(int view, int column) {
    Map<Base, Boolean> bases = access.reads().lineage().bases(view, column);
    bases.keySet().removeIf(base -> access.tree().isSystem(base.node()));
    return bases;
  }

  /** A view made from policies is not followed: its rows and masks are told instead. */
  public boolean isFollowed(int view, Privilege privilege) {
    Lineage lineage = access.reads().lineage();
    NodeKind kind = access.tree().kind(view);
    boolean isView = kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW;
    boolean made = access.sights().kept().containsKey(view);
    return isView && !made && privilege == Privilege.SELECT && lineage.isKnown(view);
  }
}
