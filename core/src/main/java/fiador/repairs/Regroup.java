package fiador.repairs;

import fiador.changes.Gap;
import fiador.changes.outcome.PeopleEffects.Change;
import fiador.changes.outcome.Turned;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Step;
import fiador.evidence.Evidence;
import fiador.findings.Findings;
import fiador.findings.check.Expected;
import fiador.findings.check.Facts;
import fiador.findings.check.Phrase;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.Activation;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Fewer roles for the same: what people hold through roles and by themselves is taken apart into
 * single privileges and put together again in as few roles as can be found, without anybody gaining
 * or losing. Left alone is what a new role could not carry: powers, ownership, the right to grant
 * on, roles that count only after switching, those of the server, those that policies name, and the
 * umbrella. Cost: that of {@link RoleCover}.
 */
public final class Regroup {
  /**
   * A role of the new order.
   *
   * @param role the role of today that gives the same, or -1
   * @param name its name
   * @param grants what it gives, as rows of grants that give it now
   * @param users who gets it, principal ids
   */
  public record Group(int role, String name, List<Phrase> grants, IntArrayList users) {}

  /**
   * What came out.
   *
   * @param groups the roles, those with the most users first
   * @param people how many users they are for
   * @param rolesNow how many roles that takes today, those inside others included
   * @param grantsNow how many grants to users themselves it takes today
   * @param atLeast no order in which users hold roles of privileges has fewer roles
   * @param gap the steps, and what they do to people
   * @param exact whether nobody gains, and loses only what was not used
   */
  public record Result(
      List<Group> groups,
      int people,
      int rolesNow,
      int grantsNow,
      int atLeast,
      Gap gap,
      boolean exact) {
    /** Whether it takes fewer roles than today, or makes roles of what people have themselves. */
    public boolean isBetter() {
      return grantsNow > 0 || groups.size() < rolesNow;
    }
  }

  private final Facts facts;
  private final Access access;
  private final Needs needs;
  private final PlainUnits units;
  private final Map<Integer, BitSet> held = new LinkedHashMap<>();
  private final Map<Integer, IntArrayList> edges = new TreeMap<>();
  private final Map<Integer, IntArrayList> rows = new TreeMap<>();

  private Regroup(Facts facts) {
    this.facts = facts;
    this.access = facts.access;
    this.units = new PlainUnits(facts);
    this.needs = facts.evidence == null ? null : new Needs(facts);
  }

  /** Whether the server lets all roles of a user count at once, which this rests on. */
  public static boolean isPossible(Access access) {
    return access.rules().activation() != Activation.ONE_AT_A_TIME;
  }

  /**
   * Looks for a smaller order; parameters as for {@link Findings#of}.
   *
   * @param evidence what was used: then people keep only that; null to keep all
   */
  public static Result of(Access access, Clock clock, Expected expected, Evidence evidence) {
    return new Regroup(new Facts(access, clock, expected, evidence, null)).find();
  }

  private Result find() {
    for (int user = 1; user < facts.people.size(); user++) {
      // who is held like a role themselves gives what they have to others
      boolean counts =
          access.rules().activation() != Activation.PER_MEMBER
              || !facts.people.account(user).switching();
      if (facts.isUser(user) && facts.reach.below(user).size() == 1 && counts) {
        gather(user);
      }
    }
    List<Integer> people = List.copyOf(held.keySet());
    RoleCover.Cover cover = RoleCover.of(people.stream().map(held::get).toList());
    Set<Integer> rolesNow = new TreeSet<>();
    Set<Integer> given = new TreeSet<>();
    edges
        .values()
        .forEach(list -> list.forEach((int edge) -> given.add(access.memberships().role(edge))));
    given.forEach(role -> facts.reach.up(role).forEach((int inner) -> rolesNow.add(inner)));
    List<Group> groups = new ArrayList<>();
    List<Step> steps = steps(cover, people, given, groups);
    groups.sort((one, other) -> other.users().size() - one.users().size());
    Gap gap = Gap.of(access, steps, facts.clock);
    int grantsNow = rows.values().stream().mapToInt(IntArrayList::size).sum();
    return new Result(
        groups, people.size(), rolesNow.size(), grantsNow, cover.atLeast(), gap, isExact(gap));
  }

  private boolean isExact(Gap gap) {
    for (Change change : gap.effects()) {
      if (needs == null || change.isGain()) {
        return false;
      }
    }
    return needs == null
        || needs.losers(gap.outcome().after(), Turned.of(access, gap.outcome())).isEmpty();
  }

  private void gather(int user) {
    Memberships memberships = access.memberships();
    BitSet mine = new BitSet();
    IntArrayList leaving = new IntArrayList();
    for (int edge : memberships.rolesOf().run(user)) {
      int role = memberships.role(edge);
      BitSet gives = units.isPlain(edge) ? units.of(role) : null;
      if (gives != null && facts.plainLeave(edge) != null) {
        mine.or(gives);
        leaving.add(edge);
      }
    }
    IntArrayList direct = new IntArrayList();
    for (int row : access.grants().byGrantee().run(user)) {
      if (isAllPlain(user, access.grants().node(row)) && taken(row) != null) {
        units.add(row, mine);
        direct.add(row);
      }
    }
    if (needs != null) {
      mine = used(user, mine);
    }
    if (!leaving.isEmpty() || !direct.isEmpty()) {
      held.put(user, mine);
      edges.put(user, leaving);
      rows.put(user, direct);
    }
  }

  /** Whether all that a user was given on a node is plain: a statement takes all of it at once. */
  private boolean isAllPlain(int user, int node) {
    for (int row : access.grants().byGrantee().run(user)) {
      if (access.grants().node(row) == node && !units.isPlainGrant(row)) {
        return false;
      }
    }
    return true;
  }

  private Step taken(int row) {
    return facts.plainRevoke(row, access.grants().terms(row).privileges());
  }

  private BitSet used(int user, BitSet all) {
    BitSet some = new BitSet();
    for (Evidence.Use use : needs.uses()) {
      if (use.user() == user) {
        some.or(units.serving(all, use));
      }
    }
    return some;
  }

  private List<Step> steps(
      RoleCover.Cover cover, List<Integer> people, Set<Integer> given, List<Group> groups) {
    List<Step> steps = new ArrayList<>();
    Set<List<Integer>> stays = new HashSet<>();
    List<Step> taking = new ArrayList<>();
    int number = 0;
    for (RoleCover.Role covered : cover.roles()) {
      int same = -1;
      for (int role : units.roles()) {
        boolean alike = units.of(role).equals(covered.privileges());
        same = alike && (same < 0 || given.contains(role)) ? role : same;
      }
      String name = same >= 0 ? facts.people.name(same) : freeName(++number);
      IntArrayList users = new IntArrayList();
      covered.users().stream().forEach(at -> users.add((int) people.get(at)));
      if (same < 0) {
        steps.add(new CreateRole(name));
        units.grants(covered.privileges(), name, steps);
        if (facts.umbrella() >= 0 && units.hasAll(facts.umbrella(), covered.privileges())) {
          steps.add(new GiveRole(name, facts.people.name(facts.umbrella())));
        }
      }
      for (int user : users) {
        boolean has = same >= 0 && holdsDirectly(user, same);
        if (has) {
          stays.add(List.of(user, same));
        } else {
          steps.add(facts.taking.giveInstead(name, user, Membership.PLAIN));
        }
      }
      groups.add(new Group(same, name, units.said(covered.privileges()), users));
    }
    edges.forEach(
        (user, list) ->
            list.forEach(
                (int edge) -> {
                  if (!stays.contains(List.of(user, access.memberships().role(edge)))) {
                    taking.add(facts.plainLeave(edge));
                  }
                }));
    rows.forEach((user, list) -> list.forEach((int row) -> taking.add(taken(row))));
    steps.addAll(taking.stream().distinct().toList());
    return steps;
  }

  private boolean holdsDirectly(int user, int role) {
    for (int edge : edges.get(user)) {
      if (access.memberships().role(edge) == role) {
        return true;
      }
    }
    return false;
  }

  private String freeName(int number) {
    String name = access.rules().fold("regrouped_" + number);
    for (int more = 2; facts.people.named(name) >= 0; more++) {
      name = access.rules().fold("regrouped_" + number + "_" + more);
    }
    return name;
  }
}
