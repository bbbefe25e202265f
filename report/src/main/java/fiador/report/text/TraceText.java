package fiador.report.text;

import fiador.across.Crossing.Crossed;
import fiador.across.Leg.Answer;
import fiador.effects.Obstacle;
import fiador.effects.Obstacle.OnlyColumns;
import fiador.effects.Path;
import fiador.effects.Remedy;
import fiador.effects.State;
import fiador.effects.Trace;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.rules.Gate;
import fiador.policies.Seeing;
import fiador.report.shown.NoLogin;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.math.BigInteger;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** A trace for people, and for programs. */
public final class TraceText {
  private final Access access;
  private final Shown shown;
  private final Ways ways;
  private final TraceWords words;
  private final SealLines seals;
  private final BeyondText beyond;
  private final int width;
  private final Instant now;

  /** Parameters as for {@link HoldingText}. */
  public TraceText(Access access, int width, Instant now) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.ways = new Ways(access, shown);
    this.words = new TraceWords(access, shown);
    this.seals = new SealLines(access, shown, now);
    this.beyond = new BeyondText(access, now);
    this.width = width;
    this.now = now;
  }

  /** The answer, the paths, the gates, the reasons and what would help. */
  public String text(Trace trace) {
    return text(trace, null);
  }

  /**
   * The same, of something whose rows are elsewhere.
   *
   * @param crossed what comes of it there; null where its rows are here
   */
  public String text(Trace trace, @Nullable Crossed crossed) {
    StringBuilder text = new StringBuilder(headline(trace, crossed)).append("\n");
    paths(trace, text);
    Columns facts = new Columns(width);
    String aside = shown.aside(trace.node());
    if (aside != null) {
      facts.line("table", aside);
    }
    gates(trace, facts);
    if (trace.privilege() == Privilege.SELECT) {
      sight(trace, facts);
      shows(trace, facts);
    } else if (trace.works() && SightText.WRITING.contains(trace.privilege())) {
      Seeing.Answer answer = new Seeing(access).of(trace.user(), trace.node());
      String written = SightText.written(answer, shown);
      if (written != null) {
        facts.line("writes", "only rows with " + written);
      }
    }
    if (crossed != null) {
      beyond.lines(crossed, facts);
    }
    String label = "seal";
    for (String line : seals.of(trace.user(), trace.node(), trace.works())) {
      facts.line(label, line);
      label = "";
    }
    if (trace.works() && trace.grantable()) {
      facts.line("grant", "may also be granted on to others");
    }
    if (trace.state() == State.ON_REQUEST && crossed == null) {
      Path first = trace.paths().get(0);
      String role = shown.principal(first.chain()[first.switched()]);
      facts.line(
          "switch",
          first.switched() == 0
              ? "to another role, or to none: the role that is on after login denies it"
              : "SET ROLE " + role + " first: it is not on after login");
    }
    for (Obstacle obstacle : trace.obstacles()) {
      facts.line("why", words.why(obstacle, trace));
    }
    // a grant on a closed table would get round its policies, and any other round its seal
    boolean closed =
        trace.privilege() == Privilege.SELECT
            && new Seeing(access).safeViewOf(trace.node()) >= 0
            && !trace.works();
    List<String> openers = trace.works() ? List.of() : seals.openers(trace.user(), trace.node());
    if (!openers.isEmpty()) {
      facts.line("opens", "membership in " + String.join(" or ", openers));
    }
    boolean none = closed || !openers.isEmpty();
    boolean begun = false;
    for (Remedy remedy : none ? List.<Remedy>of() : trace.remedies()) {
      boolean source = TraceWords.isSource(remedy, trace);
      String first = remedy instanceof Remedy.Join ? "join" : "grant";
      facts.line(
          source && begun ? "or" : first,
          words.remedy(remedy, source ? trace.user() : None.PRINCIPAL));
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

  private String headline(Trace trace, @Nullable Crossed crossed) {
    String what = trace.privilege().text().toUpperCase(Locale.ROOT) + " " + target(trace);
    String who = shown.principal(trace.user());
    String answer;
    if (crossed != null && crossed.answer() == Answer.CLOSED) {
      String open = "no, open here but " + beyond.end(crossed) + ":";
      answer = Tone.BAD.of(open) + Tone.STRONG.of(" " + who + " gets no rows of " + target(trace));
    } else if (crossed != null && crossed.answer() == Answer.UNKNOWN) {
      String open = "open here, but " + beyond.end(crossed) + ":";
      answer = Tone.PARTLY.of(open) + Tone.STRONG.of(" " + who + " may " + what);
    } else if (trace.works()) {
      boolean out = NoLogin.why(access, trace.user(), now) != null;
      State best = crossed == null ? trace.state() : crossed.state();
      String state = best.text().replace('-', ' ');
      Tone tone = out ? Tone.PARTLY : States.tone(best);
      String yes = "yes, " + (out ? "but cannot log in" : state) + ":";
      answer = tone.of(yes) + Tone.STRONG.of(" " + who + " may " + what);
    } else if (trace.state() != null) {
      answer = no("no, " + trace.state().text() + ":", who, what);
    } else {
      boolean part = trace.obstacles().stream().anyMatch(OnlyColumns.class::isInstance);
      answer = no(part ? "no, not all of it:" : "no:", who, what);
    }
    return Headline.of(answer, shown.origin(now), width);
  }

  private static String no(String no, String who, String what) {
    return Tone.BAD.of(no) + Tone.STRONG.of(" " + who + " may not " + what);
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
    if (access.rules().gates().stream().allMatch(Gate::sealedOnly) && trace.gates().isEmpty()) {
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
}
