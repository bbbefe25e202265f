package fiador.report.text;

import fiador.across.Crossing.Crossed;
import fiador.across.Leg;
import fiador.across.Leg.Answer;
import fiador.across.Leg.Why;
import fiador.effects.Obstacle;
import fiador.effects.Remedy;
import fiador.effects.State;
import fiador.effects.Trace;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.grants.Abroad;
import fiador.grants.Access;
import fiador.policies.Seeing;
import fiador.report.shown.Shown;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Where a foreign table leads, and what comes of it there; for people and for programs. */
public final class BeyondText {
  private final Access home;
  private final Instant now;

  /** From that server; {@code now} for how old the other surveys are. */
  public BeyondText(Access home, Instant now) {
    this.home = home;
    this.now = now;
  }

  /** Where it ends that does not end well: what the headline says. */
  String end(Crossed crossed) {
    Leg leg = deciding(crossed.legs(), crossed.answer());
    if (leg.why() == Why.NO_MAPPING || leg.why() == Why.NO_SECRET) {
      return "nobody to go on as";
    }
    String where = where(leg);
    return crossed.answer() == Answer.CLOSED ? "closed on " + where : where + " is not known";
  }

  private static Leg deciding(List<Leg> legs, Answer answer) {
    for (Leg leg : legs) {
      if (leg.answer() == answer) {
        return leg.onward().isEmpty() || leg.why() != null ? leg : deciding(leg.onward(), answer);
      }
    }
    return legs.get(0);
  }

  private static String where(Leg leg) {
    if (leg.there() != null) {
      return leg.there().about().server();
    }
    String name = Places.name(leg.place());
    String address = Places.address(leg.place());
    return name != null ? name : address != null ? address : "the other side";
  }

  /** The lines about each step. */
  void lines(Crossed crossed, Columns facts) {
    if (crossed.state() == State.ON_REQUEST) {
      String role = Shown.brief(home).principal(crossed.acting());
      facts.line("switch", "SET ROLE " + role + " first: the mapping is that role's");
    }
    for (Leg leg : crossed.legs()) {
      lines(leg, facts);
    }
  }

  private void lines(Leg leg, Columns facts) {
    Shown here = Shown.brief(leg.here());
    facts.line("beyond", here.path(leg.table()) + " is " + what(leg));
    if (leg.login() != null) {
      String whose =
          leg.login().who() == Principals.PUBLIC
              ? "the mapping for everybody"
              : "the mapping of " + here.principal(leg.login().who());
      String user = leg.login().user() == null ? "" : " as " + leg.login().user();
      facts.line("goes on", here.principal(leg.who()) + user + ": " + whose);
    }
    String said = said(leg);
    if (said != null) {
      facts.line(leg.answer() == Answer.OPEN ? "note" : "why", said);
    }
    Access there = leg.there();
    Trace trace = leg.trace();
    if (there != null && trace != null) {
      right(leg, there, trace, facts);
    }
    leg.onward().forEach(next -> lines(next, facts));
  }

  private void right(Leg leg, Access there, Trace trace, Columns facts) {
    Shown shown = Shown.brief(there);
    boolean live = trace.state() == State.LIVE;
    String column = trace.column() < 0 ? "" : "." + shown.column(trace.node(), trace.column());
    facts.line(
        "there",
        (live ? "yes: " : "no: ")
            + shown.principal(leg.user())
            + (live ? " may SELECT " : " may not SELECT ")
            + shown.path(leg.node())
            + (live ? "" : column)
            + (there.isSuperuser(leg.user()) ? ", as a superuser" : "")
            + " ("
            + shown.origin(now)
            + ")");
    if (live) {
      Seeing.Answer sight = new Seeing(there).of(leg.user(), leg.node());
      SightText.lines(sight, shown).forEach(facts::line);
    }
    String label = "seal";
    for (String line : new SealLines(there, shown, now).of(leg.node())) {
      facts.line(label, line);
      label = "";
    }
    TraceWords words = new TraceWords(there, shown);
    for (Obstacle obstacle : live ? List.<Obstacle>of() : trace.obstacles()) {
      facts.line("why", words.why(obstacle, trace));
    }
    for (Remedy remedy : live ? List.<Remedy>of() : trace.remedies()) {
      boolean source = TraceWords.isSource(remedy, trace);
      String first = remedy instanceof Remedy.Join ? "join" : "grant";
      String help = words.remedy(remedy, source ? trace.user() : None.PRINCIPAL);
      facts.line(first, "on " + there.about().server() + ": " + help);
    }
  }

  private static String what(Leg leg) {
    Abroad.Table table = leg.here().seen().abroad().table(leg.table());
    String there = Places.there(table);
    String address = Places.address(leg.place());
    return switch (leg.place().carrier()) {
      case FILE -> "the file " + (there == null ? "that the server names" : there);
      case PROGRAM -> "what a program puts out on the server's machine";
      default -> {
        String name = Places.name(leg.place());
        yield (there == null ? "a table" : there)
            + " of "
            + (name == null ? "a server" : name)
            + (address == null ? "" : " (" + Places.carrier(leg.place()) + " at " + address + ")");
      }
    };
  }

  /** What decided before the right there; null where that did. */
  private String said(Leg leg) {
    Why why = leg.why();
    if (why == null) {
      return null;
    }
    String who = Shown.brief(leg.here()).principal(leg.who());
    String user = leg.login() == null ? null : leg.login().user();
    return switch (why) {
      case NO_MAPPING ->
          "no mapping says as whom "
              + who
              + " goes on: one for "
              + who
              + " or for PUBLIC is needed";
      case NO_SECRET -> "the mapping keeps no secret, and only superusers go on without one";
      case MAYBE_ASKED ->
          "the mapping keeps no secret; whether one is asked for there is not known";
      case LOGIN_NOT_SHOWN ->
          "the survey's login was not shown as whom " + who + " goes on; survey as a superuser";
      case LOGIN_NOT_SAID ->
          "the mapping names nobody, so the name of the server's process is used there";
      case NO_SURVEY -> "no survey of that server is at hand: survey it, or name one with --across";
      case NO_ACCOUNT -> "there is no " + user + " there";
      case NO_ENTRY -> user + " cannot log in there";
      case NO_TABLE -> "there is no such table there";
      case NO_COLUMN -> "there is no such column there";
      case NOT_SURVEYED -> "the survey of that server did not look into that database";
      case NOT_SWITCHED ->
          user + " would have to switch a role on there, and nobody does that on the way";
      case TOO_MANY -> "there are more steps than are followed";
      case CIRCLE -> "it leads back to where it came from";
      case FILE -> "read with the rights of the server's process, whoever asks";
      case PROGRAM -> "run with the rights of the server's process, whoever asks";
      case NOT_FOLLOWED -> "what " + Places.carrier(leg.place()) + " does is not followed";
    };
  }

  /** The same for programs. */
  public Map<String, Object> document(Crossed crossed) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("answer", crossed.answer().text());
    row.put(
        "switch_to",
        crossed.state() == State.ON_REQUEST ? home.principals().name(crossed.acting()) : null);
    row.put("steps", steps(crossed.legs()));
    return row;
  }

  private List<Map<String, Object>> steps(List<Leg> legs) {
    List<Map<String, Object>> steps = new ArrayList<>();
    for (Leg leg : legs) {
      Abroad.Table table = leg.here().seen().abroad().table(leg.table());
      Access there = leg.there();
      Map<String, Object> step = new LinkedHashMap<>();
      step.put("server", leg.here().about().server());
      step.put("object", leg.here().tree().path(leg.table()));
      step.put("who", leg.here().principals().name(leg.who()));
      step.put("foreign_server", Places.name(leg.place()));
      step.put("carrier", Places.carrier(leg.place()));
      step.put("address", Places.address(leg.place()));
      step.put("there", Places.there(table));
      step.put("login", leg.login() == null ? null : leg.login().user());
      step.put("to", there == null ? null : there.about().server());
      step.put("answer", leg.answer().text());
      step.put("code", code(leg));
      step.put("why", said(leg));
      if (!leg.onward().isEmpty()) {
        step.put("steps", steps(leg.onward()));
      }
      steps.add(step);
    }
    return steps;
  }

  private static String code(Leg leg) {
    Why why = leg.why();
    return why != null ? why.text() : leg.answer() == Answer.CLOSED ? "no-right" : null;
  }
}
