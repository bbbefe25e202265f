package fiador.cli;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.State;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.files.charter.Charter;
import fiador.files.charter.CharterException;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.policies.RowsDigest;
import fiador.policies.SafeColumn;
import fiador.policies.Seeing;
import fiador.policies.Simulation;
import fiador.policies.TableSight;
import fiador.predicates.Subject;
import fiador.report.Columns;
import fiador.report.Format;
import fiador.report.PreviewText;
import fiador.report.RowWriter;
import fiador.report.Shown;
import fiador.report.SightText;
import fiador.servers.ServerException;
import fiador.servers.Sight;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
    name = "preview",
    description = {
      "The rows and columns of a table as a user gets them: how many of how many, which policies and",
      "masks acted, what is hidden. Worked out from the table's rows, read by the administrator."
    },
    footer = {
      "",
      "A table that is shown through a safe view is read through that view.",
      "Exit code 1 when the user gets nothing of it, or --live finds a difference.",
      "",
      "Examples:",
      "  fiador preview ines.duarte metering.readings",
      "  fiador preview ines.duarte metering.readings --live         and as that user on the server",
      "  fiador preview ines.duarte metering.readings --compare rui.teles --group-by district"
    })
final class PreviewCommand extends Common {
  @Parameters(index = "0", paramLabel = "USER", description = "A user.")
  String user;

  @Parameters(index = "1", paramLabel = "TABLE", description = "A table or view.")
  String table;

  @Option(
      names = "--server",
      paramLabel = "NAME",
      description = "A server of the charter; else its only one.")
  String server;

  @Option(
      names = "--charter",
      paramLabel = "DIR",
      description = "The charter's folder; else this one.",
      defaultValue = "")
  Path folder;

  @Option(
      names = "--live",
      description = {
        "Also reads it as that user on the server and compares value by value. Where nobody can act",
        "as somebody else the user's secret is taken from FIADOR_SECRET_ and the name in capitals."
      })
  boolean live;

  @Option(names = "--compare", paramLabel = "USER", description = "Counts for another user beside.")
  String other;

  @Option(
      names = "--group-by",
      paramLabel = "COLUMN",
      description = "Counts by the values of a column.")
  String groupBy;

  @Option(
      names = "--rows",
      paramLabel = "N",
      description = "How many rows to show; all are counted.",
      defaultValue = "10")
  int most;

  @Option(
      names = "--format",
      paramLabel = "F",
      description = "text; or the rows as json, jsonl, csv or markdown.",
      defaultValue = "text")
  Format format;

  /** What one user can get at all. */
  private record View(
      int user, int node, int table, BitSet columns, Seeing.Answer answer, Subject subject) {}

  @Override
  int run() throws BadInput, CharterException, ServerException, IOException {
    Charter charter = Charters.read(folder);
    Charter.ServerEntry entry = Charters.server(charter, server);
    Access access = Surveys.take(entry, clock.instant(), this::say);
    Sight sight = new Sight(Surveys.kind(entry), Surveys.login(entry), access);
    int who = Asking.principal(access, user);
    Lookup.Found found = new Lookup(access).node(table, Privilege.SELECT.bit(), false);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    View view = view(access, sight, who, found.id());
    String origin = "  (" + new Shown(access, true).origin(clock.instant()) + ")";
    if (view.columns() == null) {
      out.println("nothing: " + user + " cannot read " + access.tree().path(found.id()) + origin);
      out.println("  fiador trace " + user + " select " + table + " says why");
      return Exit.NO;
    }
    if (view.answer() != null && !view.answer().isKnown()) {
      out.println("not known which rows " + user + " gets of " + table + origin);
      out.println();
      Columns why = new Columns(width());
      SightText.lines(view.answer(), new Shown(access, true)).forEach(why::line);
      out.print(why.text());
      return Exit.NO;
    }
    Counting counting = count(access, sight, view);
    if (format == Format.TEXT) {
      print(access, view, counting, origin);
    } else {
      rows(view, counting, access);
    }
    boolean same = !live || compare(access, sight, view, counting);
    return same && counting.simulation.shown() > 0 ? Exit.YES : Exit.NO;
  }

  /** Through what a user reads a table: itself, or the view that shows it safely. */
  private View view(Access access, Sight sight, int who, int asked) throws ServerException {
    Seeing seeing = new Seeing(access);
    int node = asked;
    BitSet columns = readable(access, who, node);
    int safe = seeing.safeViewOf(asked);
    if (columns == null && safe >= 0) {
      node = safe;
      columns = readable(access, who, node);
    }
    int database = Math.max(0, access.tree().enclosing(node, NodeKind.DATABASE));
    Map<String, List<Object>> lookups =
        columns == null || !seeing.decides(node)
            ? Map.of()
            : sight.lookups(database, seeing.subject(who, database, Map.of()).name());
    Seeing.Answer answer = seeing.of(who, node, lookups);
    int table = answer == null ? node : answer.table();
    Subject subject = seeing.subject(who, database, lookups);
    return new View(who, node, table, columns, answer, subject);
  }

  /** The columns a user can read, at once or after switching; null for none. */
  private BitSet readable(Access access, int who, int node) {
    BitSet columns = null;
    for (Holding row : new Holdings(access, clock, true).at(who, node)) {
      boolean open = row.state() == State.LIVE || row.state() == State.ON_REQUEST;
      if (row.privilege() == Privilege.SELECT && open) {
        columns = columns == null ? new BitSet() : columns;
        if (row.columns() == null) {
          columns.set(0, access.tree().columns(node));
        } else {
          columns.or(row.columns());
        }
      }
    }
    return columns;
  }

  /** What came of reading the table once. */
  private static final class Counting {
    Simulation simulation;
    Simulation others;
    List<SafeColumn> columns;
    final List<Object[]> first = new ArrayList<>();
    final Map<String, long[]> groups = new TreeMap<>();
    final RowsDigest digest = new RowsDigest();
  }

  private static Simulation simulation(View view, List<SafeColumn> columns, byte[] key) {
    boolean free = view.answer() == null || view.answer().exempt() != null;
    TableSight policies =
        view.columns() == null ? TableSight.CLOSED : free ? TableSight.OPEN : view.answer().sight();
    return new Simulation(policies, view.subject(), columns, key);
  }

  private Counting count(Access access, Sight sight, View view) throws BadInput, ServerException {
    Counting counting = new Counting();
    counting.columns = new Seeing(access).columns(view.table());
    byte[] key = sight.digestKey(view.table());
    counting.simulation = simulation(view, counting.columns, key);
    if (other != null) {
      View others = view(access, sight, Asking.principal(access, other), view.table());
      counting.others = simulation(others, counting.columns, key);
    }
    int group = groupBy == null ? -1 : access.tree().columnNamed(view.table(), folded(access));
    if (groupBy != null && group < 0) {
      throw new BadInput(table + " has no column " + groupBy);
    }
    sight.read(
        view.table(),
        counting.columns,
        row -> {
          Object[] shown = counting.simulation.row(row);
          boolean alsoOther = counting.others != null && counting.others.row(row) != null;
          if (shown != null) {
            counting.digest.add(shown, view.columns());
            if (counting.first.size() < most) {
              counting.first.add(shown);
            }
          }
          if (group >= 0) {
            long[] counts =
                counting.groups.computeIfAbsent(String.valueOf(row[group]), none -> new long[3]);
            counts[0]++;
            counts[1] += shown == null ? 0 : 1;
            counts[2] += alsoOther ? 1 : 0;
          }
          return true;
        });
    return counting;
  }

  private String folded(Access access) {
    return groupBy.startsWith("\"")
        ? groupBy.substring(1, groupBy.length() - 1)
        : access.rules().fold(groupBy);
  }

  private void print(Access access, View view, Counting counting, String origin) {
    Tree tree = access.tree();
    Shown shown = new Shown(access, true);
    String through = view.node() == view.table() ? "" : " through " + shown.path(view.node());
    out.println(
        shown.principal(view.user())
            + " gets "
            + counting.simulation.shown()
            + " of "
            + counting.simulation.rows()
            + " rows of "
            + shown.path(view.table())
            + through
            + origin);
    out.println();
    Columns facts = new Columns(width());
    SightText.lines(view.answer(), shown).forEach(facts::line);
    List<String> hidden = new ArrayList<>();
    List<String> names = new ArrayList<>();
    for (int i = 0; i < tree.columns(view.table()); i++) {
      (view.columns().get(i) ? names : hidden).add(shown.column(view.table(), i));
    }
    if (!hidden.isEmpty()) {
      facts.line("hidden", "columns " + String.join(", ", hidden));
    }
    if (other != null) {
      facts.line(
          "compare",
          other
              + " gets "
              + counting.others.shown()
              + ", "
              + user
              + " "
              + counting.simulation.shown());
    }
    String said = facts.text();
    out.print(said.isEmpty() ? "" : said + "\n");
    if (groupBy != null) {
      printGroups(counting);
    }
    List<Object[]> rows = counting.first.stream().map(row -> visible(row, view)).toList();
    if (!rows.isEmpty()) {
      out.print(PreviewText.table(names, rows, width()));
    }
    long more = counting.simulation.shown() - counting.first.size();
    if (more > 0) {
      out.println("  and " + more + " more; --rows N shows them");
    }
  }

  private void printGroups(Counting counting) {
    Columns groups = new Columns(width());
    groups.line(groupBy, "all rows", user, other == null ? "" : other);
    counting.groups.forEach(
        (value, counts) ->
            groups.line(
                value.equals("null") ? "-" : value,
                Long.toString(counts[0]),
                Long.toString(counts[1]),
                other == null ? "" : Long.toString(counts[2])));
    out.println(groups.text());
  }

  private static Object[] visible(Object[] row, View view) {
    return view.columns().stream().mapToObj(i -> row[i]).toArray();
  }

  private void rows(View view, Counting counting, Access access) throws IOException {
    List<String> names = new ArrayList<>();
    view.columns().stream().forEach(i -> names.add(access.tree().column(view.table(), i)));
    if (format == Format.JSON) {
      Map<String, Object> document = new LinkedHashMap<>();
      Shown shown = new Shown(access, false);
      document.put("user", access.principals().name(view.user()));
      document.put("object", shown.path(view.table()));
      document.put("through", shown.path(view.node()));
      document.put("rows", counting.simulation.rows());
      document.put("shown", counting.simulation.shown());
      if (groupBy != null) {
        List<Map<String, Object>> groups = new ArrayList<>();
        counting.groups.forEach(
            (value, counts) -> {
              Map<String, Object> one = new LinkedHashMap<>();
              one.put("value", value);
              one.put("rows", counts[0]);
              one.put("shown", counts[1]);
              if (other != null) {
                one.put("compared", counts[2]);
              }
              groups.add(one);
            });
        document.put("groups", groups);
      }
      document.put(
          "first",
          counting.first.stream()
              .map(row -> PreviewText.document(names, visible(row, view)))
              .toList());
      RowWriter.document(out, document);
      return;
    }
    try (RowWriter writer = RowWriter.to(out, format, names)) {
      for (Object[] row : counting.first) {
        writer.row(PreviewText.document(names, visible(row, view)));
      }
    }
  }

  private boolean compare(Access access, Sight sight, View view, Counting counting)
      throws BadInput, ServerException {
    String secret = null;
    if (!sight.canAct()) {
      String variable =
          "FIADOR_SECRET_"
              + new Seeing(access).key(view.user()).toUpperCase(Locale.ROOT).replaceAll("\\W", "_");
      secret = System.getenv(variable);
      if (secret == null) {
        throw new BadInput(
            "on this server nobody can act as somebody else: put the secret of "
                + user
                + " into "
                + variable
                + " for --live");
      }
    }
    RowsDigest found = new RowsDigest();
    List<SafeColumn> columns = new ArrayList<>();
    view.columns().stream().forEach(i -> columns.add(counting.columns.get(i)));
    BitSet all = new BitSet();
    all.set(0, columns.size());
    sight.readAs(
        view.user(),
        secret,
        view.node(),
        columns,
        row -> {
          found.add(row, all);
          return true;
        });
    boolean same = found.sameAs(counting.digest);
    String answer =
        same
            ? "live: the server gives "
                + user
                + " the same "
                + found.rows()
                + " rows, value by value"
            : "live: DIFFERENT: the server gives "
                + user
                + " "
                + found.rows()
                + " rows, worked out were "
                + counting.simulation.shown();
    if (format == Format.TEXT) {
      out.println();
      out.println(answer);
    } else {
      say(answer);
    }
    return same;
  }
}
