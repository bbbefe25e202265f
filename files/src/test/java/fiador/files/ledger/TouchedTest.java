package fiador.files.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import fiador.effects.RandomAccess;
import fiador.estate.NodeKind;
import fiador.files.ready.ReadySurveys;
import fiador.files.survey.ChangedLines;
import fiador.files.survey.SurveyException;
import fiador.files.survey.SurveyReader;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.history.Concern;
import fiador.history.HoldingDifference;
import fiador.history.Touched;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Whom a change may concern is told without looking at everybody, and nobody is left out. */
final class TouchedTest {
  private static final ObjectMapper JSON = new ObjectMapper();

  @TempDir Path folder;

  /** A survey whose lines are changed here and there. */
  private static final class Lines {
    private final Random random;
    private final List<ObjectNode> lines = new ArrayList<>();

    Lines(Access access, long seed) throws Exception {
      random = new Random(seed);
      for (String line : LedgerTest.text(access).lines().toList()) {
        lines.add((ObjectNode) JSON.readTree(line));
      }
    }

    private List<ObjectNode> of(String... sorts) {
      return lines.stream().filter(line -> Stream.of(sorts).anyMatch(line::has)).toList();
    }

    private ObjectNode any(List<ObjectNode> from) {
      return from.isEmpty() ? JSON.createObjectNode() : from.get(random.nextInt(from.size()));
    }

    private int anybody() {
      return 1 + random.nextInt(of("principal").size() - 1);
    }

    private void change() {
      ObjectNode line = any(of("grant", "denial"));
      ObjectNode table = any(of("node").stream().filter(node -> node.has("columns")).toList());
      switch (random.nextInt(9)) {
        case 0 -> lines.remove(line);
        case 1 -> lines.remove(any(of("member")));
        case 2 -> line.put("to", anybody());
        case 3 -> {
          ObjectNode who = any(of("principal"));
          boolean had = who.remove("powers") != null;
          who.set("powers", JSON.createArrayNode().add(had ? "create databases" : "superuser"));
        }
        case 4 -> table.put("owner", anybody());
        case 5 -> swap(table, any(of("node").stream().filter(n -> n.has("columns")).toList()));
        case 6 -> swap(any(of("principal")), any(of("principal")));
        case 7 -> lines.remove(any(of("view")));
        default -> {
          int id = of("node").size();
          ObjectNode made = table.deepCopy();
          made.put("node", id).put("name", "new" + id);
          lines.add(lines.indexOf(of("node").get(id - 1)) + 1, made);
        }
      }
    }

    private static void swap(ObjectNode one, ObjectNode other) {
      JsonNode name = one.get("name");
      if (name != null && other.has("name")) {
        one.set("name", other.get("name"));
        other.set("name", name);
      }
    }

    List<String> text() {
      return lines.stream().map(JsonNode::toString).toList();
    }
  }

  @Test
  void nobodyWhoGainsOrLosesIsLeftOut() throws Exception {
    int[] counts = new int[4];
    for (int seed = 1; seed <= 1500; seed++) {
      Access earlier = LedgerTest.at(RandomAccess.of(seed), Duration.ZERO);
      Lines lines = new Lines(earlier, seed * 31L);
      List<String> before = lines.text();
      for (int i = lines.random.nextInt(3); i >= 0; i--) {
        lines.change();
      }
      compare(seed, earlier, before, lines, counts);
    }
    assertThat(counts[0]).as("gained or lost").isGreaterThan(300);
    assertThat(counts[1]).as("told to be of no concern").isGreaterThan(1000);
    assertThat(counts[2]).as("read").isGreaterThan(1000);
    assertThat(counts[3]).as("gained or lost on tables alone").isGreaterThan(50);
  }

  private static void compare(
      int seed, Access earlier, List<String> before, Lines lines, int[] counts) throws Exception {
    Access later;
    try {
      later = read(lines);
    } catch (SurveyException contradictory) {
      return;
    }
    counts[2]++;
    List<String> after = lines.text();
    List<String> gone = new ArrayList<>(before.subList(1, before.size()));
    List<String> came = new ArrayList<>(after.subList(1, after.size()));
    for (String line : List.copyOf(gone)) {
      if (came.remove(line)) {
        gone.remove(line);
      }
    }
    Touched touched = ChangedLines.between((seed & 1) == 0 ? earlier : later, gone, came);
    Set<String> names = new TreeSet<>();
    for (Access side : List.of(earlier, later)) {
      for (int id = 1; id < side.principals().size(); id++) {
        names.add(side.principals().name(id));
      }
    }
    for (String name : names) {
      int was = earlier.principals().named(name);
      int is = later.principals().named(name);
      HoldingDifference difference = new HoldingDifference(earlier, later);
      List<HoldingDifference.Turn> turns = difference.ofPrincipal(was, is);
      boolean turned = !turns.isEmpty();
      if (!touched.tables().isEmpty()) {
        assertThat(difference.ofPrincipal(was, is, touched.tables()))
            .as("seed %d, %s, on %s", seed, name, touched.tables())
            .containsExactlyInAnyOrderElementsOf(turns);
        counts[3] += turned ? 1 : 0;
      }
      Concern concern = new Concern(name);
      concern.in(later);
      boolean may = concern.mayBe(touched);
      assertThat(may || !turned).as("seed %d, %s: -%s +%s", seed, name, gone, came).isTrue();
      counts[0] += turned ? 1 : 0;
      counts[1] += may ? 0 : 1;
    }
  }

  /** The same lines as a survey; the numbers in its last line are those that are there. */
  private static Access read(Lines lines) throws Exception {
    ObjectNode end = lines.lines.get(lines.lines.size() - 1);
    end.put("nodes", lines.of("node").size());
    end.put("memberships", lines.of("member").size());
    end.put("grants", lines.of("grant").size());
    String text = String.join("\n", lines.text()) + "\n";
    return SurveyReader.read(
        "changed", new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
  }

  private Ledger opened() throws Exception {
    return Ledger.open(folder.resolve("ledger.db"))
        .ready(new ReadySurveys(note -> {}, Runnable::run));
  }

  private static TinyEstate tiny() {
    return TinyEstate.postgresql()
        .users("ines", "rui")
        .node(NodeKind.SCHEMA, "d.s")
        .node(NodeKind.TABLE, "d.s.t", "a");
  }

  private Touched asked() throws Exception {
    try (Ledger ledger = opened()) {
      return ledger.touched(ledger.turns("box").get(1));
    }
  }

  @Test
  void whatWasKeptIsBelievedAsLongAsItIsRight() throws Exception {
    try (Ledger ledger = opened()) {
      ledger.record(LedgerTest.at(tiny().build(), Duration.ZERO));
      Access later = tiny().grant("ines", "select", "d.s.t").build();
      ledger.record(LedgerTest.at(later, Duration.ofDays(1)));
    }
    Touched right = new Touched(Set.of("ines"), false, false, Set.of(3));
    try (Ledger ledger = Ledger.open(folder.resolve("ledger.db"))) {
      // it was kept when the survey was recorded
      assertThat(ledger.touched(ledger.turns("box").get(1))).isEqualTo(right);
    }
    assertThat(asked()).isEqualTo(right);
    Path kept;
    try (Stream<Path> files = Files.list(folder.resolve("ledger.db.ready"))) {
      kept = files.filter(file -> file.toString().endsWith(".touched")).findAny().orElseThrow();
    }
    byte[] bytes = Files.readAllBytes(kept);
    for (int at = 0; at < bytes.length; at++) {
      byte[] other = bytes.clone();
      other[at] ^= 1;
      Files.write(kept, other);
      assertThat(asked()).as("byte %d", at).isEqualTo(right);
      assertThat(Files.readAllBytes(kept)).as("made anew").isEqualTo(bytes);
    }
    Files.write(kept, java.util.Arrays.copyOf(bytes, bytes.length / 2));
    assertThat(asked()).isEqualTo(right);
  }
}
