package fiador.climb;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.findings.check.Facts;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

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
   */
  public record Result(
      int user, boolean alreadyAdministrator, Ladder administrator, List<Ladder> ladders) {}

  private final Access access;
  private final HouseRules rules;
  private final Principals people;
  private final Memberships memberships;
  private final Grants grants;
  private final Tree tree;

  /** On that server. */
  public Climb(Access access) {
    this.access = access;
    this.rules = access.rules();
    this.people = access.principals();
    this.memberships = access.memberships();
    this.grants = access.grants();
    this.tree = access.tree();
  }

  /** What one user could come to. */
  public Result of(int user) {
    Map<Integer, Rung> came = new HashMap<>();
    Map<Integer, Integer> depth = new HashMap<>();
    Deque<Integer> open = new ArrayDeque<>();
    Rung top = null;
    depth.put(user, 0);
    depth.put(Principals.PUBLIC, 0);
    open.add(user);
    open.add(Principals.PUBLIC);
    while (!open.isEmpty()) {
      int at = open.poll();
      Means enough = top == null ? administers(at, user) : null;
      if (enough != null) {
        top = new Rung(enough, at, -1);
      }
      for (int edge : memberships.rolesOf().run(at)) {
        int role = memberships.role(edge);
        boolean acts = memberships.options(edge).inherit() || memberships.options(edge).set();
        if (acts && depth.getOrDefault(role, Integer.MAX_VALUE) > depth.get(at)) {
          depth.put(role, depth.get(at));
          came.put(role, new Rung(null, at, role));
          // memberships cost nothing, so what they lead to comes first
          open.addFirst(role);
        }
      }
      for (int role : takes(at)) {
        if (!depth.containsKey(role)) {
          Means means = means(at, role);
          depth.put(role, depth.get(at) + 1);
          came.put(role, new Rung(means, at, role));
          open.addLast(role);
        }
      }
    }
    List<Ladder> ladders = new ArrayList<>();
    new TreeMap<>(depth)
        .forEach(
            (gained, rungs) -> {
              Rung last = came.get(gained);
              if (rungs > 0 && last.means() != null) {
                ladders.add(new Ladder(gained, ladder(last, came)));
              }
            });
    ladders.sort(java.util.Comparator.comparingInt(ladder -> ladder.rungs().size()));
    boolean already = top != null && depth.get(top.by()) == 0 && top.means() == Means.IS_SUPERUSER;
    Ladder administrator = top == null || already ? null : new Ladder(-1, ladder(top, came));
    return new Result(user, already, administrator, ladders);
  }

  private static List<Rung> ladder(Rung last, Map<Integer, Rung> came) {
    List<Rung> rungs = new ArrayList<>();
    for (Rung rung = last; rung != null; rung = came.get(rung.by())) {
      if (rung.means() != null) {
        rungs.add(rung);
      }
    }
    Collections.reverse(rungs);
    return rungs;
  }

  /** By what somebody can do anything at all, or null. */
  private Means administers(int principal, int user) {
    if (people.has(principal, Power.SUPERUSER)) {
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
  private IntArrayList takes(int principal) {
    IntArrayList found = new IntArrayList();
    for (int edge : memberships.rolesOf().run(principal)) {
      boolean mine = memberships.options(edge).admin();
      if (mine && !people.has(memberships.role(edge), Power.SUPERUSER)) {
        found.add(memberships.role(edge));
      }
    }
    boolean manages =
        people.has(principal, Power.MANAGE_ROLES) && rules.has(HouseFact.MANAGERS_TAKE_ANY_ROLE);
    boolean replaces = people.name(principal).equals(rules.waysUp().roleThatTakesAnyPlace());
    for (int id = 1; (manages || replaces) && id < people.size(); id++) {
      if (id != principal && (manages || people.isUser(id)) && !access.isSuperuser(id)) {
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

  /** The users who are not administrators and could make themselves so, each with the ladder. */
  public Map<Integer, Ladder> administrators(Facts facts) {
    Map<Integer, Ladder> found = new TreeMap<>();
    IntOpenHashSet candidates = candidates();
    for (int user = 1; user < people.size(); user++) {
      if (candidates.contains(user) && facts.isUser(user)) {
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
          administers(id, id) != null
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
