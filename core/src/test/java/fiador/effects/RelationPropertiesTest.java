package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.Privilege;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntCollection;
import java.math.BigInteger;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;

/** What must hold between the questions on any estate. */
class RelationPropertiesTest {
  private static final Clock NOW = Clock.fixed(Instant.ofEpochSecond(1000), ZoneOffset.UTC);

  @Property(tries = 1500)
  void holdersAreTheTransposeOfHoldings(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    Holdings holdings = new Holdings(access, NOW, true);
    List<Holding> fromUsers = new ArrayList<>();
    for (int user = 1; user <= RandomAccess.USERS; user++) {
      fromUsers.addAll(holdings.of(user));
    }
    Holders holders = new Holders(access, NOW);
    List<Holding> fromNodes = new ArrayList<>();
    for (int node = 0; node < access.tree().size(); node++) {
      fromNodes.addAll(holders.of(node));
    }
    assertThat(fromNodes).containsExactlyInAnyOrderElementsOf(fromUsers);
  }

  @Property(tries = 1000)
  void askingOneNodeGivesThatPartOfAllHoldings(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    Holdings holdings = new Holdings(access, NOW, true);
    for (int user = 1; user <= RandomAccess.USERS; user++) {
      List<Holding> all = holdings.of(user);
      List<Holding> one = new ArrayList<>();
      for (int node = 0; node < access.tree().size(); node++) {
        one.addAll(holdings.at(user, node));
      }
      assertThat(one).isEqualTo(byNode(all));
      assertThat(holdings.count(user)).isEqualTo(all.size());
    }
  }

  private static List<Holding> byNode(List<Holding> rows) {
    List<Holding> sorted = new ArrayList<>(rows);
    sorted.sort(Comparator.comparingInt(Holding::node));
    return sorted;
  }

  @Property(tries = 1000)
  void aTraceAgreesWithTheHoldings(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    Holdings holdings = new Holdings(access, NOW, true);
    Tracer tracer = new Tracer(access, NOW);
    for (int user = 1; user <= RandomAccess.USERS; user++) {
      for (int node = 0; node < access.tree().size(); node++) {
        Trace trace = tracer.trace(user, Privilege.SELECT, node, -1, 50);
        State held =
            holdings.at(user, node).stream()
                .filter(row -> row.privilege() == Privilege.SELECT && row.columns() == null)
                .map(Holding::state)
                .min(Comparator.naturalOrder())
                .orElse(null);
        assertThat(trace.state()).isEqualTo(held);
        if (trace.works() && !access.rules().has(HouseFact.DENIALS)) {
          assertThat(trace.paths()).isNotEmpty();
          assertThat(trace.paths().get(0).state()).isEqualTo(held);
        }
        if (!trace.works()) {
          assertThat(trace.obstacles()).isNotEmpty();
        }
      }
    }
  }

  @Property(tries = 1000)
  void theNumberOfPathsEqualsTheirEnumerationWithoutCycles(@ForAll long seed) {
    Access access = RandomAccess.of(seed);
    Memberships memberships = access.memberships();
    for (int edge = 0; edge < memberships.size(); edge++) {
      if (memberships.role(edge) >= memberships.member(edge)
          && memberships.member(edge) > RandomAccess.USERS) {
        return; // only estates whose roles hold earlier roles have no cycles for certain
      }
    }
    for (int user = 1; user <= RandomAccess.USERS; user++) {
      RoleWalk walk = new RoleWalk(access, 1000);
      ChainGraph graph = new ChainGraph(memberships, walk, user, false);
      PathSearch search = new PathSearch(graph, everybody(access.principals().size()));
      List<PathSearch.Chain> all = search.nearest(100_000);
      assertThat(search.count()).isEqualTo(BigInteger.valueOf(all.size()));
      assertThat(all.stream().map(chain -> List.of(chain.principals())).distinct())
          .hasSize(all.size());
      assertThat(all.stream().map(chain -> chain.principals().length).toList()).isSorted();
      assertThat(all.size()).isEqualTo(bruteForce(memberships, walk, user));
    }
  }

  /** Everybody has one thing that passes on. */
  private static PathSearch.Ends everybody(int count) {
    return new PathSearch.Ends() {
      @Override
      public int countPassedOn(int principal) {
        return 1;
      }

      @Override
      public int countOwn(int principal) {
        return 0;
      }

      @Override
      public IntCollection all() {
        return IntArrayList.toList(IntStream.range(0, count));
      }
    };
  }

  private static int bruteForce(Memberships memberships, RoleWalk walk, int user) {
    Set<List<Integer>> chains = new HashSet<>();
    List<List<Integer>> open = new ArrayList<>(List.of(List.of(user)));
    while (!open.isEmpty()) {
      List<Integer> chain = open.remove(open.size() - 1);
      if (isOnThroughout(memberships, walk, chain, 0)
          || isOnAfterSwitch(memberships, walk, chain)) {
        chains.add(chain);
      }
      int last = chain.get(chain.size() - 1);
      for (int edge = 0; edge < memberships.size(); edge++) {
        if (memberships.member(edge) == last && !chain.contains(memberships.role(edge))) {
          List<Integer> longer = new ArrayList<>(chain);
          longer.add(memberships.role(edge));
          open.add(longer);
        }
      }
    }
    return chains.size() + 1; // and the one through PUBLIC
  }

  private static boolean isOnAfterSwitch(Memberships all, RoleWalk walk, List<Integer> chain) {
    for (int at = 1; at < chain.size(); at++) {
      if (!connected(all, walk, chain, at, RoleWalk.Along.SET)) {
        return false;
      }
      if (isOnThroughout(all, walk, chain, at)) {
        return true;
      }
    }
    return false;
  }

  private static boolean isOnThroughout(
      Memberships all, RoleWalk walk, List<Integer> chain, int from) {
    for (int at = from + 1; at < chain.size(); at++) {
      if (!connected(all, walk, chain, at, RoleWalk.Along.INHERIT)) {
        return false;
      }
    }
    return true;
  }

  private static boolean connected(
      Memberships all, RoleWalk walk, List<Integer> chain, int at, RoleWalk.Along along) {
    for (int edge = 0; edge < all.size(); edge++) {
      if (all.member(edge) == chain.get(at - 1)
          && all.role(edge) == chain.get(at)
          && walk.follows(edge, along)) {
        return true;
      }
    }
    return false;
  }

  @Property(tries = 500)
  void aMembershipMoreNeverTakesAnythingAway(@ForAll long seed) {
    fiador.grants.TinyEstate without = small(seed);
    fiador.grants.TinyEstate with = small(seed).member("u", "r2", Membership.PLAIN);
    Holdings before = new Holdings(without.build(), NOW, true);
    Holdings after = new Holdings(with.build(), NOW, true);
    for (Holding row : before.of(without.principal("u"))) {
      assertThat(after.of(with.principal("u")))
          .anySatisfy(
              kept -> {
                assertThat(kept.node()).isEqualTo(row.node());
                assertThat(kept.privilege()).isEqualTo(row.privilege());
                assertThat(kept.state()).isLessThanOrEqualTo(row.state());
              });
    }
  }

  private static fiador.grants.TinyEstate small(long seed) {
    java.util.Random random = new java.util.Random(seed);
    fiador.grants.TinyEstate tiny =
        fiador.grants.TinyEstate.postgresql().users("u").roles("r0", "r1", "r2");
    tiny.node(fiador.estate.NodeKind.SCHEMA, "d.s");
    for (int i = 0; i < 3; i++) {
      tiny.node(fiador.estate.NodeKind.TABLE, "d.s.t" + i, "a", "b");
      tiny.grant("r" + random.nextInt(3), "select", "d.s.t" + i);
      tiny.grant("r" + random.nextInt(3), "insert", "d.s.t" + i);
    }
    tiny.grant("r" + random.nextInt(3), "usage", "d.s");
    tiny.member("u", "r0", Membership.of(false, random.nextBoolean(), true));
    tiny.member("r0", "r1", Membership.of(false, random.nextBoolean(), random.nextBoolean()));
    return tiny;
  }
}
