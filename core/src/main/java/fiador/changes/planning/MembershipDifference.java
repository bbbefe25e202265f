package fiador.changes.planning;

import fiador.changes.outcome.HeldThrough;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.Wanted;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/**
 * The memberships that are wanted and missing, those that are held otherwise than wanted, and those
 * that are governed and not wanted. Cost: the memberships.
 */
final class MembershipDifference {
  private final Access access;
  private final Principals people;
  private final Memberships memberships;
  private final Governed governed;
  private final Set<Step> give;
  private final Set<Step> take;
  private final Set<String> notes;
  private final int founder;

  /** Whether each membership has options of its own, and is its grantor's. */
  private final boolean each;

  private final boolean oneAtATime;
  private final boolean setsDefaults;

  private record Pair(String member, String role) {}

  MembershipDifference(
      Access access, Governed governed, Set<Step> give, Set<Step> take, Set<String> notes) {
    this.access = access;
    this.people = access.principals();
    this.memberships = access.memberships();
    this.governed = governed;
    this.give = give;
    this.take = take;
    this.notes = notes;
    this.founder = access.founder();
    this.each = access.rules().activation() == Activation.PER_MEMBERSHIP;
    this.oneAtATime = access.rules().activation() == Activation.ONE_AT_A_TIME;
    this.setsDefaults = access.rules().has(HouseFact.DEFAULT_ROLES);
  }

  /**
   * Adds the steps.
   *
   * @param ended what was wanted for a time that is over: it goes, governed or not
   * @param accounts by the charter's name of a principal, its names on the server
   */
  void compare(Wanted wanted, Wanted ended, Map<String, List<String>> accounts) {
    Set<String> users = new LinkedHashSet<>();
    wanted.users().forEach(user -> users.addAll(accounts.get(user.name())));
    Map<String, String> defaults = new LinkedHashMap<>();
    Map<Pair, Membership> desired = desired(wanted, accounts, users, defaults);
    Set<Pair> over = desired(ended, accounts, Set.of(), new LinkedHashMap<>()).keySet();
    Map<Pair, IntArrayList> actual = actual();
    desired.forEach(
        (pair, how) -> wanted(pair, how, actual.getOrDefault(pair, new IntArrayList())));
    if (access.rules().has(HouseFact.ROLES_HELD_ONCE)) {
      heldOnce(desired.keySet());
    }
    actual.forEach(
        (pair, edges) -> {
          int edge = edges.getInt(0);
          boolean decided = governed.membership(memberships.member(edge), memberships.role(edge));
          if ((decided || isOver(pair, edges, over)) && !desired.containsKey(pair)) {
            take(pair, edges, held(edges));
          }
        });
    if (setsDefaults) {
      defaultRoles(users, defaults, pair -> desired.containsKey(pair) || over.contains(pair));
    }
  }

  /** Adds the steps that take what was wanted for a time that is over; parameters as above. */
  void end(Wanted wanted, Wanted ended, Map<String, List<String>> accounts) {
    Set<String> users = new LinkedHashSet<>();
    wanted.users().forEach(user -> users.addAll(accounts.get(user.name())));
    Map<String, String> defaults = new LinkedHashMap<>();
    Map<Pair, Membership> desired = desired(wanted, accounts, users, defaults);
    Set<Pair> over = desired(ended, accounts, Set.of(), new LinkedHashMap<>()).keySet();
    Set<String> losing = new LinkedHashSet<>();
    actual()
        .forEach(
            (pair, edges) -> {
              if (isOver(pair, edges, over) && !desired.containsKey(pair)) {
                take(pair, edges, held(edges));
                losing.add(pair.member());
              }
            });
    losing.retainAll(users);
    if (setsDefaults) {
      defaultRoles(losing, defaults, pair -> desired.containsKey(pair) || over.contains(pair));
    }
  }

  /** What is held through another role anyway is not given. */
  private void heldOnce(Set<Pair> desired) {
    HeldThrough after = new HeldThrough();
    desired.forEach(pair -> after.add(pair.member(), pair.role()));
    give.removeIf(
        step ->
            step instanceof GiveRole role
                && role.before() == null
                && after.others(role.member(), role.role()));
  }

  private boolean isOver(Pair pair, IntArrayList edges, Set<Pair> over) {
    return over.contains(pair) && governed.canEnd(memberships.member(edges.getInt(0)));
  }

  /** The memberships of a charter by the server's names, and the roles that are on at login. */
  private Map<Pair, Membership> desired(
      Wanted wanted,
      Map<String, List<String>> accounts,
      Set<String> users,
      Map<String, String> defaults) {
    Map<Pair, Membership> desired = new LinkedHashMap<>();
    for (Wanted.Member member : wanted.memberships()) {
      String role =
          accounts
              .getOrDefault(member.role(), List.of(StoredName.of(member.role(), access.rules())))
              .get(0);
      for (String name : accounts.getOrDefault(member.member(), List.of())) {
        desired.put(new Pair(name, role), member.how());
        if (oneAtATime && users.contains(name) && member.how().inherit()) {
          first(defaults, name, role);
        }
      }
    }
    return desired;
  }

  private void first(Map<String, String> defaults, String name, String role) {
    if (!setsDefaults) {
      notes.add(
          access.rules().kind()
              + " turns no role on at login: all roles of users count after SET ROLE");
      return;
    }
    String first = defaults.putIfAbsent(name, role);
    if (first != null && !first.equals(role)) {
      notes.add(
          access.rules().kind()
              + " turns one role on at login: for "
              + name
              + " that is "
              + first
              + ", the others after SET ROLE");
    }
  }

  /** The memberships that somebody gave, by whom they are about. */
  private Map<Pair, IntArrayList> actual() {
    Map<Pair, IntArrayList> actual = new LinkedHashMap<>();
    for (int member = 0; member < people.size(); member++) {
      for (int edge : memberships.rolesOf().run(member)) {
        if (!memberships.options(edge).implicit()) {
          Pair pair = new Pair(people.name(member), people.name(memberships.role(edge)));
          actual.computeIfAbsent(pair, fresh -> new IntArrayList()).add(edge);
        }
      }
    }
    return actual;
  }

  /** How several memberships of one pair together let the member hold the role. */
  private Membership held(IntArrayList edges) {
    Membership held = null;
    for (int edge : edges) {
      held = held == null ? how(edge) : held.or(how(edge));
    }
    return held;
  }

  /** Elsewhere the options are no matter of a membership, and no statement can set them. */
  private Membership how(int edge) {
    Membership how = memberships.options(edge);
    return each ? how : Membership.of(how.admin(), true, true);
  }

  private void wanted(Pair pair, Membership how, IntArrayList edges) {
    Membership before = held(edges);
    if (before == null) {
      give.add(new GiveRole(pair.role(), pair.member(), how, null, each));
      return;
    }
    // what others gave is theirs: it can be taken, but not made less
    IntArrayList tooMuch = new IntArrayList();
    IntArrayList left = new IntArrayList();
    for (int edge : edges) {
      boolean others =
          each && memberships.grantor(edge) >= 0 && memberships.grantor(edge) != founder;
      (others && how(edge).exceeds(how) ? tooMuch : left).add(edge);
    }
    Membership stays = held(left);
    boolean asWanted = stays != null && sameAs(how, stays);
    take(pair, tooMuch, before);
    if (!asWanted) {
      boolean less = each && (before.admin() && !how.admin() || !tooMuch.isEmpty());
      (less ? take : give).add(new GiveRole(pair.role(), pair.member(), how, before, each));
    }
  }

  private boolean sameAs(Membership how, Membership before) {
    return how.admin() == before.admin()
        && (!each || how.inherit() == before.inherit() && how.set() == before.set());
  }

  private void take(Pair pair, IntArrayList edges, Membership before) {
    for (int edge : edges) {
      int by = memberships.grantor(edge);
      String grantor = each && by >= 0 ? people.name(by) : null;
      take.add(new TakeRole(pair.role(), pair.member(), before, grantor, each));
    }
  }

  /**
   * The roles that are on at login. One that the charter neither names nor decides on stays so.
   *
   * @param named the memberships that the charter speaks of
   */
  private void defaultRoles(
      Set<String> users, Map<String, String> defaults, Predicate<Pair> named) {
    for (String user : users) {
      int id = people.named(user);
      String before = null;
      boolean decided = false;
      for (int edge : id < 0 ? new int[0] : memberships.rolesOf().run(id)) {
        Membership how = memberships.options(edge);
        if (how.inherit() && !how.implicit()) {
          int role = memberships.role(edge);
          before = people.name(role);
          decided = governed.membership(id, role) || named.test(new Pair(user, before));
        }
      }
      String after = defaults.get(user);
      if (after == null ? before != null && decided : !after.equals(before)) {
        give.add(new DefaultRole(user, after, before));
      }
    }
  }
}
