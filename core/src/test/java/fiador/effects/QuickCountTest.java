package fiador.effects;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.TinyEstate;
import fiador.grants.rules.HouseRules;
import fiador.grants.rules.HsqldbRules;
import fiador.grants.rules.PostgresqlRules;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Counting gives what listing gives, whatever comes down from containers. */
final class QuickCountTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final int USERS = 4;
  private static final int ROLES = 6;
  private static final List<NodeKind> KINDS =
      List.of(NodeKind.TABLE, NodeKind.VIEW, NodeKind.SEQUENCE, NodeKind.ROUTINE, NodeKind.SCHEMA);

  private final List<String> containers = new ArrayList<>();
  private final List<String> objects = new ArrayList<>();

  private TinyEstate estate(HouseRules rules, Random random) {
    TinyEstate tiny = new TinyEstate(rules);
    containers.clear();
    objects.clear();
    int times = random.nextInt(3) == 0 ? 6 : 1;
    for (int i = 0; i < USERS; i++) {
      tiny.users("p" + i);
    }
    for (int i = 0; i < ROLES; i++) {
      tiny.roles("p" + (USERS + i));
    }
    String database = "";
    if (rules.kind().equals(PostgresqlRules.KIND)) {
      tiny.node(NodeKind.DATABASE, "d");
      tiny.grant(random.nextInt(4) == 0 ? anybody(random) : "PUBLIC", "connect", "d");
      if (random.nextInt(12) == 0) {
        tiny.fact("d", NodeFact.CLOSED);
      }
      database = "d.";
      containers.add("d");
    }
    for (int s = 0; s < 3; s++) {
      String schema = database + "s" + s;
      tiny.owned(NodeKind.SCHEMA, schema, random.nextInt(3) == 0 ? anybody(random) : null);
      containers.add(schema);
      if (random.nextInt(6) == 0) {
        tiny.fact(schema, NodeFact.SYSTEM);
      }
      for (int o = 0; o < times * (1 + random.nextInt(4)); o++) {
        String object = schema + ".o" + o;
        NodeKind kind = KINDS.get(random.nextInt(4));
        tiny.owned(kind, object, random.nextInt(4) == 0 ? anybody(random) : null, "a", "b");
        if (kind == NodeKind.VIEW && !objects.isEmpty()) {
          tiny.reads(object, objects.get(random.nextInt(objects.size())));
        }
        objects.add(object);
      }
    }
    memberships(tiny, random);
    grants(tiny, random, times);
    return tiny;
  }

  private static String anybody(Random random) {
    return "p" + random.nextInt(USERS + ROLES);
  }

  private static void memberships(TinyEstate tiny, Random random) {
    for (int i = 0; i < 8; i++) {
      int member = random.nextInt(USERS + ROLES - 1);
      int from = Math.max(member + 1, USERS);
      int role = from + random.nextInt(USERS + ROLES - from);
      boolean inherit = random.nextInt(4) > 0;
      tiny.member("p" + member, "p" + role, Membership.of(false, inherit, !inherit));
    }
    if (random.nextInt(4) == 0) {
      tiny.power(anybody(random), Power.READ_EVERYTHING);
    }
    if (random.nextInt(8) == 0) {
      tiny.power(anybody(random), Power.SUPERUSER);
    }
  }

  private void grants(TinyEstate tiny, Random random, int times) {
    long some = PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE);
    for (int i = 0; i < 6; i++) {
      long privileges = some & random.nextLong() | Privilege.SELECT.bit();
      long grantable = random.nextInt(4) == 0 ? privileges & random.nextLong() : 0;
      int covers = 0;
      for (NodeKind kind : KINDS) {
        covers |= random.nextInt(3) > 0 ? kind.bit() : 0;
      }
      String container = containers.get(random.nextInt(containers.size()));
      tiny.grant(
          anybody(random), container, new Terms(privileges, grantable, covers, Terms.FOREVER));
    }
    for (int i = 0; i < 6; i++) {
      String option = random.nextInt(3) == 0 ? "*" : "";
      String container = containers.get(random.nextInt(containers.size()));
      tiny.grant(anybody(random), "usage" + option, container);
    }
    for (int i = 0; i < 12 * times; i++) {
      String object = objects.get(random.nextInt(objects.size()));
      String option = random.nextInt(5) == 0 ? "*" : "";
      String[] columns = random.nextInt(3) == 0 ? new String[] {"a"} : new String[0];
      String privilege = List.of("select", "update", "execute").get(random.nextInt(3));
      tiny.grant(anybody(random), privilege + option, object, columns);
    }
  }

  /** Whether an estate has something that is not counted by blocks must not show. */
  @Test
  void countsWhatIsListedUnderAnyRules() {
    for (int seed = 0; seed < 400; seed++) {
      Access access = RandomAccess.of(seed);
      for (boolean compact : new boolean[] {true, false}) {
        Holdings holdings = new Holdings(access, CLOCK, true, compact);
        compareBoth(
            "seed " + seed + (compact ? ", compact, " : ", "),
            holdings,
            0,
            access.principals().size() - 1);
      }
    }
  }

  /** The first ones are counted by their rows, others in blocks. */
  private static void compareBoth(String what, Holdings holdings, int from, int to) {
    for (int user = from; user <= to; user++) {
      assertThat(holdings.count(user)).as(what + user).isEqualTo(holdings.of(user).size());
    }
    holdings.countInBlocks();
    for (int user = from; user <= to; user++) {
      StateCounts listed = StateCounts.of(holdings.of(user));
      StateCounts counted = holdings.countByState(user);
      for (State state : State.values()) {
        assertThat(counted.in(state)).as(what + user + ", " + state).isEqualTo(listed.in(state));
      }
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {PostgresqlRules.KIND, HsqldbRules.KIND})
  void countsWhatIsListed(String kind) {
    HouseRules rules = kind.equals(HsqldbRules.KIND) ? HsqldbRules.rules() : PostgresqlRules.of(18);
    for (int seed = 0; seed < 1500; seed++) {
      TinyEstate tiny = estate(rules, new Random(seed));
      Access access = tiny.build();
      for (boolean system : new boolean[] {true, false}) {
        Holdings holdings = new Holdings(access, CLOCK, system);
        compareBoth("seed " + seed + ", system " + system + ", ", holdings, 1, USERS + ROLES);
      }
    }
  }
}
