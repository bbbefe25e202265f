package fiador.effects;

import fiador.effects.Tally.Part;
import fiador.estate.Adjacency;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.AccountName;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntSet;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Who holds something on a node: the same relation as {@link Holdings}, read from the other end.
 * Starts at the grants on the node and walks down to the members; never a loop over all users.
 * Keeps its arrays from one question to the next.
 *
 * <p>Cost: the answer plus the reverse closure of the grantees, and of those of the gates. Where
 * the answer depends on the asker in other ways (views, denials, time limits), the candidates found
 * that way are looked at one by one.
 */
public final class Holders {
  private final Access access;
  private final Tree tree;
  private final Principals principals;
  private final RoleWalk walk;
  private final Gates gates;
  private final Holdings holdings;
  private final Tally sources;
  private final Tally held;
  private final Tally afterSwitch;
  private final Tally shutAfterSwitch;
  private final Ranked ranked;
  private final ThroughGates throughGates;
  private final BehindSwitch behindSwitch;

  /** Parameters as for {@link Holdings}; system nodes are always answered. */
  public Holders(Access access, Clock clock) {
    this.access = access;
    this.tree = access.tree();
    this.principals = access.principals();
    this.walk = new RoleWalk(access, clock.instant().getEpochSecond());
    this.behindSwitch = new BehindSwitch(access, walk);
    this.gates = new Gates(access);
    this.throughGates = new ThroughGates(access, walk);
    this.holdings = new Holdings(access, clock, true);
    this.sources = new Tally(principals.size());
    this.held = new Tally(principals.size());
    this.afterSwitch = new Tally(principals.size());
    this.shutAfterSwitch = new Tally(principals.size());
    this.ranked = new Ranked(principals.size());
  }

  /** All holdings on a node, by user, privilege, and the best state first. */
  public List<Holding> of(int node) {
    return among(null, node);
  }

  /**
   * As the other, of some users alone.
   *
   * @param only the users; null for all
   */
  public List<Holding> among(IntSet only, int node) {
    findSources(node);
    spreadToMembers();
    boolean oneByOne =
        access.rules().has(HouseFact.DENIALS)
            || access.rules().has(HouseFact.ENFORCES_TIME)
            || access.accounts() != null
            || access.rules().activation() == Activation.ONE_AT_A_TIME
            || gates.isSealed(node)
            || tree.kind(node) == NodeKind.VIEW && access.reads().hasAny(node);
    Passing acting = new Passing(gates, tree, throughGates::of, node, false);
    spreadBySwitching(node, acting);
    List<Holding> rows = new ArrayList<>();
    IntArrayList users = candidates(only);
    if (oneByOne) {
      for (int i = 0; i < users.size(); i++) {
        rows.addAll(holdings.at(users.getInt(i), node));
      }
      return rows;
    }
    ranked.clear();
    Passing login = new Passing(gates, tree, throughGates::of, node, true);
    for (int i = 0; i < users.size(); i++) {
      sortIntoStates(users.getInt(i), node, login, acting);
    }
    ranked.emitAll(
        true,
        (user, privilege, state, grantable, columns) ->
            rows.add(
                new Holding(user, Privilege.lowest(privilege), node, state, grantable, columns)));
    return rows;
  }

  private void findSources(int node) {
    sources.clear();
    long everything = access.rules().privilegesOn(tree.kind(node));
    for (int at = node; at >= 0; at = tree.parent(at)) {
      addRows(node, at, everything);
    }
    boolean bySchema = access.rules().ownership() == Ownership.SCHEMA;
    int home = bySchema ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    if (home >= 0 && tree.owner(home) >= 0 && access.rules().ownership() != Ownership.NONE) {
      boolean grants = access.ownersGrant(tree.owner(home));
      sources.add(tree.owner(home), everything & ~tree.withheld(node), grants ? everything : 0);
    }
    addPowers(sources, tree.kind(node), everything);
  }

  private void addRows(int node, int at, long everything) {
    Grants grants = access.grants();
    int wantedKind = at == node ? 0 : tree.kind(node).bit();
    long mask = at == node ? PrivilegeSet.EVERY : everything;
    Adjacency rows = grants.byNode();
    for (int place = rows.from(at); place < rows.to(at); place++) {
      int row = rows.row(place);
      Terms terms = grants.terms(row);
      if ((terms.covers() & wantedKind) != wantedKind) {
        continue;
      }
      if (grants.columns(row) == ColumnSets.WHOLE) {
        sources.add(grants.grantee(row), terms.privileges() & mask, terms.grantable() & mask);
      } else if (at == node) {
        BitSet columns = new BitSet();
        for (int ordinal : access.columnSets().ordinals(grants.columns(row))) {
          columns.set(ordinal);
        }
        sources.addPart(
            grants.grantee(row), new Part(terms.privileges(), terms.grantable(), columns));
      }
    }
  }

  private void addPowers(Tally into, NodeKind kind, long everything) {
    for (int i = 0; i < principals.powerful().size(); i++) {
      int principal = principals.powerful().getInt(i);
      for (Power power : Power.values()) {
        if (!principals.has(principal, power)) {
          continue;
        }
        if (power == Power.SUPERUSER && access.rules().has(HouseFact.SUPERUSER_INHERITED)) {
          into.add(principal, everything, everything);
        } else if (access.rules().opened(power, kind) != 0) {
          long opened = access.rules().opened(power, kind);
          boolean grantOn = access.rules().has(HouseFact.POWERS_GRANT_ON);
          into.add(principal, opened, grantOn ? opened : 0);
        }
      }
    }
  }

  /** What several were given alike is spread to their members in one walk. */
  private void spreadToMembers() {
    held.clear();
    Map<Given, IntArrayList> alike = new HashMap<>();
    boolean inTime = access.rules().has(HouseFact.ENFORCES_TIME);
    for (int i = 0; i < sources.touched().size(); i++) {
      int source = sources.touched().getInt(i);
      if (inTime) {
        spread(source, walk.downIgnoringTime(source));
      } else if (!sources.parts(source).isEmpty()) {
        spread(source, walk.down(IntArrayList.of(source), RoleWalk.Along.INHERIT));
      } else {
        Given given = new Given(sources.whole(source), sources.grantable(source));
        alike.computeIfAbsent(given, fresh -> new IntArrayList()).add(source);
      }
    }
    alike.forEach((given, from) -> spread(from.getInt(0), walk.down(from, RoleWalk.Along.INHERIT)));
  }

  private record Given(long privileges, long grantable) {}

  private void spread(int source, IntArrayList members) {
    long privileges = sources.whole(source);
    long grantable = sources.grantable(source);
    List<Part> parts = sources.parts(source);
    for (int m = 0; m < members.size(); m++) {
      int member = members.getInt(m);
      held.add(member, privileges, grantable);
      for (Part part : parts) {
        held.addPart(member, part);
      }
    }
  }

  /**
   * What a principal has when it acts alone: its own, everybody's, and all if it is a superuser.
   */
  private long heldBy(int principal, int node) {
    if (isOwnSuperuser(principal)) {
      return access.rules().privilegesOn(tree.kind(node));
    }
    long all = held.whole(principal) | held.whole(Principals.PUBLIC);
    return tree.is(node, NodeFact.GUARDED) ? all & ~access.rules().guarded() : all;
  }

  private long grantableBy(int principal, int node) {
    return isOwnSuperuser(principal)
        ? access.rules().privilegesOn(tree.kind(node))
        : held.grantable(principal) | held.grantable(Principals.PUBLIC);
  }

  private boolean isOwnSuperuser(int principal) {
    return principals.has(principal, Power.SUPERUSER);
  }

  private List<Part> partsOf(int principal) {
    if (held.parts(Principals.PUBLIC).isEmpty()) {
      return held.parts(principal);
    }
    List<Part> parts = new ArrayList<>(held.parts(principal));
    parts.addAll(held.parts(Principals.PUBLIC));
    return parts;
  }

  private List<Part> ownParts(int user, int node) {
    List<Part> parts = partsOf(user);
    if (parts.isEmpty()) {
      return parts;
    }
    long grantable = grantableBy(user, node);
    return parts.stream().map(part -> part.grantingAlso(grantable)).toList();
  }

  private record Share(long privileges, long grantable, List<Part> parts, boolean open) {}

  /** Members who can switch to a role that has something get it on request. */
  private void spreadBySwitching(int node, Passing acting) {
    afterSwitch.clear();
    shutAfterSwitch.clear();
    Map<Share, IntArrayList> roles = new HashMap<>();
    boolean everybody = held.whole(Principals.PUBLIC) != 0 || !partsOf(Principals.PUBLIC).isEmpty();
    BitSet worthwhile = everybody ? behindSwitch.all() : behindSwitch.among(held.touched());
    for (int role = worthwhile.nextSetBit(0); role >= 0; role = worthwhile.nextSetBit(role + 1)) {
      if (everybody || isOwnSuperuser(role) || isTouched(role)) {
        boolean open = isOwnSuperuser(role) || acting.lets(role);
        Share share = new Share(heldBy(role, node), grantableBy(role, node), partsOf(role), open);
        roles.computeIfAbsent(share, fresh -> new IntArrayList()).add(role);
      }
    }
    roles.forEach(
        (share, from) -> {
          IntArrayList members = walk.down(from, RoleWalk.Along.SET);
          Tally into = share.open() ? afterSwitch : shutAfterSwitch;
          for (int i = 0; i < members.size(); i++) {
            into.add(members.getInt(i), share.privileges(), share.grantable() & share.privileges());
            for (Part part : share.parts()) {
              into.addPart(members.getInt(i), part.grantingAlso(share.grantable()));
            }
          }
        });
  }

  private boolean isTouched(int principal) {
    return held.whole(principal) != 0 || !held.parts(principal).isEmpty();
  }

  private IntArrayList candidates(IntSet only) {
    BitSet found = new BitSet(principals.size());
    boolean everybody = false;
    for (Tally tally : List.of(held, afterSwitch, shutAfterSwitch)) {
      everybody |= tally.whole(Principals.PUBLIC) != 0 || !tally.parts(Principals.PUBLIC).isEmpty();
    }
    if (everybody) {
      found.set(1, principals.size());
    }
    for (Tally tally : List.of(held, afterSwitch, shutAfterSwitch)) {
      for (int i = 0; i < tally.touched().size(); i++) {
        found.set(tally.touched().getInt(i));
      }
    }
    if (access.accounts() != null) {
      addOtherAccounts(found);
    }
    for (int i = 0; i < principals.powerful().size(); i++) {
      if (isOwnSuperuser(principals.powerful().getInt(i))) {
        found.set(principals.powerful().getInt(i));
      }
    }
    IntArrayList users = new IntArrayList();
    for (int id = found.nextSetBit(0); id >= 0; id = found.nextSetBit(id + 1)) {
      if (principals.isUser(id) && (only == null || only.contains(id))) {
        users.add(id);
      }
    }
    return users;
  }

  /** What was given to one account may count for others of its name. */
  private void addOtherAccounts(BitSet found) {
    for (int id : found.stream().toArray()) {
      if (principals.isUser(id) && AccountName.of(principals.name(id)).isAnonymous()) {
        found.set(1, principals.size());
      }
      for (int other : access.accounts().countingFor(id)) {
        found.set(other);
      }
    }
  }

  private void sortIntoStates(int user, int node, Passing login, Passing acting) {
    boolean superuser = isOwnSuperuser(user);
    long everything = PrivilegeSet.EVERY;
    long shutAtLogin = superuser && !login.isClosed() ? 0 : login.shut(user, everything);
    boolean open = superuser || acting.lets(user);
    add(
        user,
        heldBy(user, node),
        grantableBy(user, node),
        ownParts(user, node),
        open ? State.LIVE : State.BLOCKED,
        shutAtLogin);
    if (!superuser) {
      add(
          user,
          afterSwitch.whole(user),
          afterSwitch.grantable(user),
          afterSwitch.parts(user),
          State.ON_REQUEST,
          shutAtLogin);
      add(
          user,
          shutAfterSwitch.whole(user),
          shutAfterSwitch.grantable(user),
          shutAfterSwitch.parts(user),
          State.BLOCKED,
          shutAtLogin);
    }
  }

  private void add(
      int user, long privileges, long grantable, List<Part> parts, State state, long shut) {
    if ((privileges & ~shut) != 0) {
      ranked.at(state).add(user, privileges & ~shut, grantable & privileges & ~shut);
    }
    if ((privileges & shut) != 0) {
      ranked.at(State.BLOCKED).add(user, privileges & shut, grantable & privileges & shut);
    }
    for (Part part : parts) {
      boolean isShut = (part.privileges() & shut) != 0;
      ranked.at(isShut ? State.BLOCKED : state).addPart(user, part);
    }
  }
}
