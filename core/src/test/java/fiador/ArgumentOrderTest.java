package fiador;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * Ids are ints, so their order is what keeps them from being mixed up: principals stand before
 * nodes, nodes before columns; who gave something stands last, as in the sentence.
 */
class ArgumentOrderTest {
  private static final Pattern SIGNATURE =
      Pattern.compile("(\\w+)\\s*\\(([^()]*)\\)\\s*(?:throws [\\w., ]+)?[{;]");
  private static final Pattern ID = Pattern.compile("int (\\w+)$");

  private static final List<Set<String>> ORDER =
      List.of(
          Set.of(
              "user",
              "principal",
              "grantee",
              "member",
              "role",
              "holder",
              "owner",
              "who",
              "account",
              "person",
              "asker",
              "giver",
              "definer",
              "acting"),
          Set.of(
              "node",
              "viewNode",
              "object",
              "table",
              "schema",
              "place",
              "on",
              "under",
              "view",
              "routine",
              "thing",
              "target",
              "database",
              "container"),
          Set.of("column", "ordinal"));

  private static int rank(String name) {
    for (int rank = 0; rank < ORDER.size(); rank++) {
      if (ORDER.get(rank).contains(name)) {
        return rank;
      }
    }
    return -1;
  }

  private static boolean inOrder(String parameters) {
    List<Integer> ranks = new ArrayList<>();
    for (String parameter : parameters.split(",", -1)) {
      MatchResult id = ID.matcher(parameter.strip()).results().findFirst().orElse(null);
      int rank = id == null ? -1 : rank(id.group(1));
      if (rank >= 0) {
        ranks.add(rank);
      }
    }
    for (int i = 1; i < ranks.size(); i++) {
      int before = ranks.get(i - 1);
      // a place and its column can stand before another place and its column
      boolean pairs = before == 2 && ranks.get(i) == 1 && ranks.subList(0, i).contains(1);
      if (ranks.get(i) < before && !pairs) {
        return false;
      }
    }
    return true;
  }

  @Test
  void principalsStandBeforeNodesAndNodesBeforeColumns() throws IOException {
    List<String> mixed = new ArrayList<>();
    int seen = 0;
    for (String module : List.of("core", "sqltext", "files", "servers", "report", "work", "cli")) {
      try (Stream<Path> all = Files.walk(Path.of("..", module, "src/main/java"))) {
        for (Path file : all.filter(path -> path.toString().endsWith(".java")).toList()) {
          for (MatchResult found : SIGNATURE.matcher(Files.readString(file)).results().toList()) {
            seen += found.group(2).contains("int ") ? 1 : 0;
            if (!inOrder(found.group(2))) {
              mixed.add(file.getFileName() + ": " + found.group().replaceAll("\\s+", " "));
            }
          }
        }
      }
    }
    assertThat(seen).isGreaterThan(200);
    assertThat(mixed).isEmpty();
  }

  @Test
  void whatStandsTheWrongWayRoundIsSeen() {
    assertThat(inOrder("int user, long privilege, int node, int column")).isTrue();
    assertThat(inOrder("int node, int user")).isFalse();
    assertThat(inOrder("Access access, int column, int table")).isFalse();
  }
}
