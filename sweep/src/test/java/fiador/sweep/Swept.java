package fiador.sweep;

import fiador.changes.steps.Step;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.evidence.Identities;
import fiador.files.survey.SurveyReader;
import fiador.files.survey.SurveyWriter;
import fiador.findings.Findings;
import fiador.findings.check.Expected;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.report.rows.HoldingRows;
import fiador.report.text.FindingText;
import fiador.sweep.spark.SparkSweeps;
import fiador.work.charters.Dialects;
import fiador.work.sweeping.LabelRule;
import fiador.work.sweeping.Order;
import fiador.work.sweeping.Outcome;
import fiador.work.sweeping.Sweeps;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;

/** A folder of surveys and a sweep of it, with what they should say and what they do. */
final class Swept {
  static final Instant NOW = Instant.parse("2026-11-30T12:00:00Z");

  final Path surveys;
  final Path into;
  Identities people;
  List<LabelRule> labels = List.of();
  Instant now = NOW;
  long together = -1;

  Swept(Path folder) throws Exception {
    this.surveys = Files.createDirectories(folder.resolve("surveys"));
    this.into = folder.resolve("swept");
  }

  void survey(String server, Access access) throws Exception {
    Path file = surveys.resolve(server + ".survey.jsonl");
    Files.createDirectories(file.getParent());
    SurveyWriter.write(access, file);
  }

  Access read(String server) throws Exception {
    return SurveyReader.read(surveys.resolve(server + ".survey.jsonl"));
  }

  Outcome sweep() throws Exception {
    return sweep(false);
  }

  Outcome sweep(boolean again) throws Exception {
    return (together < 0 ? new SparkSweeps() : new SparkSweeps(together))
        .sweep(
            new Order(surveys.toString(), into.toString(), people, labels, 2, again, now),
            progress -> {});
  }

  List<Map<String, Object>> ask(Sweeps.Question question) throws Exception {
    return new SparkSweeps()
        .ask(
            into.toString(),
            2,
            question,
            (rows, servers) -> {
              List<Map<String, Object>> all = new ArrayList<>();
              rows.forEachRemaining(all::add);
              return all;
            });
  }

  /** What holdings --everyone says of a server, as sorted lines. */
  List<String> holdings(String server) throws Exception {
    Access access = read(server);
    Clock clock = Clock.fixed(now, ZoneOffset.UTC);
    Holdings holdings = new Holdings(access, clock, false);
    HoldingRows rows = new HoldingRows(access, now);
    List<String> lines = new ArrayList<>();
    for (int user = 1; user < access.principals().size(); user++) {
      if (access.principals().isUser(user)) {
        for (Holding holding : holdings.of(user)) {
          lines.add(line(rows.row(holding)));
        }
      }
    }
    lines.sort(String::compareTo);
    return lines;
  }

  List<String> findings(String server) throws Exception {
    Access access = read(server);
    Clock clock = Clock.fixed(now, ZoneOffset.UTC);
    Findings.Result result = Findings.of(access, clock, Expected.NOTHING, null, people);
    FindingText text = new FindingText(access, 100, now, statements(access));
    List<String> lines = new ArrayList<>();
    for (Finding finding : result.open()) {
      lines.add(line(text.row(finding)));
    }
    lines.sort(String::compareTo);
    return lines;
  }

  /** None of a kind of which no sheet is at hand. */
  private static Function<List<Step>, List<String>> statements(Access access) throws Exception {
    try {
      return Dialects.statements(null, access);
    } catch (BadInput unknown) {
      return steps -> List.of();
    }
  }

  /** A row as one line; what is missing and what is null are the same. */
  static String line(Map<String, ?> row) {
    Map<String, Object> sorted = new TreeMap<>();
    row.forEach(
        (field, value) -> {
          if (value != null) {
            sorted.put(field, value.toString());
          }
        });
    return sorted.toString();
  }

  /** The rows of all holdings of a server, put together by another engine. */
  List<String> keptHoldings(String server) throws Exception {
    return lines(
        """
        select a.account as "user", r.privilege, r.kind, r.object, r.column_names as columns,
          r.state, r.grantable, r.rows_seen as rows, r.masked_columns as masked, a.cannot_log_in
        from accounts a join spans s using (server, alike) join contents c using (server, span)
          join rights r using (server, right_id)
        where server = '%s'"""
            .formatted(server.replace("'", "''")));
  }

  List<String> keptFindings(String server) throws Exception {
    return lines(
        "select * exclude (server) from findings where server = '%s'"
            .formatted(server.replace("'", "''")));
  }

  List<String> lines(String sql) throws Exception {
    List<String> lines = new ArrayList<>();
    for (Map<String, Object> row : query(sql)) {
      lines.add(line(row));
    }
    lines.sort(String::compareTo);
    return lines;
  }

  /** Asks DuckDB, with a view for each table. */
  List<Map<String, Object>> query(String sql) throws Exception {
    List<Map<String, Object>> rows = new ArrayList<>();
    try (Connection db = DriverManager.getConnection("jdbc:duckdb:");
        Statement statement = db.createStatement()) {
      for (var table : fiador.sweep.tables.Table.values()) {
        if (Files.isDirectory(into.resolve(table.folder()))) {
          statement.execute(
              "create view %s as from read_parquet('%s/%s/*/*.parquet', hive_partitioning = true, hive_types = {'server': varchar})"
                  .formatted(table.folder(), into, table.folder()));
        }
      }
      try (ResultSet found = statement.executeQuery(sql)) {
        int columns = found.getMetaData().getColumnCount();
        while (found.next()) {
          Map<String, Object> row = new LinkedHashMap<>();
          for (int at = 1; at <= columns; at++) {
            Object value = found.getObject(at);
            if (value instanceof java.sql.Array array) {
              value = List.of((Object[]) array.getArray());
            }
            row.put(found.getMetaData().getColumnLabel(at), value);
          }
          rows.add(row);
        }
      }
    }
    return rows;
  }
}
