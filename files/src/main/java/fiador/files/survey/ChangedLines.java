package fiador.files.survey;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import fiador.columns.Ints;
import fiador.estate.NodeKind;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.rules.HouseFact;
import fiador.history.Touched;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Whom a change may concern, told from the lines that one survey has and another has not. What is
 * not understood for certain may concern anybody. Cost: those lines.
 */
public final class ChangedLines {
  private static final ObjectMapper JSON = new ObjectMapper();

  /** More than that is no change, but another estate. */
  private static final int MANY = 20_000;

  /** Lines that say nothing of what anybody holds. */
  private static final Set<String> APART =
      Set.of(
          "shows",
          "later",
          "guard",
          "doubt",
          "attribute",
          "lookup",
          "seal",
          "fills",
          "filter",
          "policies_on",
          "beside",
          "unseen",
          "end",
          "address",
          "foreign_server",
          "user_mapping",
          "foreign_table");

  private final Set<String> names = new HashSet<>();
  private final Access either;
  private final Set<Integer> on = new HashSet<>();

  /** Whether something else changed than what was given on things. */
  private boolean more;

  private boolean things;
  private boolean all;

  private ChangedLines(Access either) {
    this.either = either;
  }

  /** Whether two surveys begin alike, but for when they were taken. */
  public static boolean beginAlike(String one, String other) {
    try {
      return apart(one).equals(apart(other));
    } catch (JsonProcessingException notUnderstood) {
      return false;
    }
  }

  private static JsonNode apart(String head) throws JsonProcessingException {
    JsonNode line = JSON.readTree(head);
    return line instanceof ObjectNode fields ? fields.without(List.of("taken", "identity")) : line;
  }

  /**
   * Whom it may concern.
   *
   * @param either one of the two surveys
   * @param gone the lines that the earlier survey alone has, its first one aside
   * @param came those that the later alone has
   */
  public static Touched between(Access either, Collection<String> gone, Collection<String> came) {
    if (gone.size() + came.size() > MANY) {
      return Touched.ANYBODY;
    }
    ChangedLines lines = new ChangedLines(either);
    try {
      Map<Integer, JsonNode> before = lines.read(gone);
      Map<Integer, JsonNode> after = lines.read(came);
      lines.nodes(before, after);
      lines.views(gone, before);
      lines.views(came, after);
    } catch (JsonProcessingException | IndexOutOfBoundsException notUnderstood) {
      return Touched.ANYBODY;
    }
    return lines.all
        ? Touched.ANYBODY
        : new Touched(lines.names, lines.things, false, lines.onlyOnTables());
  }

  /** Takes up one side; gives the things it names. */
  private Map<Integer, JsonNode> read(Collection<String> lines) throws JsonProcessingException {
    List<JsonNode> parsed = new ArrayList<>();
    Map<Integer, String> people = new HashMap<>();
    for (String each : lines) {
      JsonNode line = JSON.readTree(each);
      parsed.add(line);
      if (line.has("principal")) {
        people.put(line.path("principal").asInt(), line.path("name").asText());
      }
    }
    names.addAll(people.values());
    more |= !people.isEmpty();
    Map<Integer, JsonNode> nodes = new HashMap<>();
    for (JsonNode line : parsed) {
      String sort = line.fieldNames().hasNext() ? line.fieldNames().next() : "";
      switch (sort) {
        case "principal", "view" -> {
          // taken already; looked at once it is known which views came and went
        }
        case "member" -> {
          add(people, line.path("member"));
          more = true;
        }
        case "grant", "denial" -> {
          add(people, line.path("to"));
          on.add(line.path("on").asInt(-1));
        }
        case "node" -> {
          more = true;
          nodes.put(line.path("node").asInt(), line);
          if (line.has("owner")) {
            add(people, line.path("owner"));
          }
        }
        default -> all |= !APART.contains(sort);
      }
    }
    return nodes;
  }

  /**
   * The tables on which rights changed, where nobody can hold anything else by that elsewhere; none
   * where somebody could: what is in a container by what is given on it, and views by what is given
   * on what they read.
   */
  private Set<Integer> onlyOnTables() {
    boolean asOwner = either.rules().has(HouseFact.OWNER_STANDS_FOR_ASKER);
    boolean known = on.stream().allMatch(node -> node > 0 && node < either.tree().size());
    if (more || !known || asOwner || either.accounts() != null) {
      return Set.of();
    }
    Set<Integer> read = new HashSet<>();
    Ints under = either.reads().under();
    for (int at = 0; either.rules().looksUnderViews() && at < under.size(); at++) {
      read.add(under.get(at));
    }
    boolean alone =
        on.stream()
            .allMatch(node -> either.tree().kind(node) == NodeKind.TABLE && !read.contains(node));
    return alone && !either.rules().has(HouseFact.ENFORCES_TIME) ? on : Set.of();
  }

  /** The numbers of those whose lines both sides have mean the same on both. */
  private void add(Map<Integer, String> changed, JsonNode id) {
    if (!id.isInt()) {
      throw new IndexOutOfBoundsException("no id");
    }
    String name = changed.get(id.asInt());
    names.add(name == null ? either.principals().name(id.asInt()) : name);
  }

  private void nodes(Map<Integer, JsonNode> before, Map<Integer, JsonNode> after) {
    things = !before.isEmpty() || !after.isEmpty();
    for (Map.Entry<Integer, JsonNode> was : before.entrySet()) {
      JsonNode is = after.get(was.getKey());
      if (is != null && !isSame(was.getValue(), is)) {
        // the number means another thing now, also in lines that both surveys have
        all = true;
      } else if (is != null) {
        // of a table whose columns changed, who has some of them; all else may open or close it
        boolean table = was.getValue().path("kind").asText().equals(NodeKind.TABLE.text());
        all |= !table || !was.getValue().path("facts").equals(is.path("facts"));
        columns(either.grants(), was.getKey());
        columns(either.denials(), was.getKey());
      }
    }
  }

  private static boolean isSame(JsonNode one, JsonNode other) {
    return one.path("name").equals(other.path("name"))
        && one.path("in").equals(other.path("in"))
        && one.path("kind").equals(other.path("kind"));
  }

  private void columns(Grants rows, int node) {
    for (int row : rows.byNode().run(node)) {
      if (rows.columns(row) != ColumnSets.WHOLE) {
        names.add(either.principals().name(rows.grantee(row)));
      }
    }
  }

  /** What a view reads is no news of one that came or went with it. */
  private void views(Collection<String> lines, Map<Integer, JsonNode> cameOrWent)
      throws JsonProcessingException {
    for (String each : lines) {
      if (each.startsWith("{\"view\"")) {
        all |= !cameOrWent.containsKey(JSON.readTree(each).path("view").asInt());
      }
    }
  }
}
