package fiador.cli.ask;

import fiador.cli.shell.Asking;
import fiador.cli.shell.Common;
import fiador.cli.shell.Exit;
import fiador.cli.shell.Options;
import fiador.cli.shell.Progress;
import fiador.cli.shell.Things;
import fiador.estate.Privilege;
import fiador.files.charter.Charter;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.policies.RowsDigest;
import fiador.policies.UnderName;
import fiador.refusal.BadInput;
import fiador.refusal.Refusal;
import fiador.report.rows.Format;
import fiador.report.rows.RowWriter;
import fiador.report.shown.Shown;
import fiador.report.text.Columns;
import fiador.report.text.PreviewText;
import fiador.report.text.SealLines;
import fiador.report.text.SightText;
import fiador.servers.live.Preview;
import fiador.servers.live.Preview.Count;
import fiador.servers.live.Preview.View;
import fiador.work.charters.Charters;
import fiador.work.charters.Surveys;
import fiador.work.secrets.UserSecrets;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

public final class PreviewCommand extends Common {
  String user;
  String table;
  String server;
  Path folder = Path.of("");
  boolean live;
  String other;
  String groupBy;
  int most = 10;
  Format format = Format.TEXT;

  @Override
  public void options(Options options) {
    super.options(options);
    options.parameter("USER", value -> user = value, "A user.");
    options.parameter("TABLE", value -> table = value, "A table or view.");
    options.option(
        "--server", "NAME", value -> server = value, "A server of the charter; else its only one.");
    options.charter(value -> folder = value);
    options.flag(
        "--live",
        given -> live = given,
        "Also reads it as that user on the server and compares value by value. What others made is not",
        "run: then it is not tried. Where nobody can act as somebody else the user's secret is taken",
        "from FIADOR_SECRET_ and the name in capitals.");
    options.option("--compare", "USER", value -> other = value, "Counts for another user beside.");
    options.option(
        "--group-by", "COLUMN", value -> groupBy = value, "Counts by the values of a column.");
    options.option(
        "--rows",
        "N",
        Integer.class,
        value -> most = value,
        "How many rows to show; all are counted.");
    options.format(value -> format = value, "text; or the rows as json, jsonl, csv or markdown.");
  }

  @Override
  public String[] description() {
    return new String[] {
      "The rows and columns of a table as a user gets them: how many of how many, which policies and",
      "masks acted, what is hidden. Worked out from the table's rows, read by the administrator."
    };
  }

  @Override
  public String[] footer() {
    return new String[] {
      "",
      "A table that is shown through a safe view is read through that view.",
      "Exit code 1 when the user gets nothing of it, or --live finds a difference.",
      "",
      "Examples:",
      "  fiador preview ines.duarte metering.readings",
      "  fiador preview ines.duarte metering.readings --live         and as that user on the server",
      "  fiador preview ines.duarte metering.readings --compare rui.teles --group-by district"
    };
  }

  @Override
  public int run() throws Refusal, IOException {
    Charter charter = Charters.read(folder);
    Charter.ServerEntry entry = Charters.server(charter, server);
    Access access = Surveys.take(charter, entry, clock.instant(), this::note);
    Preview preview = new Preview(Surveys.kind(entry), Surveys.login(entry), access, clock);
    Lookup.Found found = Things.found(access, table, Privilege.SELECT.bit(), false, this::note);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    View view = preview.view(Asking.principal(access, user), found.id());
    Shown shown = new Shown(access, true);
    String origin = "  (" + entry.name() + ", read just now)";
    if (!view.isOpen()) {
      out.println("nothing: " + user + " cannot read " + shown.path(found.id()) + origin);
      out.println("  fiador trace " + user + " select " + table + " says why");
      return Exit.NO;
    }
    if (!view.isKnown()) {
      out.println("not known which rows " + user + " gets of " + shown.path(found.id()) + origin);
      out.println();
      Columns why = new Columns(width());
      SightText.lines(view.answer(), shown).forEach(why::line);
      out.print(why.text());
      return Exit.NO;
    }
    View others =
        other == null ? null : preview.view(Asking.principal(access, other), view.table());
    int group = group(access, view);
    Count count;
    try (Progress progress = Progress.of("reading", -1, "rows", this)) {
      count = preview.watched(() -> progress.more(1)).count(view, others, group, most);
    }
    if (format == Format.TEXT) {
      print(access, view, count, origin);
    } else {
      rows(view, count, access);
    }
    boolean same = !live || compare(preview, view, count);
    return same && count.shown() > 0 ? Exit.YES : Exit.NO;
  }

  private int group(Access access, View view) throws BadInput {
    if (groupBy == null) {
      return -1;
    }
    String path = access.tree().path(view.table());
    Lookup.Found column = new Lookup(access).node(path + "." + groupBy, 0, true);
    if (!column.ok() || column.column() < 0) {
      throw new BadInput(column.ok() ? path + " has no column " + groupBy : column.problem());
    }
    return column.column();
  }

  private void print(Access access, View view, Count count, String origin) {
    Shown shown = new Shown(access, true);
    SealLines seals = new SealLines(access, shown, clock.instant());
    boolean underName = UnderName.tables(access).containsKey(view.node());
    String answer =
        shown.principal(view.user())
            + " gets "
            + count.shown()
            + " of "
            + count.rows()
            + " rows of "
            + shown.path(underName ? view.node() : view.table());
    out.println(
        answer + " ".repeat(Math.max(0, width() - answer.length() - origin.length())) + origin);
    out.println();
    Columns facts = new Columns(width());
    if (underName) {
      facts.line(
          "through",
          "a view under the table's name; the table itself is " + shown.path(view.table()));
    } else if (view.node() != view.table()) {
      facts.line(
          "through", shown.path(view.node()) + ", which shows the table as its policies say");
    }
    SightText.lines(view.answer(), shown).forEach(facts::line);
    seals.of(view.table()).forEach(line -> facts.line("seal", line));
    BitSet hidden = new BitSet();
    hidden.set(0, shown.columns(view.table()));
    hidden.andNot(view.columns());
    if (!hidden.isEmpty()) {
      facts.line("hidden", "columns " + shown.columns(view.table(), hidden));
    }
    if (other != null) {
      facts.line(
          "compare", other + " gets " + count.compared() + ", " + user + " " + count.shown());
    }
    String said = facts.text();
    out.print(said.isEmpty() ? "" : said + "\n");
    if (groupBy != null) {
      printGroups(count);
    }
    List<Object[]> rows = count.first().stream().map(row -> visible(row, view)).toList();
    if (!rows.isEmpty()) {
      List<String> names =
          view.columns().stream().mapToObj(i -> shown.column(view.table(), i)).toList();
      out.print(PreviewText.table(names, rows, width()));
    }
    long more = count.shown() - count.first().size();
    if (more > 0) {
      out.println("  and " + more + " more; --rows N shows them");
    }
  }

  private void printGroups(Count count) {
    List<String> heads = new ArrayList<>(List.of(groupBy, "all rows", user));
    if (other != null) {
      heads.add(other);
    }
    List<Object[]> lines = new ArrayList<>();
    count
        .groups()
        .forEach(
            (value, counts) -> {
              Object[] line = new Object[heads.size()];
              line[0] = value.equals("null") ? null : value;
              for (int i = 1; i < line.length; i++) {
                line[i] = counts[i - 1];
              }
              lines.add(line);
            });
    out.println(PreviewText.table(heads, lines, width()));
  }

  private static Object[] visible(Object[] row, View view) {
    return view.columns().stream().mapToObj(i -> row[i]).toArray();
  }

  private void rows(View view, Count count, Access access) throws IOException {
    List<String> names =
        view.columns().stream().mapToObj(i -> access.tree().column(view.table(), i)).toList();
    List<Map<String, Object>> first =
        count.first().stream().map(row -> PreviewText.document(names, visible(row, view))).toList();
    if (format == Format.JSON) {
      Map<String, Object> document = new LinkedHashMap<>();
      document.put("user", access.principals().name(view.user()));
      document.put("object", access.tree().path(view.table()));
      document.put("through", access.tree().path(view.node()));
      document.put("rows", count.rows());
      document.put("shown", count.shown());
      if (groupBy != null) {
        document.put("groups", PreviewText.groups(count.groups(), other != null));
      }
      document.put("first", first);
      RowWriter.document(out, document);
      return;
    }
    try (RowWriter writer = RowWriter.to(out, format, names)) {
      for (Map<String, Object> row : first) {
        writer.row(row);
      }
    }
  }

  private boolean compare(Preview preview, View view, Count count) throws Refusal {
    Preview.Live tried = preview.live(view, UserSecrets.of(preview, view.user()));
    if (tried.notTried() != null) {
      String said = "live: not tried: " + tried.notTried();
      if (format == Format.TEXT) {
        out.println();
        out.println(said);
      } else {
        say(said);
      }
      return false;
    }
    RowsDigest found = tried.digest();
    boolean same = found.sameAs(count.digest());
    String answer =
        same
            ? "live: the server gives "
                + user
                + " the same "
                + found.rows()
                + (found.rows() == 1 ? " row" : " rows")
                + ", value by value"
            : "live: DIFFERENT: the server gives "
                + user
                + " "
                + found.rows()
                + " rows, worked out were "
                + count.shown();
    String after = tried.switched() == null ? "" : ", after " + tried.switched();
    if (format == Format.TEXT) {
      out.println();
      out.println(answer + after);
    } else {
      say(answer + after);
    }
    return same;
  }
}
