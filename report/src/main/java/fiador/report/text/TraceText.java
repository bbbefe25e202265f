package fiador.report.text;

import fiador.effects.Obstacle;
import fiador.effects.Obstacle.ClosedDatabase;
import fiador.effects.Obstacle.Denied;
import fiador.effects.Obstacle.Disabled;
import fiador.effects.Obstacle.Ended;
import fiador.effects.Obstacle.Guarded;
import fiador.effects.Obstacle.MissingGate;
import fiador.effects.Obstacle.NothingGivesIt;
import fiador.effects.Obstacle.OnlyColumns;
import fiador.effects.Obstacle.Over;
import fiador.effects.Obstacle.UnderView;
import fiador.effects.Obstacle.Withheld;
import fiador.effects.Path;
import fiador.effects.Remedy;
import fiador.effects.State;
import fiador.effects.Trace;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.policies.Seeing;
import fiador.report.rows.HoldingRows;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import java.math.BigInteger;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;

/** A trace for people, and for programs. */
public final class TraceText {
  private final Access access;
  private final Shown shown;
  private final Ways ways;
  private final SealLines seals;
  private final int width;
  private final Instant now;

  /** Parameters as for {@link HoldingText}. */
  public TraceText(Access access, int width, Instant now) {
    this.access = access;
    this.shown = new Shown(access, true);
    this.ways = new Ways(access, shown);
    this.seals = new SealLines(access, shown, now);
    this.width = width;
    this.now = now;
  }

  /** The answer, the paths, the gates, the reasons and what would help. */
  public String text(Trace trace) {
    StringBuilder text = new StringBuilder(headline(trace)).append("\n");
    paths(trace, text);
    Columns facts = new Columns(width);
    gates(trace, facts);
    if (trace.privilege() == Privilege.SELECT) {
      sight(trace, facts);
      shows(trace, facts);
    }
    String label = "seal";
    for (String line : seals.of(trace.node(), trace.user(), trace.works())) {
      facts.line(label, line);
      label = "";
    }
    if (trace.works() && trace.grantable()) {
      facts.line("grant", "may also be granted on to others");
    }
    if (trace.state() == State.ON_REQUEST) {
      Path first = trace.paths().get(0);
      String role = shown.principal(first.chain()[first.switched()]);
      facts.line("switch", "SET ROLE " + role + " first: it is not on after login");
    }
    for (Obstacle obstacle : trace.obstacles()) {
      facts.line("why", why(obstacle, trace));
    }
    // a grant on a closed table would get round its policies, and any other round its seal
    boolean closed =
        trace.privilege() == Privilege.SELECT
            && new Seeing(access).safeViewOf(trace.node()) >= 0
            && !trace.works();
    List<String> openers = trace.works() ? List.of() : seals.openers(trace.node(), trace.user());
    if (!openers.isEmpty()) {
      facts.line("opens", "membership in " + String.join(" or ", openers));
    }
    boolean none = closed || !openers.isEmpty();
    boolean begun = false;
    for (Remedy remedy : none ? List.<Remedy>of() : trace.remedies()) {
      boolean source = isSource(remedy, trace);
      String first = remedy instanceof Remedy.Join ? "join" : "grant";
      facts.line(source && begun ? "or" : first, remedy(remedy, source ? trace.user() : -1));
      begun |= source;
    }
    String lines = facts.text();
    return lines.isEmpty() ? text.toString() : text.append("\n").append(lines).toString();
  }

  /** Which rows and columns come back, and where a closed table can be read instead. */
  private void sight(Trace trace, Columns facts) {
    Seeing seeing = new Seeing(access);
    if (trace.works()) {
      SightText.lines(seeing.of(trace.user(), trace.node()), shown).forEach(facts::line);
    }
    int safe = seeing.safeViewOf(trace.node());
    if (safe >= 0) {
      String column = trace.column() < 0 ? "" : "." + shown.column(trace.node(), trace.column());
      facts.line(
          "safe",
          shown.path(safe)
              + " shows the table as its policies say: fiador trace "
              + shown.principal(trace.user())
              + " select "
              + shown.path(safe)
              + column);
    }
  }

  private void shows(Trace trace, Columns facts) {
    String label = "shows";
    for (String line :
        new LineageLines(access, shown).of(trace.node(), trace.column(), trace.privilege())) {
      facts.line(label, line);
      label = "";
    }
  }

  private String target(Trace trace) {
    String path = shown.path(trace.node());
    return trace.column() < 0 ? path : path + "." + shown.column(trace.node(), trace.column());
  }

  private String headline(Trace trace) {
    String what = trace.privilege().text().toUpperCase(Locale.ROOT) + " " + target(trace);
    String who = shown.principal(trace.user());
    String answer;
    if (trace.works()) {
      boolean out = NoLogin.why(access, trace.user(), now) != null;
      String state = trace.state().text().replace('-', ' ');
      answer = "yes, " + (out ? "but cannot log in" : state) + ": " + who + " may " + what;
    } else if (trace.state() != null) {
      answer = "no, " + trace.state().text() + ": " + who + " may not " + what;
    } else {
      boolean part = trace.obstacles().stream().anyMatch(OnlyColumns.class::isInstance);
      answer =
          part
              ? "no, not all of it: " + who + " may not " + what
              : "no: " + who + " may not " + what;
    }
    return Headline.of(answer, shown.origin(now), width);
  }

  private void paths(Trace trace, StringBuilder text) {
    int number = 1;
    for (Path path : trace.paths()) {
      text.append("\n");
      String state =
          path.state() == trace.state() || trace.state() == null && path.state() == State.LIVE
              ? ""
              : "   [" + path.state().text() + "]";
      String lead = "  " + number++ + "  ";
      for (String line : ways.tree(path, trace.privilege().bit(), trace.node())) {
        text.append(lead).append(line).append(state).append("\n");
        lead = " ".repeat(lead.length());
        state = "";
      }
    }
    BigInteger more = trace.pathCount().subtract(BigInteger.valueOf(trace.paths().size()));
    if (more.signum() > 0 && !trace.paths().isEmpty()) {
      text.append("\n  and ")
          .append(more)
          .append(more.equals(BigInteger.ONE) ? " more path" : " more paths")
          .append(" (--paths N shows them)\n");
    }
  }

  private void gates(Trace trace, Columns facts) {
    if (trace.paths().isEmpty()) {
      return;
    }
    if (access.rules().gates().isEmpty()) {
      facts.line("gates", "none needed on this server");
      return;
    }
    for (Trace.PassedGate gate : trace.gates()) {
      String on = gate.privilege().text() + " on " + shown.node(gate.container());
      facts.line(
          "gate",
          gate.by() < 0 ? on + ": missing" : on + ": through " + shown.principal(gate.by()));
    }
  }

  private String why(Obstacle obstacle, Trace trace) {
    String what = trace.privilege().text() + " on " + shown.node(trace.node());
    if (obstacle instanceof NothingGivesIt) {
      return "no grant, ownership or power gives "
          + shown.principal(trace.user())
          + " "
          + what
          + (trace.column() < 0 ? "" : " for that column");
    } else if (obstacle instanceof OnlyColumns only) {
      return "held on some columns only: " + shown.columns(trace.node(), only.columns());
    } else if (obstacle instanceof MissingGate gate) {
      String privilege = Privilege.lowest(gate.privilege()).text();
      return shown.principal(gate.who())
          + " has no "
          + privilege
          + " on "
          + shown.node(gate.container())
          + (gate.atLogin() ? ", so cannot log in there" : ", so nothing in it can be used");
    } else if (obstacle instanceof ClosedDatabase closed) {
      return shown.node(closed.database()) + " accepts no connections from anybody";
    } else if (obstacle instanceof UnderView under) {
      boolean routine = access.tree().kind(trace.node()) == NodeKind.ROUTINE;
      boolean calls = access.tree().kind(under.under()) == NodeKind.ROUTINE;
      return (routine ? "the routine " : "the view ")
          + (calls ? "calls " : "reads ")
          + shown.node(under.under())
          + ", which "
          + shown.principal(under.who())
          + " may not";
    } else if (obstacle instanceof Obstacle.OwnerGone gone) {
      return shown.node(gone.view())
          + " reads as an account that is no longer there: nobody can read it";
    } else if (obstacle instanceof Withheld withheld) {
      return shown.principal(withheld.owner())
          + " owns it but has taken this right from itself; as owner it may grant it again";
    } else if (obstacle instanceof Guarded) {
      return "the server lets only superusers do this to its own catalog";
    } else if (obstacle instanceof Denied) {
      return "a denial takes it away, and denials beat every grant";
    } else if (obstacle instanceof Ended) {
      return "the membership or grant it came through has ended";
    } else if (obstacle instanceof Disabled) {
      return "the account is disabled: it cannot log in";
    } else if (obstacle instanceof Over over) {
      return NoLogin.over(access, over.since());
    }
    throw new IllegalArgumentException("no words for " + obstacle);
  }

  /** Whether it gives what was asked for; others open the way to it. */
  private static boolean isSource(Remedy remedy, Trace trace) {
    return remedy instanceof Remedy.Join
        || remedy instanceof Remedy.Grant grant
            && grant.node() == trace.node()
            && grant.privilege() == trace.privilege().bit();
  }

  /**
   * In words.
   *
   * @param user who asked for it, where it gives that; else -1
   */
  private String remedy(Remedy remedy, int user) {
    if (remedy instanceof Remedy.Join join) {
      return "membership in "
          + shown.principal(join.role())
          + ", which has it ("
          + join.holdings()
          + (join.holdings() == 1 ? " privilege" : " privileges")
          + " in all)";
    }
    Remedy.Grant grant = (Remedy.Grant) remedy;
    String column =
        grant.column() < 0 ? "" : " (" + shown.column(grant.node(), grant.column()) + ")";
    return PrivilegeSet.text(grant.privilege())
        + column
        + " on "
        + shown.node(grant.node())
        + " to "
        + shown.principal(grant.grantee())
        + (user < 0
            ? ""
            : grant.grantee() == user
                ? access.principals().isUser(user) ? " alone, a direct grant" : ""
                : ", which " + shown.principal(user) + " has already");
  }

  /** The same for programs; see docs/output.md. */
  public static Map<String, Object> document(Access access, Trace trace, Instant now) {
    Shown plain = new Shown(access, false);
    Ways ways = new Ways(access, plain);
    TraceText words = new TraceText(access, 100, now);
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
    Map<String, Object> seal = words.seals.document(trace.node());
    if (seal != null) {
      answer.put("seal", seal);
    }
    List<Map<String, Object>> paths = new ArrayList<>();
    for (Path path : trace.paths()) {
      Map<String, Object> row = new LinkedHashMap<>();
      List<String> chain = new ArrayList<>();
      for (int principal : path.chain()) {
        chain.add(plain.principal(principal));
      }
      row.put("chain", chain);
      row.put(
          "switch_to",
          path.switched() == 0 ? null : plain.principal(path.chain()[path.switched()]));
      List<String> tree = ways.tree(path, trace.privilege().bit(), trace.node());
      row.put("source", tree.get(tree.size() - 1).replaceFirst("^ *`- ", ""));
      row.put("state", path.state().text());
      paths.add(row);
    }
    answer.put("paths", paths);
    Seeing.Answer sight =
        trace.works() && trace.privilege() == Privilege.SELECT
            ? new Seeing(access).of(trace.user(), trace.node())
            : null;
    if (sight != null) {
      HoldingRows.sight(sight, null, access, answer);
    }
    LineageLines lineage = new LineageLines(access, plain);
    if (lineage.isFollowed(trace.node(), trace.privilege())) {
      answer.put("shows", lineage.rows(trace.node(), trace.column()));
    }
    answer.put(
        "gates",
        trace.gates().stream()
            .map(
                gate -> {
                  Map<String, Object> row = new LinkedHashMap<>();
                  row.put("privilege", gate.privilege().text());
                  row.put("object", access.tree().path(gate.container()));
                  row.put("through", gate.by() < 0 ? null : plain.principal(gate.by()));
                  row.put("passed", gate.by() >= 0);
                  return row;
                })
            .collect(Collectors.toList()));
    answer.put("why_not", trace.obstacles().stream().map(o -> words.why(o, trace)).toList());
    answer.put(
        "remedies",
        trace.remedies().stream()
            .map(remedy -> words.remedy(remedy, isSource(remedy, trace) ? trace.user() : -1))
            .toList());
    return answer;
  }
}
