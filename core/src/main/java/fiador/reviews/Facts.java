package fiador.reviews;

import fiador.changes.Taking;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.AccountName;
import fiador.grants.HouseRules.Accounts;
import fiador.grants.Reach;
import fiador.policies.Bypass;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** All that checks look at, and what several of them work out. */
final class Facts {
  final Access access;
  final Tree tree;
  final Principals people;
  final Clock clock;
  final Instant now;
  final Expected expected;
  final Limits limits;
  final Evidence evidence;
  final Identities identities;

  /** Over all memberships, whatever their options. */
  final Reach reach;

  final Taking taking;
  private List<Bypass.Way> ways;
  private final Map<Integer, Integer> safeViews = new HashMap<>();
  private final Map<String, Integer> byName = new HashMap<>();

  Facts(Access access, Clock clock, Expected expected, Evidence evidence, Identities identities) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.clock = clock;
    this.now = clock.instant();
    this.expected = expected;
    this.limits = expected.limits();
    this.evidence = evidence;
    this.identities = identities;
    this.reach = new Reach(access);
    this.taking = new Taking(access);
    access
        .sights()
        .kept()
        .forEach(
            (node, kept) -> {
              if (node != kept.table()) {
                safeViews.put(kept.table(), node);
              }
            });
    for (int id = 1; id < people.size(); id++) {
      byName.put(people.name(id), id);
    }
  }

  /** The role that holds all others by design, or -1. */
  int umbrella() {
    return expected.umbrella() == null ? -1 : named(expected.umbrella());
  }

  /** The name a charter would give a principal: without a host. */
  String bare(int principal) {
    boolean byHost = access.rules().accounts() == Accounts.BY_HOST && people.isUser(principal);
    return byHost ? AccountName.of(people.name(principal)).user() : people.name(principal);
  }

  /** Whether it is a matter of the administrator: not the server's own, and not PUBLIC. */
  boolean isOurs(int principal) {
    return principal != Principals.PUBLIC
        && !access.rules().isOwn(bare(principal))
        && !expected.ours().contains(people.name(principal))
        && !expected.ours().contains(bare(principal));
  }

  boolean isUser(int principal) {
    return people.isUser(principal) && isOurs(principal);
  }

  boolean isRole(int principal) {
    return principal != Principals.PUBLIC && !people.isUser(principal) && isOurs(principal);
  }

  /** What the charter says of principals, by their ids, however the server writes their names. */
  <T> Map<Integer, T> byId(Map<String, T> byCharterName) {
    Map<String, T> stored = new HashMap<>();
    byCharterName.forEach((name, value) -> stored.put(access.rules().fold(name), value));
    stored.putAll(byCharterName);
    Map<Integer, T> found = new TreeMap<>();
    for (int id = 1; id < people.size() && !stored.isEmpty(); id++) {
      T value = stored.get(bare(id));
      if (value != null && isOurs(id)) {
        found.put(id, value);
      }
    }
    return found;
  }

  /** The principal that the charter calls so, or -1. */
  int named(String charterName) {
    int exact = byName.getOrDefault(charterName, -1);
    return exact >= 0 ? exact : byName.getOrDefault(access.rules().fold(charterName), -1);
  }

  /** The users among those who hold a role, in order; for a user itself alone. */
  IntArrayList usersOf(int principal) {
    return users(reach.below(principal));
  }

  /** The users among some principals, in order. */
  IntArrayList users(Collection<Integer> principals) {
    IntOpenHashSet found = new IntOpenHashSet();
    for (int id : principals) {
      if (isUser(id)) {
        found.add(id);
      }
    }
    IntArrayList sorted = new IntArrayList(found);
    sorted.sort(null);
    return sorted;
  }

  /** The view that shows a table safely, so that the table itself is closed on purpose; or -1. */
  int safeViewOf(int table) {
    return safeViews.getOrDefault(table, -1);
  }

  /** All ways round policies. */
  List<Bypass.Way> bypass() {
    if (ways == null) {
      ways = new Bypass(access, clock).ways();
    }
    return ways;
  }

  /** The users of a way round policies who could be hindered. */
  IntArrayList stoppable(Bypass.Way way) {
    IntArrayList users = users(way.users());
    users.removeAll(way.powerful());
    return users;
  }

  /** Says where a way round policies leads through. */
  void through(Bypass.Way way, Phrase said) {
    List<Integer> views = way.path().subList(0, way.path().size() - 1);
    said.say(views.isEmpty() ? "directly" : "through ");
    for (int i = 0; i < views.size(); i++) {
      said.say(i == 0 ? "" : " > ").kindAndWhere(views.get(i));
    }
  }
}
