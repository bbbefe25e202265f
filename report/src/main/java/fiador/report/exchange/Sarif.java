package fiador.report.exchange;

import fiador.findings.Findings;
import fiador.findings.check.Asked;
import fiador.findings.check.Finding;
import fiador.findings.check.Severity;
import fiador.report.rows.RowWriter;
import fiador.report.text.FindingText;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/**
 * Findings in SARIF, the OASIS standard for results of analysis tools, version 2.1.0. Things of a
 * database are logical locations there; what is accepted by a waiver is a suppressed result.
 */
public final class Sarif {
  private static final String SCHEMA =
      "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";

  private Sarif() {}

  /**
   * Writes all findings, those that are accepted too.
   *
   * @param version of this program
   */
  public static void write(
      OutputStream out, Findings.Result result, FindingText text, String version)
      throws IOException {
    List<Asked> catalogue = Findings.catalogue();
    List<Map<String, Object>> rules = new ArrayList<>();
    for (Asked asked : catalogue) {
      Map<String, Object> rule = new LinkedHashMap<>();
      rule.put("id", asked.id());
      rule.put("shortDescription", Map.of("text", asked.question()));
      rule.put("help", Map.of("text", asked.remedy()));
      rule.put("defaultConfiguration", Map.of("level", level(asked.severity())));
      rules.add(rule);
    }
    List<Map<String, Object>> results = new ArrayList<>();
    result.open().forEach(found -> results.add(result(found, text.row(found), catalogue)));
    result.waived().forEach(found -> results.add(result(found, text.row(found), catalogue)));
    Map<String, Object> driver = new LinkedHashMap<>();
    driver.put("name", "fiador");
    driver.put("version", version);
    driver.put("rules", rules);
    Map<String, Object> run = new LinkedHashMap<>();
    run.put("tool", Map.of("driver", driver));
    run.put("results", results);
    Map<String, Object> log = new LinkedHashMap<>();
    log.put("$schema", SCHEMA);
    log.put("version", "2.1.0");
    log.put("runs", List.of(run));
    RowWriter.document(out, log);
  }

  private static String level(Severity severity) {
    return switch (severity) {
      case HIGH -> "error";
      case MEDIUM -> "warning";
      case LOW -> "note";
    };
  }

  private static Map<String, Object> result(
      Finding found, Map<String, Object> row, List<Asked> catalogue) {
    String id = (String) row.get("finding");
    List<String> ids = catalogue.stream().map(Asked::id).toList();
    Map<String, Object> result = new LinkedHashMap<>();
    result.put("ruleId", id);
    result.put("ruleIndex", ids.indexOf(id));
    result.put("level", level(catalogue.get(ids.indexOf(id)).severity()));
    String about = String.valueOf(row.getOrDefault("principal", null));
    String subject = row.get("principal") == null ? (String) row.get("object") : about;
    result.put("message", Map.of("text", subject + " " + row.get("what")));
    List<Map<String, Object>> places = new ArrayList<>();
    for (String part : List.of("principal", "object")) {
      if (row.get(part) != null) {
        Map<String, Object> place = new LinkedHashMap<>();
        place.put("fullyQualifiedName", row.get(part));
        place.put("kind", part.equals("object") ? "object" : "member");
        places.add(place);
      }
    }
    result.put("locations", List.of(Map.of("logicalLocations", places)));
    result.put("partialFingerprints", Map.of("finding/v2", fingerprint(found, row)));
    if (row.get("waived") != null) {
      result.put(
          "suppressions", List.of(Map.of("kind", "external", "justification", row.get("waived"))));
    }
    Map<String, Object> more = new LinkedHashMap<>();
    for (String key2 : List.of("users", "through", "statements", "waived_until")) {
      more.put(key2, row.get(key2));
    }
    result.put("properties", more);
    return result;
  }

  /**
   * What a finding is told by from run to run: its check, whom and what it is about. Words and
   * counts are not in it, so that a better sentence, or one more of the same, makes no new finding.
   */
  private static String fingerprint(Finding found, Map<String, Object> row) {
    String key =
        String.join(
            "\0",
            found.asked().id(),
            String.valueOf(row.get("principal")),
            String.valueOf(row.get("object")),
            found.apart());
    return UUID.nameUUIDFromBytes(key.getBytes(StandardCharsets.UTF_8)).toString();
  }
}
