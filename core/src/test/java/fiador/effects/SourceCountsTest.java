package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.effects.SourceCounts.Counted;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.TinyEstate;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What brings the holders of a node their rights, against the ways of each of them. */
class SourceCountsTest {
  private static final Clock CLOCK = Clock.fixed(Instant.ofEpochSecond(1000), ZoneOffset.UTC);
  private static final int ALL = 2000;

  /** What sources that are one have in common. */
  private record Given(int to, Object what, BitSet columns, long privileges) {}

  private static Given end(Access access, Path path) {
    int last = path.chain()[path.chain().length - 1];
    Source source = path.source();
    return new Given(last, what(access, source), columns(access, source), 0);
  }

  private static boolean isUser(Access access, int principal) {
    return principal > Principals.PUBLIC && access.principals().isUser(principal);
  }

  private static Object what(Access access, Source source) {
    if (source instanceof Source.Granted granted) {
      return "granted " + access.grants().node(granted.row());
    } else if (source instanceof Source.Owned owned) {
      return "owned " + owned.node();
    }
    return ((Source.Powered) source).power();
  }

  private static BitSet columns(Access access, Source source) {
    BitSet columns = new BitSet();
    if (source instanceof Source.Granted granted
        && access.grants().columns(granted.row()) != ColumnSets.WHOLE) {
      for (int each : access.columnSets().ordinals(access.grants().columns(granted.row()))) {
        columns.set(each);
      }
    }
    return columns;
  }

  @Test
  void eachIsOnTheWayOfAsManyAsItSays() {
    int compared = 0;
    for (long seed = 1; seed <= 150; seed++) {
      Access access = RandomAccess.of(seed);
      Tracer tracer = new Tracer(access, CLOCK);
      Holders holders = new Holders(access, CLOCK);
      for (int node = 0; node < access.tree().size(); node++) {
        IntSet users = new IntOpenHashSet();
        Map<Given, Long> given = new HashMap<>();
        Map<Given, Set<Integer>> through = new HashMap<>();
        for (Holding row : holders.of(node)) {
          users.add(row.user());
          for (int column = -1; column < access.tree().columns(node); column++) {
            for (Path path : tracer.trace(row.user(), row.privilege(), node, column, ALL).paths()) {
              Given end = end(access, path);
              given.merge(end, row.privilege().bit(), (one, other) -> one | other);
              through.computeIfAbsent(end, fresh -> new HashSet<>()).add(row.user());
            }
          }
        }
        Map<Given, Set<Integer>> alike = new HashMap<>();
        through.forEach(
            (end, those) -> {
              int to = isUser(access, end.to()) ? SourceCounts.DIRECTLY : end.to();
              Given each = new Given(to, end.what(), end.columns(), given.get(end));
              alike.computeIfAbsent(each, fresh -> new HashSet<>()).addAll(those);
            });
        Map<Given, Integer> expected = new HashMap<>();
        alike.forEach((each, those) -> expected.put(each, those.size()));
        Map<Given, Integer> said = new HashMap<>();
        for (Counted each : new SourceCounts(access, CLOCK).of(node, -1, users)) {
          int to = isUser(access, each.to()) ? SourceCounts.DIRECTLY : each.to();
          BitSet columns = each.columns() == null ? new BitSet() : each.columns();
          Object what = what(access, each.source());
          said.put(new Given(to, what, columns, each.privileges()), each.users());
          compared++;
        }
        assertThat(said).as("seed %d, %s", seed, access.tree().path(node)).isEqualTo(expected);
      }
    }
    assertThat(compared).isGreaterThan(1000);
  }

  @Test
  void whatSeveralUsersHaveDirectlyIsOne() {
    TinyEstate tiny =
        TinyEstate.postgresql()
            .users("ines", "rui", "eva", "boss")
            .roles("reader")
            .node(NodeKind.SCHEMA, "d.s")
            .node(NodeKind.TABLE, "d.s.t", "a", "b")
            .member("ines", "reader")
            .member("eva", "reader")
            .grant("reader", "select", "d.s.t")
            .grant("ines", "update", "d.s.t")
            .grant("rui", "update", "d.s.t")
            .grant("eva", "insert", "d.s.t");
    Access access = tiny.build();
    int table = tiny.at("d.s.t");
    IntSet users = new IntOpenHashSet();
    new Holders(access, CLOCK).of(table).forEach(row -> users.add(row.user()));
    List<Counted> found = new SourceCounts(access, CLOCK).of(table, -1, users);
    assertThat(found)
        .extracting(Counted::to, Counted::privileges, Counted::users)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple(SourceCounts.DIRECTLY, Privilege.UPDATE.bit(), 2),
            org.assertj.core.groups.Tuple.tuple(
                tiny.principal("reader"), Privilege.SELECT.bit(), 2),
            org.assertj.core.groups.Tuple.tuple(tiny.principal("eva"), Privilege.INSERT.bit(), 1));
  }
}
