package fiador.report.text;

import fiador.across.Inflows.Hop;
import fiador.across.Inflows.Inflow;
import fiador.across.Inflows.Reader;
import fiador.across.Leg.Answer;
import fiador.effects.State;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.report.rows.HoldingRows;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Who reads a table from other servers, for people and for programs. */
public final class InflowText {
  /** The fields that such rows have beside those of holdings. */
  public static final List<String> FIELDS = List.of("server", "across", "login", "certain");

  private static final int NAMES = 8;

  private final Access access;
  private final Shown shown;
  private final int width;

  /** To a table of that server. */
  public InflowText(Access access, int width) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.width = width;
  }

  /** A section below the list of holders; empty where nobody comes. */
  public String text(int table, List<Inflow> inflows) {
    if (inflows.isEmpty()) {
      return "";
    }
    long users =
        inflows.stream()
            .flatMap(
                each ->
                    each.readers().stream().map(one -> each.from().about().server() + one.user()))
            .distinct()
            .count();
    String head = (users == 1 ? "1 user reads" : users + " users read") + " it from another server";
    return "\n" + Tone.PARTLY.of(head) + "\n" + lines(table, inflows).text();
  }

  /** A line a way: through what, what comes, as whom, and who. */
  public Columns lines(int table, List<Inflow> inflows) {
    Columns lines = new Columns(width);
    for (Inflow inflow : inflows) {
      boolean all = inflow.columns().cardinality() == shown.columns(table);
      lines.line(
          way(inflow),
          all ? "all columns" : shown.columns(table, inflow.columns()),
          inflow.login() < 0 ? "as whom is not known" : "as " + shown.principal(inflow.login()),
          who(inflow));
    }
    return lines;
  }

  private static String way(Inflow inflow) {
    List<String> hops = new ArrayList<>();
    for (Hop hop : inflow.hops()) {
      Shown there = Shown.brief(hop.at());
      List<String> names = new ArrayList<>();
      hop.path().forEach(node -> names.add(there.path(node)));
      hops.add(hop.at().about().server() + ": " + String.join(" > ", names));
    }
    return String.join(" > ", hops);
  }

  private static String who(Inflow inflow) {
    Shown there = Shown.brief(inflow.from());
    List<String> names = new ArrayList<>();
    for (Reader reader : inflow.readers()) {
      String how = reader.state() == State.ON_REQUEST ? " (after switching)" : "";
      names.add(
          there.principal(reader.user())
              + how
              + (reader.answer() == Answer.UNKNOWN ? " (not certain)" : ""));
    }
    int more = names.size() - NAMES;
    return String.join(", ", names.subList(0, Math.min(NAMES, names.size())))
        + (more > 0 ? " and " + more + " more" : "");
  }

  /** One row for programs: as a holding of the table by somebody of another server. */
  public Map<String, Object> row(int table, Inflow inflow, Reader reader) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("user", inflow.from().principals().name(reader.user()));
    HoldingRows.thing(access, Privilege.SELECT, table, inflow.columns(), row);
    row.put("state", reader.state().text());
    row.put("grantable", false);
    row.put("server", inflow.from().about().server());
    row.put("across", across(inflow));
    row.put("login", login(inflow));
    row.put("certain", reader.answer() == Answer.OPEN);
    return row;
  }

  /** As whom they come; null where that is not known. */
  String login(Inflow inflow) {
    return inflow.login() < 0 ? null : access.principals().name(inflow.login());
  }

  /** The things on the way, each with its server. */
  static List<String> across(Inflow inflow) {
    List<String> across = new ArrayList<>();
    for (Hop hop : inflow.hops()) {
      hop.path()
          .forEach(
              node -> across.add(hop.at().about().server() + ":" + hop.at().tree().path(node)));
    }
    return across;
  }
}
