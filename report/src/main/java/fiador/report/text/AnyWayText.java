package fiador.report.text;

import fiador.effects.State;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.policies.AnyWay;
import fiador.policies.AnyWay.Reader;
import fiador.policies.AnyWay.Way;
import fiador.policies.Seeing;
import fiador.report.rows.HoldingRows;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Who gets a table's values without a right on it, for people and for programs. */
public final class AnyWayText {
  /** The fields that such rows have beside those of holdings. */
  public static final List<String> FIELDS = List.of("way", "worked_out");

  private static final int NAMES = 8;

  private final Access access;
  private final Shown shown;
  private final AnyWay anyWay;
  private final int width;

  /** The ways are those that {@code anyWay} found. */
  public AnyWayText(Access access, AnyWay anyWay, int width) {
    this.access = access;
    this.shown = Shown.brief(access);
    this.anyWay = anyWay;
    this.width = width;
  }

  /** What stands in one line: those who get the same through the same. */
  private record Got(BitSet asIs, BitSet workedOut, BitSet masked, String rows) {}

  /** A section below the list of holders; empty where there is no way. */
  public String text(int table, List<Way> ways) {
    if (ways.isEmpty()) {
      return "";
    }
    Columns lines = new Columns(width);
    for (Way way : ways) {
      String through = anyWay.kind(way) + " " + chain(way);
      Map<Got, List<Reader>> alike = new LinkedHashMap<>();
      for (Reader reader : way.readers()) {
        Got got = new Got(reader.asIs(), reader.workedOut(), reader.masked(), rows(reader));
        alike.computeIfAbsent(got, fresh -> new ArrayList<>()).add(reader);
      }
      for (Map.Entry<Got, List<Reader>> entry : alike.entrySet()) {
        lines.line(through, got(table, entry.getKey()), who(entry.getValue()));
        through = "";
      }
    }
    long users =
        ways.stream().flatMap(way -> way.readers().stream()).map(Reader::user).distinct().count();
    String head =
        (users == 1 ? "1 user gets" : users + " users get")
            + " values of it by another way than a right on it";
    return "\n" + Tone.PARTLY.of(head) + "\n" + lines.text();
  }

  private String chain(Way way) {
    List<String> names = new ArrayList<>();
    way.path().subList(0, way.path().size() - 1).forEach(node -> names.add(shown.path(node)));
    return String.join(" > ", names);
  }

  private String got(int table, Got got) {
    List<String> parts = new ArrayList<>();
    if (!got.asIs().isEmpty()) {
      boolean all = got.asIs().cardinality() == shown.columns(table);
      parts.add(all ? "all columns" : shown.columns(table, got.asIs()));
    }
    if (!got.workedOut().isEmpty()) {
      parts.add("worked out: " + shown.columns(table, got.workedOut()));
    }
    if (!got.masked().isEmpty()) {
      parts.add("masked: " + shown.columns(table, got.masked()));
    }
    if (!got.rows().isEmpty()) {
      parts.add("rows: " + got.rows());
    }
    return String.join("; ", parts);
  }

  private String rows(Reader reader) {
    Seeing.Answer sight = reader.sight();
    if (sight == null || sight.exempt() != null || sight.isKnown() && sight.seen().allRows()) {
      return "";
    }
    return sight.isKnown() ? shown.predicate(sight.seen().condition()) : "not known";
  }

  private String who(List<Reader> readers) {
    return FirstNames.of(readers, this::name, NAMES);
  }

  private String name(Reader reader) {
    String switching = reader.state() == State.ON_REQUEST ? " (after switching)" : "";
    return shown.principal(reader.user()) + switching;
  }

  /** One row for programs: as a holding of the table, with the way. */
  public Map<String, Object> row(int table, Way way, Reader reader) {
    BitSet all = (BitSet) reader.asIs().clone();
    all.or(reader.workedOut());
    all.or(reader.masked());
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("user", access.principals().name(reader.user()));
    HoldingRows.thing(access, Privilege.SELECT, table, all, row);
    row.put("state", reader.state().text());
    row.put("grantable", false);
    List<String> path = new ArrayList<>();
    way.path()
        .subList(0, way.path().size() - 1)
        .forEach(node -> path.add(access.tree().path(node)));
    row.put("way", path);
    if (reader.sight() != null) {
      HoldingRows.sight(reader.sight(), all, access, row);
    }
    row.put("worked_out", reader.workedOut().isEmpty() ? null : names(table, reader.workedOut()));
    return row;
  }

  private List<String> names(int table, BitSet columns) {
    return columns.stream().mapToObj(column -> access.tree().column(table, column)).toList();
  }
}
