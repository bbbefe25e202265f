package fiador.findings.check;

import fiador.across.Atlas;
import fiador.changes.planning.Taking;
import fiador.changes.steps.Step;
import fiador.effects.Stops;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.evidence.Evidence;
import fiador.evidence.Identities;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Reach;
import fiador.policies.Bypass;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.time.Clock;
import java.time.Instant;
import java.util.BitSet;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;

/** All that checks look at, and what several of them work out. */
public final class Facts {
  public final Access access;
  public final Tree tree;
  public final Principals people;
  public final Clock clock;
  public final Instant now;
  public final Expected expected;
  public final Limits limits;
  public final Evidence evidence;
  public final Identities identities;

  /** Whose accounts are whose on several servers: of the list of people, and of the charter. */
  public final Identities owners;

  /** Other servers. */
  public final Atlas atlas;

  /** Over all memberships, whatever their options. */
  public final Reach reach;

  public final Taking taking;

  /** For asking again and again what the same one holds. */
  public final Stamps stamps;

  private final int serverOwner;
  private List<Bypass.Way> ways;
  private Stops stops;
  private BitSet heldByUsers;
  private final Int2ObjectOpenHashMap<IntArrayList> usersOf = new Int2ObjectOpenHashMap<>();
  private final Int2ObjectOpenHashMap<int[]> upOf = new Int2ObjectOpenHashMap<>();
  private final Map<Integer, Integer> safeViews = new HashMap<>();
  private final Map<String, Integer> byName = new HashMap<>();

  public Facts(
      Access access, Clock clock, Expected expected, Evidence evidence, Identities identities) {
    this(access, clock, expected, evidence, identities, new Atlas(List.of()));
  }

  /** With the other servers on which the same people may have accounts. */
  public Facts(
      Access access,
      Clock clock,
      Expected expected,
      Evidence evidence,
      Identities identities,
      Atlas atlas) {
    this.atlas = atlas;
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.clock = clock;
    this.now = clock.instant();
    this.expected = expected;
    this.limits = expected.limits();
    this.evidence = evidence;
    this.identities = identities;
    this.owners = (identities == null ? Identities.NOBODY : identities).joined(expected.accounts());
    this.reach = new Reach(access);
    this.taking = new Taking(access);
    this.stamps = new Stamps(people.size(), this::upOf);
    access
        .sights()
        .kept()
        .forEach(
            (node, kept) -> {
              if (node != kept.table()) {
                safeViews.put(kept.table(), node);
              }
            });
    this.serverOwner = access.founder();
    for (int id = 1; id < people.size(); id++) {
      byName.put(people.name(id), id);
    }
  }

  /** The role that holds all others by design, or -1. */
  public int umbrella() {
    return expected.umbrella() == null ? -1 : named(expected.umbrella());
  }

  /** The name a charter would give a principal: without a host. */
  public String bare(int principal) {
    return access.bareName(principal);
  }

  /** What a principal was granted outside the server's own schemas, and that passes the test. */
  public IntArrayList rowsOf(int grantee, IntPredicate test) {
    IntArrayList found = new IntArrayList();
    for (int row : access.grants().byGrantee().run(grantee)) {
      if (!tree.isSystem(access.grants().node(row)) && test.test(row)) {
        found.add(row);
      }
    }
    return found;
  }

  /** {@code select on s.t and 3 more}: the first of some grants, and how many there are. */
  public Phrase firstOf(Phrase said, IntArrayList rows, long privileges) {
    said.privileges(privileges).say(" on ").where(access.grants().node(rows.getInt(0)));
    return said.say(rows.size() > 1 ? " and " + (rows.size() - 1) + " more" : "");
  }

  private boolean share(int columns, int others) {
    if (columns == ColumnSets.WHOLE || others == ColumnSets.WHOLE) {
      return columns == others;
    }
    IntOpenHashSet set = new IntOpenHashSet(access.columnSets().ordinals(columns));
    return IntStream.of(access.columnSets().ordinals(others)).anyMatch(set::contains);
  }

  /** A grant and those that the statement that takes it takes too. */
  public IntArrayList takenWith(int row) {
    Grants grants = access.grants();
    IntArrayList found = new IntArrayList();
    for (int other : grants.byNode().run(grants.node(row))) {
      boolean same =
          grants.grantee(other) == grants.grantee(row)
              && share(grants.columns(other), grants.columns(row))
              && grants.grantor(other) == grants.grantor(row);
      if (same) {
        found.add(other);
      }
    }
    return found;
  }

  /** Takes a grant away; null where something rests on it, so that others would lose too. */
  public Step plainRevoke(int row, long privileges) {
    return taking.restingOn(row, privileges).isEmpty() ? taking.revoke(row, privileges) : null;
  }

  /** Takes a role from a member; null as for grants. */
  public Step plainLeave(int edge) {
    return taking.membershipsRestingOn(edge).isEmpty() ? taking.leave(edge) : null;
  }

  /** Whether it is a matter of the administrator: not the server's own, and not PUBLIC. */
  public boolean isOurs(int principal) {
    return principal != Principals.PUBLIC
        && principal != serverOwner
        && !access.rules().isOwn(bare(principal))
        && !expected.ours().contains(people.name(principal))
        && !expected.ours().contains(bare(principal));
  }

  public boolean isUser(int principal) {
    return people.isUser(principal) && isOurs(principal);
  }

  public boolean isRole(int principal) {
    return principal != Principals.PUBLIC && !people.isUser(principal) && isOurs(principal);
  }

  /** What the charter says of principals, by their ids, however the server writes their names. */
  public <T> Map<Integer, T> byId(Map<String, T> byCharterName) {
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
  public int named(String charterName) {
    int exact = byName.getOrDefault(charterName, None.PRINCIPAL);
    return exact >= 0
        ? exact
        : byName.getOrDefault(access.rules().fold(charterName), None.PRINCIPAL);
  }

  /**
   * The users among those who hold a role, in order; for a user also itself. Not to be written to.
   */
  public IntArrayList usersOf(int principal) {
    IntArrayList known = usersOf.get(principal);
    if (known == null) {
      known = users(reach.below(principal));
      usersOf.put(principal, known);
    }
    return known;
  }

  /** Whether a user holds it; a user holds itself. Cost: once the memberships. */
  public boolean isHeldByUsers(int principal) {
    if (heldByUsers == null) {
      BitSet held = new BitSet();
      IntArrayList open = new IntArrayList();
      for (int id = 0; id < people.size(); id++) {
        if (isUser(id)) {
          held.set(id);
          open.add(id);
        }
      }
      while (!open.isEmpty()) {
        for (int edge : access.memberships().rolesOf().run(open.popInt())) {
          int role = access.memberships().role(edge);
          if (!held.get(role)) {
            held.set(role);
            open.add(role);
          }
        }
      }
      heldByUsers = held;
    }
    return heldByUsers.get(principal);
  }

  /** All that a principal holds, itself first; not to be written to. */
  public int[] upOf(int principal) {
    int[] known = upOf.get(principal);
    if (known == null) {
      known = reach.up(principal).toIntArray();
      upOf.put(principal, known);
    }
    return known;
  }

  /** The users among some principals, in order. */
  public IntArrayList users(Collection<Integer> principals) {
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
  public int safeViewOf(int table) {
    return safeViews.getOrDefault(table, None.NODE);
  }

  /** From whom denials take what they were given. */
  public Stops stops() {
    if (stops == null) {
      stops = new Stops(access, clock);
    }
    return stops;
  }

  /** All ways round policies. */
  public List<Bypass.Way> bypass() {
    if (ways == null) {
      ways = new Bypass(access, clock).ways();
    }
    return ways;
  }

  /** The users of a way round policies who could be hindered. */
  public IntArrayList stoppable(Bypass.Way way) {
    IntArrayList users = users(way.users());
    users.removeAll(way.powerful());
    return users;
  }
}
