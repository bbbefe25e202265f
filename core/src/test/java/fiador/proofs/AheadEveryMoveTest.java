package fiador.proofs;

import static org.assertj.core.api.Assertions.assertThat;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.effects.Holdings;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Reach;
import fiador.grants.TinyEstate;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSortedSet;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Looking ahead finds what somebody finds who makes every move there is, one after the other. */
final class AheadEveryMoveTest {
  private static final Clock CLOCK = Clock.fixed(Instant.EPOCH, ZoneOffset.UTC);
  private static final int USERS = 4;
  private static final int ROLES = 5;
  private static final int SEEDS = Integer.getInteger("fiador.ahead", 400);

  private final List<String> users = new ArrayList<>();
  private final List<String> roles = new ArrayList<>();

  private TinyEstate estate(Random random) {
    users.clear();
    roles.clear();
    for (int i = 0; i < USERS; i++) {
      users.add("u" + i);
    }
    for (int i = 0; i < ROLES; i++) {
      roles.add("r" + i);
    }
    TinyEstate tiny =
        TinyEstate.postgresql()
            .users(users.toArray(String[]::new))
            .roles(roles.toArray(String[]::new));
    tiny.owned(NodeKind.SCHEMA, "d.s", random.nextBoolean() ? role(random) : null);
    tiny.owned(NodeKind.TABLE, "d.s.t", random.nextBoolean() ? role(random) : null, "a");
    if (random.nextInt(3) == 0) {
      tiny.withheld("d.s.t", Privilege.SELECT);
    }
    for (int i = 0; i < 9; i++) {
      int low = random.nextInt(USERS + ROLES - 1);
      int high =
          Math.max(low + 1, USERS) + random.nextInt(USERS + ROLES - Math.max(low + 1, USERS));
      Membership how =
          Membership.of(random.nextInt(3) == 0, random.nextBoolean(), random.nextBoolean());
      tiny.member(name(low), name(high), how);
    }
    for (int i = 0; i < 3; i++) {
      String option = random.nextInt(3) == 0 ? "*" : "";
      tiny.grant(name(random.nextInt(USERS + ROLES)), "usage" + option, "d.s");
      tiny.grant(name(random.nextInt(USERS + ROLES)), "select" + option, "d.s.t");
    }
    return tiny;
  }

  private String name(int index) {
    return index < USERS ? users.get(index) : roles.get(index - USERS);
  }

  private String role(Random random) {
    return roles.get(random.nextInt(ROLES));
  }

  /** All that somebody can do to roles and rights, in one statement each. */
  private static List<Step> moves(Access access, int user) {
    List<Step> moves = new ArrayList<>();
    IntArrayList acts = Reach.actingAs(access, user);
    for (int as : acts) {
      for (int edge : access.memberships().rolesOf().run(as)) {
        int role = access.memberships().role(edge);
        for (int to : acts) {
          boolean circle = new Reach(access).holds(role, to);
          if (access.memberships().options(edge).admin() && !circle) {
            moves.add(
                new GiveRole(
                    access.principals().name(role),
                    access.principals().name(to),
                    Membership.of(true, true, true),
                    null,
                    false));
          }
        }
      }
    }
    for (int node = 2; node < access.tree().size(); node++) {
      long wanted =
          PrivilegeSet.of(Privilege.USAGE, Privilege.SELECT)
              & access.rules().privilegesOn(access.tree().kind(node));
      long may = acts.contains(access.tree().owner(node)) ? wanted : 0;
      Grants grants = access.grants();
      for (int row : grants.byNode().run(node)) {
        may |= acts.contains(grants.grantee(row)) ? grants.terms(row).grantable() & wanted : 0;
      }
      for (int to : acts) {
        if (may != 0) {
          String name = access.principals().name(to);
          moves.add(new Grant(may, Places.on(access.tree(), node), List.of(), name, false));
        }
      }
    }
    return moves;
  }

  private static boolean everCan(Access access, int user, Goal goal) {
    Access at = access;
    Set<Step> made = new LinkedHashSet<>();
    boolean more = true;
    while (more) {
      more = made.addAll(moves(at, user));
      at = Outcome.of(access, new ArrayList<>(made)).after();
    }
    return goal.reachedBy(new Holdings(at, CLOCK, true).at(user, goal.node()));
  }

  /**
   * Whether each rung can be climbed when it is its turn, and the goal is reached after the last.
   */
  private static boolean leadsThere(Access access, int user, Goal goal, List<Rung> rungs) {
    Access at = access;
    List<Step> made = new ArrayList<>();
    for (Rung rung : rungs) {
      Step step = step(access, user, rung);
      if (moves(at, user).stream().noneMatch(move -> allows(move, step))) {
        return false;
      }
      made.add(step);
      at = Outcome.of(access, made).after();
    }
    return goal.reachedBy(new Holdings(at, CLOCK, true).at(user, goal.node()));
  }

  private static boolean allows(Step move, Step step) {
    return move.equals(step)
        || move instanceof Grant may
            && step instanceof Grant is
            && may.on().equals(is.on())
            && may.grantee().equals(is.grantee())
            && (is.privileges() & ~may.privileges()) == 0;
  }

  private static Step step(Access access, int user, Rung rung) {
    Principals people = access.principals();
    if (rung instanceof Rung.Grants grants) {
      String to = people.name(grants.to());
      long bits = grants.privileges() & PrivilegeSet.of(Privilege.USAGE, Privilege.SELECT);
      return new Grant(bits, Places.on(access.tree(), grants.node()), List.of(), to, false);
    }
    int role =
        rung instanceof Rung.Gives gives ? gives.role() : ((Rung.Climbs) rung).rung().gained();
    int to = rung instanceof Rung.Gives gives ? gives.to() : user;
    Membership how = Membership.of(true, true, true);
    return new GiveRole(people.name(role), people.name(to), how, null, false);
  }

  @Test
  void findsWhoCouldAndEveryLadderCanBeClimbed() {
    int could = 0;
    for (int seed = 0; seed < SEEDS; seed++) {
      TinyEstate tiny = estate(new Random(seed));
      Access access = tiny.build();
      Goal goal = new Goal(Privilege.SELECT, tiny.at("d.s.t"), -1);
      Ahead ahead = new Ahead(access, CLOCK);
      IntSortedSet able = ahead.able(goal, user -> true);
      for (String name : users) {
        int user = tiny.principal(name);
        String where = "seed " + seed + ", " + name;
        List<Rung> rungs = ahead.ladder(goal, user);
        assertThat(rungs != null).as(where).isEqualTo(able.contains(user));
        if (rungs == null) {
          assertThat(everCan(access, user, goal)).as(where).isFalse();
        } else {
          assertThat(leadsThere(access, user, goal, rungs)).as(where + " " + rungs).isTrue();
          could += rungs.isEmpty() ? 0 : 1;
        }
      }
    }
    assertThat(could).as("people who could and cannot now").isGreaterThan(SEEDS / 4);
  }
}
