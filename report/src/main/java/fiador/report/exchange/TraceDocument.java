package fiador.report.exchange;

import fiador.across.Crossing.Crossed;
import fiador.across.Leg.Answer;
import fiador.effects.Obstacle;
import fiador.effects.Path;
import fiador.effects.Remedy;
import fiador.effects.Source;
import fiador.effects.Trace;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.policies.Seeing;
import fiador.report.rows.HoldingRows;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import fiador.report.text.BeyondText;
import fiador.report.text.LineageLines;
import fiador.report.text.SealLines;
import fiador.report.text.SightText;
import fiador.report.text.TraceWords;
import fiador.report.text.Ways;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The answer to a trace for programs; see docs/output.md. What a program decides on stands in codes
 * and names; the sentences beside them are for people, and may be written better one day.
 */
public final class TraceDocument {
  private final Access access;
  private final Trace trace;
  private final Shown plain;
  private final Shown shown;
  private final Instant now;

  private TraceDocument(Access access, Trace trace, Instant now) {
    this.access = access;
    this.trace = trace;
    this.plain = new Shown(access, false);
    this.shown = new Shown(access, true);
    this.now = now;
  }

  /** The document. */
  public static Map<String, Object> of(Access access, Trace trace, Instant now) {
    return new TraceDocument(access, trace, now).document();
  }

  /** The document of something whose rows are elsewhere: what comes of it there decides too. */
  public static Map<String, Object> of(
      Access access, Trace trace, Instant now, @Nullable Crossed crossed) {
    Map<String, Object> answer = of(access, trace, now);
    if (crossed != null) {
      boolean closed = crossed.answer() == Answer.CLOSED;
      answer.replace("answer", closed ? "no" : "yes");
      answer.put("beyond", new BeyondText(access, now).document(crossed));
    }
    return answer;
  }

  private Map<String, Object> document() {
    Map<String, Object> answer = new LinkedHashMap<>();
    answer.put("user", access.principals().name(trace.user()));
    answer.put("privilege", trace.privilege().text());
    answer.put("kind", access.tree().kind(trace.node()).contractName());
    answer.put("object", access.tree().path(trace.node()));
    if (trace.column() >= 0) {
      answer.put("column", access.tree().column(trace.node(), trace.column()));
    }
    answer.put("answer", trace.works() ? "yes" : "no");
    answer.put("state", trace.state() == null ? null : trace.state().text());
    answer.put("cannot_log_in", NoLogin.why(access, trace.user(), now));
    answer.put("grantable", trace.grantable());
    answer.put("path_count", trace.pathCount());
    Map<String, Object> seal = new SealLines(access, shown, now).document(trace.node());
    if (seal != null) {
      answer.put("seal", seal);
    }
    answer.put("paths", trace.paths().stream().map(this::path).toList());
    Seeing.Answer sight =
        trace.works() && trace.privilege() == Privilege.SELECT
            ? new Seeing(access).of(trace.user(), trace.node())
            : null;
    if (sight != null) {
      HoldingRows.sight(sight, null, access, answer);
    }
    if (trace.works() && SightText.WRITING.contains(trace.privilege())) {
      Seeing.Answer writer = new Seeing(access).of(trace.user(), trace.node());
      String written = SightText.written(writer, plain);
      if (written != null) {
        answer.put("rows_written", written);
      }
    }
    LineageLines lineage = new LineageLines(access, plain);
    if (lineage.isFollowed(trace.node(), trace.privilege())) {
      answer.put("shows", lineage.rows(trace.node(), trace.column()));
    }
    answer.put("gates", trace.gates().stream().map(this::gate).toList());
    TraceWords words = new TraceWords(access, shown);
    answer.put("why_not", trace.obstacles().stream().map(o -> words.why(o, trace)).toList());
    answer.put("obstacles", trace.obstacles().stream().map(o -> o.match(new Codes())).toList());
    answer.put(
        "remedies",
        trace.remedies().stream()
            .map(
                remedy ->
                    words.remedy(
                        remedy, TraceWords.isSource(remedy, trace) ? trace.user() : None.PRINCIPAL))
            .toList());
    answer.put("helps", trace.remedies().stream().map(this::help).toList());
    return answer;
  }

  private Map<String, Object> path(Path path) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("chain", Arrays.stream(path.chain()).mapToObj(plain::principal).toList());
    row.put(
        "switch_to", path.switched() == 0 ? null : plain.principal(path.chain()[path.switched()]));
    List<String> tree = new Ways(access, plain).tree(path, trace.privilege().bit(), trace.node());
    row.put("source", tree.get(tree.size() - 1).replaceFirst("^ *`- ", ""));
    row.put("given_by", source(path.source()));
    row.put("state", path.state().text());
    return row;
  }

  private Map<String, Object> source(Source source) {
    if (source instanceof Source.Granted granted) {
      Map<String, Object> row = code("grant");
      int node = access.grants().node(granted.row());
      row.put("object", access.tree().path(node));
      int columns = access.grants().columns(granted.row());
      if (columns != ColumnSets.WHOLE) {
        row.put(
            "columns",
            Arrays.stream(access.columnSets().ordinals(columns))
                .mapToObj(ordinal -> access.tree().column(node, ordinal))
                .toList());
      }
      label(row, access.grants().terms(granted.row()));
      return row;
    } else if (source instanceof Source.Owned owned) {
      return on(code("ownership"), owned.node());
    }
    Map<String, Object> row = code("power");
    row.put("power", ((Source.Powered) source).power().text());
    return row;
  }

  private void label(Map<String, Object> row, Terms terms) {
    if (terms.label() != Terms.NO_LABEL) {
      row.put("label", access.labelOf(terms));
    }
  }

  private Map<String, Object> gate(Trace.PassedGate gate) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("privilege", gate.privilege().text());
    row.put("object", access.tree().path(gate.container()));
    row.put("through", gate.by() < 0 ? null : plain.principal(gate.by()));
    row.put("passed", gate.by() >= 0);
    return row;
  }

  private Map<String, Object> help(Remedy remedy) {
    if (remedy instanceof Remedy.Join join) {
      Map<String, Object> row = code("join");
      row.put("role", plain.principal(join.role()));
      row.put("holdings", join.holdings());
      return row;
    }
    Remedy.Grant grant = (Remedy.Grant) remedy;
    Map<String, Object> row = on(code("grant"), grant.node());
    row.put("privilege", PrivilegeSet.text(grant.privilege()));
    if (grant.column() >= 0) {
      row.put("column", access.tree().column(grant.node(), grant.column()));
    }
    row.put("to", plain.principal(grant.grantee()));
    return row;
  }

  private static Map<String, Object> code(String code) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("code", code);
    return row;
  }

  private Map<String, Object> on(Map<String, Object> row, int node) {
    row.put("object", access.tree().path(node));
    return row;
  }

  private Map<String, Object> who(Map<String, Object> row, int principal) {
    row.put("who", plain.principal(principal));
    return row;
  }

  /** Each kind of obstacle with what it is about. */
  private final class Codes implements Obstacle.Cases<Map<String, Object>> {
    @Override
    public Map<String, Object> nothingGivesIt(Obstacle.NothingGivesIt obstacle) {
      return code("nothing-gives-it");
    }

    @Override
    public Map<String, Object> onlyColumns(Obstacle.OnlyColumns obstacle) {
      Map<String, Object> row = code("only-columns");
      row.put(
          "columns",
          obstacle.columns().stream()
              .mapToObj(ordinal -> access.tree().column(trace.node(), ordinal))
              .toList());
      return row;
    }

    @Override
    public Map<String, Object> missingGate(Obstacle.MissingGate obstacle) {
      Map<String, Object> row = on(code("missing-gate"), obstacle.container());
      row.put("privilege", PrivilegeSet.text(obstacle.privilege()));
      row.put("at_login", obstacle.atLogin());
      return who(row, obstacle.who());
    }

    @Override
    public Map<String, Object> closedDatabase(Obstacle.ClosedDatabase obstacle) {
      return on(code("closed-database"), obstacle.database());
    }

    @Override
    public Map<String, Object> underView(Obstacle.UnderView obstacle) {
      return who(on(code("under-view"), obstacle.under()), obstacle.who());
    }

    @Override
    public Map<String, Object> ownerGone(Obstacle.OwnerGone obstacle) {
      return on(code("owner-gone"), obstacle.view());
    }

    @Override
    public Map<String, Object> withheld(Obstacle.Withheld obstacle) {
      return who(code("withheld"), obstacle.owner());
    }

    @Override
    public Map<String, Object> guarded(Obstacle.Guarded obstacle) {
      return on(code("guarded"), obstacle.node());
    }

    @Override
    public Map<String, Object> denied(Obstacle.Denied obstacle) {
      Map<String, Object> row = code("denied");
      List<Map<String, Object>> by = new ArrayList<>();
      Grants denials = access.denials();
      for (int denial : obstacle.rows()) {
        Map<String, Object> one = new LinkedHashMap<>();
        one.put("to", access.principals().name(denials.grantee(denial)));
        on(one, denials.node(denial));
        if (denials.columns(denial) != ColumnSets.WHOLE) {
          one.put(
              "columns",
              IntStream.of(access.columnSets().ordinals(denials.columns(denial)))
                  .mapToObj(ordinal -> access.tree().column(denials.node(denial), ordinal))
                  .toList());
        }
        label(one, denials.terms(denial));
        by.add(one);
      }
      row.put("by", by);
      return row;
    }

    @Override
    public Map<String, Object> ended(Obstacle.Ended obstacle) {
      return code("ended");
    }

    @Override
    public Map<String, Object> disabled(Obstacle.Disabled obstacle) {
      return code("account-disabled");
    }

    @Override
    public Map<String, Object> over(Obstacle.Over obstacle) {
      Map<String, Object> row = code("account-over");
      row.put("since", obstacle.since().toString());
      return row;
    }
  }
}
