package fiador.report.rows;

import fiador.effects.Holding;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.policies.Seeing;
import fiador.predicates.PredicateText;
import fiador.report.shown.NoLogin;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Holdings as the machine contract has them; see docs/output.md. */
public final class HoldingRows {
  /** The fields, in order. */
  static final List<String> FIELDS =
      List.of(
          "user",
          "privilege",
          "kind",
          "object",
          "columns",
          "state",
          "grantable",
          "rows",
          "masked",
          "cannot_log_in");

  private final Access access;
  private final Seeing seeing;
  private final Instant now;

  /** Of a longer list the ways are not looked up. */
  private static final int WAYS_WORTH_LOOKING_UP = 20_000;

  private final Function<Holding, String> ways;

  // rows about one thing, and about one user, come one after the other
  private int lastNode = None.NODE;
  private String lastPath = "";
  private int lastUser = None.PRINCIPAL;
  private String whyNoLogin;

  /** Rows of that estate, at that time. */
  public HoldingRows(Access access, Instant now) {
    this(access, now, null);
  }

  private HoldingRows(Access access, Instant now, Function<Holding, String> ways) {
    this.access = access;
    this.now = now;
    this.ways = ways;
    this.seeing = new Seeing(access);
  }

  /**
   * Rows for a table, which also say through what each thing is held.
   *
   * @param ways tells it of one
   * @param rows how many there are
   * @param format objects for programs keep to the contract
   */
  public static HoldingRows withWays(
      Access access, Instant now, Function<Holding, String> ways, int rows, Format format) {
    boolean table = format == Format.CSV || format == Format.MARKDOWN;
    return new HoldingRows(access, now, table && rows <= WAYS_WORTH_LOOKING_UP ? ways : null);
  }

  /** The fields these rows may have, in order. */
  public List<String> fields() {
    if (ways == null) {
      return FIELDS;
    }
    List<String> fields = new ArrayList<>(FIELDS);
    fields.add("through");
    return fields;
  }

  /** One holding. */
  public Map<String, Object> row(Holding holding) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("user", access.principals().name(holding.user()));
    if (holding.node() != lastNode) {
      lastNode = holding.node();
      lastPath = access.tree().path(lastNode);
    }
    thing(access, holding.privilege(), lastNode, lastPath, holding.columns(), row);
    row.put("state", holding.state().text());
    row.put("grantable", holding.grantable());
    if (holding.privilege() == Privilege.SELECT && seeing.decides(holding.node())) {
      Seeing.Answer answer = seeing.of(holding.user(), holding.node());
      sight(answer, holding.columns(), access, row);
    }
    if (holding.user() != lastUser) {
      lastUser = holding.user();
      whyNoLogin = NoLogin.why(access, lastUser, now);
    }
    row.put("cannot_log_in", whyNoLogin);
    if (ways != null) {
      row.put("through", ways.apply(holding));
    }
    return row;
  }

  /**
   * Adds what is held.
   *
   * @param columns ordinals, or null for the whole
   */
  public static void thing(
      Access access, Privilege privilege, int node, BitSet columns, Map<String, Object> row) {
    thing(access, privilege, node, access.tree().path(node), columns, row);
  }

  private static void thing(
      Access access,
      Privilege privilege,
      int node,
      String path,
      BitSet columns,
      Map<String, Object> row) {
    row.put("privilege", privilege.text());
    row.put("kind", access.tree().kind(node).contractName());
    row.put("object", path);
    if (columns != null) {
      row.put(
          "columns",
          columns.stream()
              .mapToObj(column -> access.tree().column(node, column))
              .collect(Collectors.toList()));
    }
  }

  /**
   * Adds which rows come back and which columns masked.
   *
   * @param columns the only columns held, or null for all
   */
  public static void sight(
      Seeing.Answer answer, BitSet columns, Access access, Map<String, Object> row) {
    if (answer.exempt() != null) {
      return;
    }
    if (!answer.isKnown()) {
      row.put("rows", null);
    } else if (!answer.seen().allRows()) {
      row.put("rows", PredicateText.of(answer.seen().condition()));
    }
    List<String> masked =
        answer.seen().masks().keySet().stream()
            .filter(
                name ->
                    columns == null || columns.get(access.tree().columnNamed(answer.table(), name)))
            .toList();
    if (!masked.isEmpty()) {
      row.put("masked", masked);
    }
  }
}
