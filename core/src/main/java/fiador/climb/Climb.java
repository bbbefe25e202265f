package fiador.climb;

import fiador.effects.Insiders;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntPredicate;

/**
 * What a user could come to hold by its own means: by giving itself roles it may give, by setting
 * others' secrets, by writing where the server keeps its accounts. Nobody else has to do anything
 * for it, and no fault of the server is used.
 *
 * <p>A search with the fewest rungs first over whom the user can act as; memberships cost nothing.
 * Cost: the memberships of all it comes to act as; the number of principals where it can become
 * anybody.
 */
public final class Climb {
  private static final long WRITES =
      PrivilegeSet.of(Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE);

  /** How a rung is climbed. */
  public enum Means {
    /** It may give the role, so it gives it to itself. */
    GIVES_ITSELF,
    /** It manages roles, and here that is enough to take any. */
    MANAGES_ROLES,
    /** It may go on as any user who is no superuser. */
    TAKES_THE_PLACE,
    /** It sets the secret of any account, an administrator's too. */
    SETS_SECRETS,
    /** It makes a routine that acts as an administrator, and calls it. */
    ACTS_IN_HIS_NAME,
    /** It writes the tables in which the server keeps accounts. */
    WRITES_ACCOUNTS,
    /** It reaches the files and programs of the server, which guard nothing against themselves. */
    LEAVES_THE_SERVER,
    /** It is a superuser's, after switching to it. */
    IS_SUPERUSER
  }

  /**
   * A rung.
   *
   * @param means how
   * @param by as whom it is climbed: the user, or a role it can act as by then
   * @param gained the role or user it can act as then; -1 for administrator of all
   */
  public record Rung(Means means, int by, int gained) {}

  /**
   * The shortest ladder to something.
   *
   * @param gained the last rung's
   */
  public record Ladder(int gained, List<Rung> rungs) {}

  /**
   * What a user could come to.
   *
   * @param alreadyAdministrator whether nothing holds the user now
   * @param administrator the shortest ladder to administrator of all; null when there is none
   * @param ladders to roles and users it cannot act as yet, the shortest first
   * @param acts all whom it can act as in the end, each with the rungs that are climbed before
   */
  public record Result(
      int user,
      boolean alreadyAdministrator,
      Ladder administrator,
      List<Ladder> ladders,
      Map<Integer, List<Rung>> acts) {}

  private final Access access;
  private final HouseRules rules;
  private final Principals people;
  private final Memberships memberships;
  private final Grants grants;
  private final Tree tree;
  private final Insiders insiders;

  /** On that server. */
  public Climb(Access access) {
    this.access = access;
    this.rules = access.rules();
    this.people = access.principals();
    this.memberships = access.memberships();
    this.grants = access.grants();
    this.tree = access.tree();
    this.insiders = new Insiders(access);
  }

  /** What one user could come to. */
  public Result of(int user) {
    return new Search(user).result();
  }

  /**
   * One user's search. Somebody is reached in one of two ways: it can be switched to, and then what
   * it holds can be switched to as well; or its rights merely come along with another's, and then
   * only what comes along with them does.
   */
  private final class Search {
    private final int user;
    private final Map<At, Came> came = new HashMap<>();
    private final Map<Integer, At> first = new HashMap<>();
    private final Deque<At> open = new ArrayDeque<>();

    private Search(int user) {
      this.user = user;
      reach(new At(user, true), new Came(null, null, 0));
      reach(new At(Principals.PUBLIC, false), new Came(null, null, 0));
    }

    private void reach(At at, Came how) {
      Came known = came.get(at);
      if (known == null || known.rungs() > how.rungs()) {
        came.put(at, how);
        first.merge(
            at.principal(), at, (old, late) -> came.get(old).rungs() <= how.rungs() ? old : late);
        // memberships cost nothing, so what they lead to comes first
        if (how.rung() == null) {
          open.addFirst(at);
        } else {
          open.addLast(at);
        }
      }
    }

    private Result result() {
      At top = null;
      Means enough = null;
      while (!open.isEmpty()) {
        At at = open.poll();
        if (enough == null) {
          enough = administers(at, user);
          top = at;
        }
        followMemberships(at);
        int rungs = came.get(at).rungs() + 1;
        for (int role : takes(at)) {
          // one whose rights only come along it gives itself again, to switch to it
          if (!came.containsKey(new At(role, true))) {
            Rung rung = new Rung(means(at.principal(), role), at.principal(), role);
            reach(new At(role, true), new Came(rung, at, rungs));
          }
        }
      }
      boolean already = enough == Means.IS_SUPERUSER && came.get(top).rungs() == 0;
      Ladder administrator = null;
      if (enough != null && !already) {
        List<Rung> rungs = rungsTo(top);
        rungs.add(new Rung(enough, top.principal(), -1));
        administrator = new Ladder(-1, rungs);
      }
      Map<Integer, List<Rung>> acts = new TreeMap<>();
      first.forEach((principal, at) -> acts.put(principal, rungsTo(at)));
      return new Result(user, already, administrator, ladders(acts), acts);
    }

    private void followMemberships(At at) {
      for (int edge : memberships.rolesOf().run(at.principal())) {
        Membership how = memberships.options(edge);
        int role = memberships.role(edge);
        int rungs = came.get(at).rungs();
        if (how.set() && at.switchable()) {
          reach(new At(role, true), new Came(null, at, rungs));
        } else if (how.inherit()) {
          reach(new At(role, false), new Came(null, at, rungs));
        }
      }
    }

    private List<Ladder> ladders(Map<Integer, List<Rung>> acts) {
      List<Ladder> ladders = new ArrayList<>();
      acts.forEach(
          (gained, rungs) -> {
            if (came.get(first.get(gained)).rung() != null) {
              ladders.add(new Ladder(gained, rungs));
            }
          });
      ladders.sort(Comparator.comparingInt(ladder -> ladder.rungs().size()));
      return ladders;
    }

    private List<Rung> rungsTo(At last) {
      List<Rung> rungs = new ArrayList<>();
      for (At at = last; at != null; at = came.get(at).from()) {
        if (came.get(at).rung() != null) {
          rungs.add(came.get(at).rung());
        }
      }
      Collections.reverse(rungs);
      return rungs;
    }
  }

  /** Somebody, and whether what they hold can be switched to. */
  private record At(int principal, boolean switchable) {}

  /**
   * How somebody was reached.
   *
   * @param rung the last one; null where a membership leads there
   * @param from from whom; null for where the search began
   */
  private record Came(Rung rung, At from, int rungs) {}

  /** By what somebody can do anything at all, or null. */
  private Means administers(At at, int user) {
    int principal = at.principal();
    boolean itsPowersCount = at.switchable() || rules.has(HouseFact.SUPERUSER_INHERITED);
    if (itsPowersCount && people.has(principal, Power.SUPERUSER)) {
      return Means.IS_SUPERUSER;
    }
    if (rules.waysUp().rolesThatLeaveTheServer().contains(people.name(principal))) {
      return Means.LEAVES_THE_SERVER;
    }
    if (holdsOnServer(principal, rules.waysUp().setsAnySecret())) {
      return Means.SETS_SECRETS;
    }
    if (rules.waysUp().accountsSchema() != null && writesAccounts(principal)) {
      return Means.WRITES_ACCOUNTS;
    }
    boolean inAnyName = holdsOnServer(principal, rules.waysUp().makesInAnyName());
    return inAnyName && makesSomewhere(principal, user) ? Means.ACTS_IN_HIS_NAME : null;
  }

  /** Whether somebody may make routines in any schema. */
  private boolean makesSomewhere(int principal, int user) {
    for (int holder : new int[] {principal, user, Principals.PUBLIC}) {
      for (int row : grants.byGrantee().run(holder)) {
        if ((grants.terms(row).privileges() & Privilege.CREATE_ROUTINE.bit()) != 0) {
          return true;
        }
      }
    }
    return false;
  }

  private boolean holdsOnServer(int principal, long any) {
    if (any == 0) {
      return false;
    }
    for (int row : grants.byGrantee().run(principal)) {
      if (grants.node(row) == 0 && (grants.terms(row).privileges() & any) != 0) {
        return true;
      }
    }
    return false;
  }

  private boolean writesAccounts(int principal) {
    for (int row : grants.byGrantee().run(principal)) {
      int node = grants.node(row);
      int schema = tree.enclosing(node, NodeKind.SCHEMA);
      boolean reaches =
          node == 0 || schema >= 0 && tree.name(schema).equals(rules.waysUp().accountsSchema());
      boolean table = node == 0 || node == schema || isAccountTable(tree.name(node));
      if (reaches && table && (grants.terms(row).privileges() & WRITES) != 0) {
        return true;
      }
    }
    return false;
  }

  private static boolean isAccountTable(String name) {
    return name.equals("global_priv") || name.equals("db") || name.equals("roles_mapping");
  }

  /** The roles and users somebody can take. */
  private IntArrayList takes(At at) {
    int principal = at.principal();
    IntArrayList found = new IntArrayList();
    for (int edge : memberships.rolesOf().run(principal)) {
      boolean mine = memberships.options(edge).admin();
      if (mine && !people.has(memberships.role(edge), Power.SUPERUSER)) {
        found.add(memberships.role(edge));
      }
    }
    // the power to manage roles is its own: it does not come along
    boolean manages =
        at.switchable()
            && people.has(principal, Power.MANAGE_ROLES)
            && rules.has(HouseFact.MANAGERS_TAKE_ANY_ROLE);
    boolean replaces = people.name(principal).equals(rules.waysUp().roleThatTakesAnyPlace());
    for (int id = 1; (manages || replaces) && id < people.size(); id++) {
      if (id != principal
          && (manages || people.isUser(id))
          && !access.isSuperuser(id)
          && !insiders.isBeyond(principal, id)) {
        found.add(id);
      }
    }
    return found;
  }

  private Means means(int principal, int taken) {
    for (int edge : memberships.rolesOf().run(principal)) {
      if (memberships.role(edge) == taken && memberships.options(edge).admin()) {
        return Means.GIVES_ITSELF;
      }
    }
    return people.has(principal, Power.MANAGE_ROLES) ? Means.MANAGES_ROLES : Means.TAKES_THE_PLACE;
  }

  /**
   * The users who are not administrators and could make themselves so, each with the ladder.
   *
   * @param asked who is looked at
   */
  public Map<Integer, Ladder> administrators(IntPredicate asked) {
    Map<Integer, Ladder> found = new TreeMap<>();
    IntOpenHashSet candidates = candidates();
    for (int user = 1; user < people.size(); user++) {
      if (candidates.contains(user) && asked.test(user)) {
        Result result = of(user);
        if (!result.alreadyAdministrator() && result.administrator() != null) {
          found.put(user, result.administrator());
        }
      }
    }
    return found;
  }

  /**
   * All from whom a way may lead to what administers: searched backwards from there, since few
   * things do. Cost: the memberships below those.
   */
  private IntOpenHashSet candidates() {
    IntArrayList open = new IntArrayList();
    for (int id = 1; id < people.size(); id++) {
      boolean last =
          administers(new At(id, true), id) != null
              || holdsOnServer(id, rules.waysUp().makesInAnyName())
              || people.has(id, Power.MANAGE_ROLES) && rules.has(HouseFact.MANAGERS_TAKE_ANY_ROLE)
              || people.name(id).equals(rules.waysUp().roleThatTakesAnyPlace());
      if (last) {
        open.add(id);
      }
    }
    IntOpenHashSet seen = new IntOpenHashSet(open);
    while (!open.isEmpty()) {
      for (int edge : memberships.membersOf().run(open.popInt())) {
        if (seen.add(memberships.member(edge))) {
          open.add(memberships.member(edge));
        }
      }
    }
    return seen;
  }
}
