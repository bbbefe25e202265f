package fiador.report.page;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import fiador.effects.Holders;
import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.report.RandomEstates;
import java.io.IOException;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/** The numbers of a page are those of the answers, and nothing is in it that was left out. */
final class PageDataTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final int ESTATES = 120;

  private static Map<String, Object> document(Access access, BitSet things, String said) {
    return PageData.document(
        access, Scope.of(access, things, said, CLOCK), Supplement.NOTHING, CLOCK);
  }

  @SuppressWarnings("unchecked")
  private static <T> List<T> list(Map<String, Object> document, String name) {
    return (List<T>) document.get(name);
  }

  private static int number(Map<String, Object> document, String list, String name) {
    List<List<Object>> all = list(document, list);
    return all.stream().map(one -> one.get(0)).toList().indexOf(name);
  }

  @Test
  void whatSomebodyHoldsIsCountedAsTheCommandCountsIt() {
    for (int seed = 0; seed < ESTATES; seed++) {
      TinyEstate tiny = RandomEstates.of(seed);
      Access access = tiny.build();
      Map<String, Object> document = document(access, Scope.everything(access), "");
      List<List<Integer>> held = list(document, "held");
      List<List<Object>> words = list(document, "words");
      for (int user = 1; user <= RandomEstates.USERS; user++) {
        List<Holding> rows = new Holdings(access, CLOCK, false).of(user);
        List<Integer> packed =
            held.get(number(document, "principals", access.principals().name(user)));
        int privileges = 0;
        TreeSet<Integer> things = new TreeSet<>();
        TreeSet<String> states = new TreeSet<>();
        for (int at = 0; at < packed.size(); at += 3) {
          privileges += (int) words.get(packed.get(at + 1)).get(1);
          things.add(packed.get(at));
          states.add(packed.get(at) + " " + packed.get(at + 2));
        }
        assertThat(privileges).as("seed %d, user %d", seed, user).isEqualTo(rows.size());
        assertThat(things)
            .as("seed %d, user %d", seed, user)
            .hasSize((int) rows.stream().map(Holding::node).distinct().count());
        assertThat(states)
            .as("seed %d, user %d", seed, user)
            .hasSize(
                (int)
                    rows.stream().map(row -> List.of(row.node(), row.state())).distinct().count());
      }
    }
  }

  @Test
  void whoGetsToAThingIsWhoHoldsIt() {
    for (int seed = 0; seed < ESTATES; seed++) {
      TinyEstate tiny = RandomEstates.of(seed);
      Access access = tiny.build();
      Map<String, Object> document = document(access, Scope.everything(access), "");
      List<List<Integer>> held = list(document, "held");
      for (String table : RandomEstates.TABLES) {
        int thing = number(document, "things", table.substring(2));
        TreeSet<String> users = new TreeSet<>();
        for (int user = 0; user < held.size(); user++) {
          for (int at = 0; at < held.get(user).size(); at += 3) {
            if (held.get(user).get(at) == thing) {
              users.add(list(document, "principals").get(user).toString().split(",", -1)[0]);
            }
          }
        }
        assertThat(users)
            .as("seed %d, %s", seed, table)
            .hasSize(
                (int)
                    new Holders(access, CLOCK)
                        .of(tiny.at(table)).stream().map(Holding::user).distinct().count());
      }
    }
  }

  @Test
  void aPartHoldsNobodyAndNothingElse() throws IOException {
    int smaller = 0;
    for (int seed = 0; seed < ESTATES; seed++) {
      TinyEstate tiny = RandomEstates.of(seed);
      Access access = tiny.build();
      BitSet schema = new BitSet();
      for (int node = 0; node < access.tree().size(); node++) {
        schema.set(node, node == tiny.at("d.s") || access.tree().isInside(node, tiny.at("d.s")));
      }
      Map<String, Object> document = document(access, schema, "the schema s");
      String json = new ObjectMapper().writeValueAsString(document);
      assertThat(json)
          .as("seed %d", seed)
          .contains("\"s.a\"")
          .doesNotContain("t.c", "t.e", "\"t\"");
      TreeSet<String> meant = new TreeSet<>();
      for (int node = schema.nextSetBit(0); node >= 0; node = schema.nextSetBit(node + 1)) {
        new Holders(access, CLOCK)
            .of(node)
            .forEach(row -> meant.add(access.principals().name(row.user())));
      }
      for (int user = 1; user <= RandomEstates.USERS; user++) {
        String name = access.principals().name(user);
        assertThat(number(document, "principals", name) >= 0)
            .as("seed %d, %s", seed, name)
            .isEqualTo(meant.contains(name));
        smaller += meant.contains(name) ? 0 : 1;
      }
    }
    assertThat(smaller).isGreaterThan(ESTATES / 10);
  }
}
