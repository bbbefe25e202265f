package fiador.report;

import fiador.effects.Holding;
import fiador.grants.Access;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Holdings as the machine contract has them; see docs/output.md. */
public final class HoldingRows {
  /** The fields, in order. */
  public static final List<String> FIELDS =
      List.of("user", "privilege", "kind", "object", "columns", "state", "grantable");

  private final Access access;

  /** Rows of that estate. */
  public HoldingRows(Access access) {
    this.access = access;
  }

  /** One holding. */
  public Map<String, Object> row(Holding holding) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("user", access.principals().name(holding.user()));
    row.put("privilege", holding.privilege().text());
    row.put("kind", access.tree().kind(holding.node()).contractName());
    row.put("object", access.tree().path(holding.node()));
    if (holding.columns() != null) {
      row.put(
          "columns",
          holding.columns().stream()
              .mapToObj(column -> access.tree().column(holding.node(), column))
              .collect(Collectors.toList()));
    }
    row.put("state", holding.state().text());
    row.put("grantable", holding.grantable());
    return row;
  }
}
