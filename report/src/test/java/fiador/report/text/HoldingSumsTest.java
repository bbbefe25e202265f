package fiador.report.text;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.RandomAccess;
import fiador.estate.NodeKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.TinyEstate;
import fiador.report.shown.Shown;
import fiador.report.shown.Tone;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Sums of long lists, against counting what belongs to each line by itself. */
class HoldingSumsTest {
  private static final Clock CLOCK = Clock.fixed(Instant.ofEpochSecond(1000), ZoneOffset.UTC);

  /** What belongs together: place, kind and state. */
  private static List<Object> place(Tree tree, Holding row) {
    NodeKind kind = tree.kind(row.node());
    int in = kind.isObject() ? tree.enclosing(row.node(), NodeKind.SCHEMA) : row.node();
    return List.of(in, kind, row.state());
  }

  private static List<String> line(Access access, Shown shown, List<Holding> rows) {
    Tree tree = access.tree();
    List<Object> place = place(tree, rows.get(0));
    NodeKind kind = (NodeKind) place.get(1);
    long nodes = rows.stream().mapToInt(Holding::node).distinct().count();
    long held = rows.stream().mapToLong(row -> row.privilege().bit()).reduce(0, (a, b) -> a | b);
    return List.of(
        shown.node((int) place.get(0)),
        States.of(rows.get(0).state()),
        kind.isObject() ? nodes + " " + kind.text() + (nodes == 1 ? "" : "s") : "itself",
        PrivilegeSet.text(held));
  }

  @Test
  void eachLineCountsWhatBelongsToIt() {
    for (long seed = 0; seed < 300; seed++) {
      Access access = RandomAccess.of(seed);
      for (int user = 1; user < access.principals().size(); user++) {
        if (access.principals().isUser(user)) {
          compare(access, new Holdings(access, CLOCK, false).of(user));
        }
      }
    }
  }

  private static void compare(Access access, List<Holding> rows) {
    Shown shown = Shown.brief(access);
    Map<List<Object>, List<Holding>> places = new LinkedHashMap<>();
    for (Holding row : rows) {
      places.computeIfAbsent(place(access.tree(), row), fresh -> new ArrayList<>()).add(row);
    }
    List<List<String>> expected =
        places.values().stream().map(alike -> line(access, shown, alike)).toList();
    assertThat(new HoldingSums(access, shown).lines(rows).stream().map(List::of))
        .containsExactlyElementsOf(expected);
  }

  @Test
  void manySchemasAreCountedButTheLargest() {
    TinyEstate tiny =
        TinyEstate.postgresql().users("ines").roles("reader").member("ines", "reader");
    for (int schema = 0; schema < 100; schema++) {
      tiny.node(NodeKind.SCHEMA, "d.s" + schema);
      for (int table = 0; table <= schema % 10; table++) {
        tiny.node(NodeKind.TABLE, "d.s" + schema + ".t" + table, "a");
        tiny.grant("reader", "select", "d.s" + schema + ".t" + table);
      }
      tiny.grant("reader", "usage", "d.s" + schema);
      if (schema < 4) {
        tiny.grant("reader", "create", "d.s" + schema);
      }
    }
    Access access = tiny.build();
    List<Holding> rows = new Holdings(access, CLOCK, false).of(tiny.principal("ines"));
    List<String> said =
        new HoldingSums(access, Shown.brief(access))
            .brief(rows).stream().map(line -> String.join(" ", line)).map(Tone::plain).toList();
    assertThat(said)
        .containsExactly(
            "database d + live itself connect",
            "schema s0 + live itself usage, create",
            "schema s1 + live itself usage, create",
            "schema s2 + live itself usage, create",
            "schema s3 + live itself usage, create",
            "96 schemas + live itself usage",
            "schema s9 + live 10 tables select",
            "schema s19 + live 10 tables select",
            "schema s29 + live 10 tables select",
            "schema s39 + live 10 tables select",
            "schema s49 + live 10 tables select",
            "95 more schemas + live 500 tables select");
  }
}
