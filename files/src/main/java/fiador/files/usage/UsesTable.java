package fiador.files.usage;

import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.databind.RuntimeJsonMappingException;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import com.fasterxml.jackson.dataformat.csv.CsvSchema;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.evidence.Evidence;
import fiador.evidence.EvidenceBuilder;
import fiador.grants.Access;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Stream;

/**
 * What a stand-in notes of its use: its {@code catalog.uses} as CSV. It says of each thing what was
 * done with it, or refused; nothing has to be made out of statements.
 */
final class UsesTable {
  private static final List<String> COLUMNS =
      List.of("used_at", "principal_name", "outcome", "permission", "object_name");

  private final Access access;
  private final EvidenceBuilder evidence;
  private final Function<String, IntArrayList> users;
  private final Map<String, Long> strangers;

  UsesTable(
      Access access,
      EvidenceBuilder evidence,
      Function<String, IntArrayList> users,
      Map<String, Long> strangers) {
    this.access = access;
    this.evidence = evidence;
    this.users = users;
    this.strangers = strangers;
  }

  /** Whether a file begins like one. */
  static boolean isOne(String head) {
    String first = head.lines().findFirst().orElse("").toLowerCase(Locale.ROOT);
    return List.of(first.split(",", -1)).containsAll(COLUMNS);
  }

  void read(Path log, Reader text) throws UsageException, IOException {
    CsvSchema header = CsvSchema.emptySchema().withHeader();
    try (MappingIterator<Map<String, String>> rows =
        new CsvMapper().readerForMapOf(String.class).with(header).readValues(text)) {
      int line = 1;
      while (rows.hasNext()) {
        line++;
        Map<String, String> row = new java.util.TreeMap<>(String.CASE_INSENSITIVE_ORDER);
        row.putAll(rows.next());
        String wrong = row(row);
        if (wrong != null) {
          throw new UsageException(log + ":" + line + ": " + wrong);
        }
      }
    } catch (com.fasterxml.jackson.core.JsonProcessingException
        | RuntimeJsonMappingException broken) {
      throw new UsageException(
          log + ": " + String.valueOf(broken.getMessage()).lines().findFirst().orElse(""));
    }
  }

  /** What is wrong with a row; null for nothing. */
  private String row(Map<String, String> row) {
    Privilege privilege = Privilege.named(row.getOrDefault("permission", ""));
    if (privilege == null) {
      return "there is no privilege " + row.get("permission");
    }
    String outcome = row.getOrDefault("outcome", "");
    if (!outcome.equals("done") && !outcome.equals("refused")) {
      return "\"" + outcome + "\" is neither done nor refused";
    }
    Instant at;
    try {
      at = Instant.parse(row.getOrDefault("used_at", ""));
    } catch (DateTimeParseException odd) {
      return "\"" + row.get("used_at") + "\" is no time; write 2027-03-31T12:00:00Z";
    }
    evidence.statement();
    evidence.watched(at);
    IntArrayList found = users.apply(row.getOrDefault("principal_name", ""));
    if (found.isEmpty()) {
      strangers.merge(row.getOrDefault("principal_name", ""), 1L, Long::sum);
    }
    int node = node(row);
    for (int user : found) {
      if (node < 0) {
        // what has been dropped since is nothing that could be taken
        evidence.seen(user, at);
      } else if (outcome.equals("refused")) {
        evidence.refused(user, privilege, node, at);
      } else {
        evidence.use(user, privilege, node, Evidence.ALL, at);
      }
    }
    return null;
  }

  /** The thing, by its names from the outermost on; -1 where it is no longer there. */
  private int node(Map<String, String> row) {
    Tree tree = access.tree();
    List<String> path =
        Stream.of(row.get("database_name"), row.get("schema_name"), row.get("object_name"))
            .filter(Objects::nonNull)
            .filter(name -> !name.isEmpty())
            .toList();
    if (path.isEmpty()) {
      return 0;
    }
    for (int node : tree.named(path.get(path.size() - 1))) {
      int at = node;
      int left = path.size() - 1;
      while (left >= 0 && at > 0 && tree.name(at).equals(path.get(left))) {
        at = tree.parent(at);
        left--;
      }
      if (left < 0 && tree.kind(at) == NodeKind.SERVER) {
        return node;
      }
    }
    return None.NODE;
  }
}
