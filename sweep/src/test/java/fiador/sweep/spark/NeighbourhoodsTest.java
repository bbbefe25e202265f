package fiador.sweep.spark;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.sweep.spark.ArrivalTask.Member;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Which servers are at hand together. */
class NeighbourhoodsTest {
  private final List<Member> members = new ArrayList<>();

  private NeighbourhoodsTest server(String name, String... leads) {
    Store.State state =
        new Store.State("d", "i", Long.MAX_VALUE, List.of(name + ":1"), List.of(leads), "");
    members.add(new Member(new SurveyFile(name, name + ".survey.jsonl", 100), state));
    return this;
  }

  private List<String> all(long together) {
    return new Neighbourhoods(members, together)
        .all().stream()
            .map(each -> names(each.targets()) + " of " + names(each.members()))
            .toList();
  }

  private static List<String> names(List<Member> some) {
    return some.stream().map(each -> each.survey().server()).toList();
  }

  @Test
  void smallGroupsAreTogetherAndWhoIsAloneIsNowhere() {
    server("a", "b:1").server("b", "c:1").server("c").server("alone").server("own", "own:1");
    assertThat(all(1_000)).containsExactly("[b, c] of [a, b, c]", "[own] of [own]");
  }

  @Test
  void ofLargeOnesEachIsWithThoseThatLeadToIt() {
    server("a", "b:1", "x:1").server("b", "c:1").server("c").server("x");
    assertThat(all(0)).containsExactly("[b] of [a, b]", "[c] of [a, b, c]", "[x] of [a, x]");
    // with room for it, those are at hand too to which these lead
    assertThat(all(399)).containsExactly("[b] of [a, b]", "[c] of [a, b, c]", "[x] of [a, x]");
    assertThat(all(400)).containsExactly("[b, c, x] of [a, b, c, x]");
  }

  @Test
  void whoLeadsToAllIsNoMatterOfTheOthers() {
    String[] all =
        IntStream.range(0, 20_000).mapToObj(at -> "s" + at + ":1").toArray(String[]::new);
    server("hostile", all);
    for (int at = 0; at < all.length; at++) {
      server("s" + at);
    }
    assertThat(all(1_000))
        .hasSize(all.length)
        .allMatch(one -> one.endsWith("]") && one.length() < 60);
  }
}
