package fiador.files.usage;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.databind.RuntimeJsonMappingException;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvParser;
import fiador.estate.Privilege;
import fiador.evidence.Evidence;
import fiador.evidence.EvidenceBuilder;
import fiador.files.LineLimit;
import fiador.grants.Access;
import fiador.grants.Lookup;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.io.BufferedInputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;

/**
 * Reads what was used from logs, entry by entry, whatever their size: PostgreSQL's as CSV or JSON,
 * MariaDB's general and audit logs, and lines of JSON of our own (docs/usage.md). Files that end in
 * {@code .gz} are unpacked on the way.
 */
public final class UsageReader {
  private static final int HEAD = 8192;
  private static final JsonFactory JSON = new JsonFactory();
  private static final Pattern POSTGRESQL_CSV =
      Pattern.compile(
          "^\"?\\d{4}-\\d\\d-\\d\\d \\d\\d:\\d\\d:\\d\\d(\\.\\d+)? [^,]+,.*", Pattern.DOTALL);
  private static final Pattern AUDIT =
      Pattern.compile("^\\d{8} \\d\\d:\\d\\d:\\d\\d,.*", Pattern.DOTALL);

  private final Access access;
  private final EvidenceBuilder evidence;
  private final EvidenceCollector statements;
  private final Map<String, IntArrayList> accounts = new HashMap<>();
  private final Map<String, Long> strangers = new HashMap<>();

  private UsageReader(Access access) {
    this.access = access;
    this.evidence = new EvidenceBuilder(access);
    this.statements = new EvidenceCollector(access, evidence);
  }

  /**
   * Reads logs.
   *
   * @param notes is told what else there is to say, such as users the estate does not know
   * @return null when they hold nothing
   * @throws UsageException when a file is in none of the formats, or broken
   */
  public static Evidence read(Access access, List<Path> logs, Consumer<String> notes)
      throws UsageException, IOException {
    UsageReader reader = new UsageReader(access);
    for (Path log : logs) {
      reader.file(log);
    }
    if (!reader.strangers.isEmpty()) {
      long count = reader.strangers.values().stream().mapToLong(Long::longValue).sum();
      String names =
          String.join(", ", reader.strangers.keySet().stream().sorted().limit(5).toList());
      notes.accept("note: " + count + " statements by users the estate does not know: " + names);
    }
    return reader.evidence.build();
  }

  private void file(Path log) throws UsageException, IOException {
    try (InputStream file = Files.newInputStream(log);
        InputStream plain =
            new BufferedInputStream(
                new LineLimit(
                    log.toString(),
                    log.toString().endsWith(".gz") ? new GZIPInputStream(file) : file),
                1 << 16)) {
      plain.mark(HEAD);
      String head = new String(plain.readNBytes(HEAD), StandardCharsets.UTF_8);
      plain.reset();
      if (head.isBlank()) {
        return;
      }
      if (head.stripLeading().startsWith("{")) {
        json(log, plain);
      } else if (head.contains("Id Command\tArgument")) {
        new GeneralLog(this::entry).read(reader(plain));
      } else if (AUDIT.matcher(head).matches()) {
        AuditLog.read(reader(plain), this::entry);
      } else if (UsesTable.isOne(head)) {
        new UsesTable(access, evidence, this::users, strangers).read(log, reader(plain));
      } else if (POSTGRESQL_CSV.matcher(head).matches()) {
        csv(log, plain);
      } else {
        throw new UsageException(
            log
                + " is no log that is known: PostgreSQL's csvlog or jsonlog, MariaDB's general or"
                + " audit log, a stand-in's uses, or lines of JSON as in docs/usage.md");
      }
    } catch (DateTimeException broken) {
      throw new UsageException(log + ": a time that does not exist: " + first(broken.getMessage()));
    }
  }

  private static BufferedReader reader(InputStream plain) {
    return new BufferedReader(new InputStreamReader(plain, StandardCharsets.UTF_8), 1 << 16);
  }

  private void entry(Entry entry) {
    IntArrayList users = users(entry.user());
    evidence.watched(entry.at());
    if (users.isEmpty()) {
      strangers.merge(entry.user(), 1L, Long::sum);
    } else {
      statements.add(users, entry);
    }
  }

  /** The accounts that may be meant: where a name has several, the log does not tell which. */
  private IntArrayList users(String name) {
    return accounts.computeIfAbsent(
        name,
        wanted -> {
          IntArrayList found = new IntArrayList();
          for (int id = 1; id < access.principals().size(); id++) {
            String stored = access.principals().name(id);
            boolean same =
                stored.equals(wanted)
                    || access.bareName(id).equals(wanted)
                    || stored.equals(access.rules().fold(wanted));
            if (same && access.principals().isUser(id)) {
              found.add(id);
            }
          }
          return found;
        });
  }

  private void csv(Path log, InputStream plain) throws UsageException, IOException {
    CsvMapper mapper = new CsvMapper();
    mapper.enable(CsvParser.Feature.WRAP_AS_ARRAY);
    try (MappingIterator<String[]> rows = mapper.readerFor(String[].class).readValues(plain)) {
      while (rows.hasNext()) {
        String[] row = rows.next();
        if (row.length < 14) {
          throw new UsageException(
              log + ":" + rows.getCurrentLocation().getLineNr() + ": no line of a csvlog");
        }
        String sql = PostgresqlMessage.statement(row[13]);
        if (sql != null && !row[1].isEmpty()) {
          entry(new Entry(PostgresqlMessage.time(row[0]), row[1], null, row[2], sql));
        }
      }
    } catch (com.fasterxml.jackson.core.JsonProcessingException
        | RuntimeJsonMappingException broken) {
      throw new UsageException(log + ": " + first(broken.getMessage()));
    }
  }

  private static String first(String message) {
    return message == null ? "broken" : message.lines().findFirst().orElse("broken");
  }

  private void json(Path log, InputStream plain) throws UsageException, IOException {
    int line = 0;
    try (BufferedReader lines = reader(plain)) {
      for (String text = lines.readLine(); text != null; text = lines.readLine()) {
        line++;
        if (!text.isBlank()) {
          json(fields(text));
        }
      }
    } catch (com.fasterxml.jackson.core.JsonProcessingException | DateTimeException broken) {
      throw new UsageException(log + ":" + line + ": " + first(broken.getMessage()));
    } catch (UsageException wrong) {
      throw new UsageException(log + ":" + line + ": " + wrong.getMessage());
    }
  }

  /** The texts and numbers of one object, by name; all else is of no use here. */
  private static Map<String, String> fields(String text) throws IOException {
    Map<String, String> fields = new HashMap<>();
    try (JsonParser json = JSON.createParser(text)) {
      if (json.nextToken() != JsonToken.START_OBJECT) {
        return fields;
      }
      for (String name = json.nextFieldName(); name != null; name = json.nextFieldName()) {
        if (json.nextToken().isStructStart()) {
          json.skipChildren();
        } else if (json.currentToken() != JsonToken.VALUE_NULL) {
          fields.put(name, json.getText());
        }
      }
    }
    return fields;
  }

  private void json(Map<String, String> fields) throws UsageException {
    Set<String> names = fields.keySet();
    if (names.containsAll(List.of("timestamp", "error_severity"))) {
      String sql = PostgresqlMessage.statement(fields.getOrDefault("message", ""));
      if (sql != null && fields.containsKey("user")) {
        Instant at = PostgresqlMessage.time(fields.get("timestamp"));
        String database = fields.getOrDefault("dbname", "");
        entry(new Entry(at, fields.get("user"), null, database, sql));
      }
    } else if (names.containsAll(List.of("watched_from", "watched_to"))) {
      evidence.watched(Instant.parse(fields.get("watched_from")));
      evidence.watched(Instant.parse(fields.get("watched_to")));
    } else if (names.containsAll(List.of("at", "user", "statement"))) {
      Instant at = Instant.parse(fields.get("at"));
      String database = fields.getOrDefault("database", "");
      entry(new Entry(at, fields.get("user"), null, database, fields.get("statement")));
    } else if (names.containsAll(List.of("at", "user", "privilege", "object"))) {
      plain(fields);
    } else {
      throw new UsageException(
          "expected at, user and statement, or at, user, privilege and object (docs/usage.md)");
    }
  }

  private void plain(Map<String, String> fields) throws UsageException {
    Privilege privilege = Privilege.named(fields.get("privilege"));
    if (privilege == null) {
      throw new UsageException("there is no privilege " + fields.get("privilege"));
    }
    Lookup.Found found = new Lookup(access).node(fields.get("object"), privilege.bit(), true);
    if (!found.ok()) {
      throw new UsageException(found.problem());
    }
    Instant at = Instant.parse(fields.get("at"));
    evidence.statement();
    evidence.watched(at);
    for (int user : users(fields.get("user"))) {
      if ("refused".equals(fields.get("outcome"))) {
        evidence.refused(user, privilege, found.id(), at);
      } else {
        int column = found.column() < 0 ? Evidence.ALL : found.column();
        evidence.use(user, privilege, found.id(), column, at);
      }
    }
  }
}
