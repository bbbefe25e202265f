package fiador.repairs;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.Reach;
import fiador.grants.Terms;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntCollection;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntToLongFunction;
import java.util.function.IntUnaryOperator;

/**
 * Every way a privilege comes to a user, as a graph: from the user over memberships to roles, from
 * those over what gives the privilege to the sink. An arc weighs what is lost with it at most: each
 * thing that comes over it, ten times for each other user below it. What no revocation takes away,
 * powers and ownership, weighs {@link MinimumCut#NEVER}.
 */
final class SeverGraph {
  /** A grant's row or a membership's edge to take away. */
  record Removal(boolean isGrant, int id) {}

  private final Access access;
  private final Tree tree;
  private final Principals people;
  private final Memberships memberships;
  private final Grants grants;
  private final long privilege;
  private final int node;
  private final int column;
  private final MinimumCut graph = new MinimumCut();
  private final Int2IntOpenHashMap placeOf = new Int2IntOpenHashMap();
  private final List<Removal> removals = new ArrayList<>();
  private final List<Sever.Firm> firm = new ArrayList<>();
  private final Reach reach;
  private final ChainSums carried;
  private final ChainSums usersBelow;

  /** How many of the user's own holdings one holding of somebody else is worth. */
  static final int OTHERS = 10;

  private static final int USER = 0;
  private static final int SINK = 1;

  SeverGraph(Access access, int user, Privilege privilege, int node, int column) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.memberships = access.memberships();
    this.grants = access.grants();
    this.privilege = privilege.bit();
    this.node = node;
    this.column = column;
    this.reach = new Reach(access, edge -> acts(memberships.options(edge)));
    this.carried =
        new ChainSums(
            member -> only(memberships.rolesOf().run(member), memberships::role),
            this::own,
            role -> sum(reach.up(role), this::own));
    this.usersBelow =
        new ChainSums(
            role -> only(memberships.membersOf().run(role), memberships::member),
            this::user,
            role -> sum(reach.allBelow(role), this::user));
    placeOf.defaultReturnValue(-1);
    IntArrayList all = reach.up(user);
    IntArrayList withEverybody = new IntArrayList(all);
    withEverybody.addAll(reach.up(Principals.PUBLIC));
    all = new IntArrayList(withEverybody.intStream().distinct().toArray());
    for (int i = 0; i < all.size(); i++) {
      placeOf.put(all.getInt(i), i == 0 ? USER : i + 1);
    }
    for (int principal : all) {
      for (int edge : memberships.rolesOf().run(principal)) {
        if (acts(memberships.options(edge))) {
          membership(edge);
        }
      }
    }
    arc(USER, placeOf.get(Principals.PUBLIC), MinimumCut.NEVER, null);
    sources(user);
    firmSources(all);
  }

  private static boolean acts(Membership how) {
    return how.inherit() || how.set();
  }

  private void arc(int from, int to, long weight, Removal removal) {
    if (from != to) {
      graph.arc(from, to, weight);
      removals.add(removal);
    }
  }

  private void membership(int edge) {
    int member = memberships.member(edge);
    int role = memberships.role(edge);
    int original = edge;
    if (memberships.options(edge).implicit()) {
      // it comes with what another account of the name was given
      original = edgeOf(memberships.grantor(edge), role);
    }
    boolean given = original >= 0;
    long weight = given ? weight(member, carried(role)) : MinimumCut.NEVER;
    Removal removal = given ? new Removal(false, original) : null;
    arc(placeOf.get(member), placeOf.get(role), weight, removal);
  }

  /** What others lose counts more than what the user loses besides. */
  private long weight(int through, long things) {
    return Math.max(1, OTHERS * (users(through) - 1) * things + things - 1);
  }

  private int edgeOf(int member, int role) {
    if (member >= 0) {
      for (int edge : memberships.rolesOf().run(member)) {
        if (memberships.role(edge) == role && !memberships.options(edge).implicit()) {
          return edge;
        }
      }
    }
    return -1;
  }

  private long users(int principal) {
    return principal == Principals.PUBLIC ? people.size() : usersBelow.of(principal);
  }

  private long user(int principal) {
    return people.isUser(principal) ? 1 : 0;
  }

  /** Where the only edge that counts leads, if it is the only one. */
  private int only(int[] edges, IntUnaryOperator leads) {
    int found = ChainSums.NO_SINGLE;
    for (int edge : edges) {
      if (acts(memberships.options(edge))) {
        if (found != ChainSums.NO_SINGLE) {
          return ChainSums.NO_SINGLE;
        }
        found = leads.applyAsInt(edge);
      }
    }
    return found;
  }

  private static long sum(IntCollection principals, IntToLongFunction of) {
    return principals.intStream().mapToLong(of).sum();
  }

  /** How much comes with a role: each privilege on each thing. */
  private long carried(int role) {
    return carried.of(role);
  }

  private long own(int role) {
    long count = (long) tree.owned().to(role) - tree.owned().from(role);
    var rows = grants.byGrantee();
    for (int place = rows.from(role); place < rows.to(role); place++) {
      int row = rows.row(place);
      count += Long.bitCount(grants.terms(row).privileges()) * reached(row);
    }
    return count;
  }

  /** On how many things a grant is. */
  private long reached(int row) {
    int covers = grants.terms(row).covers();
    if (covers == 0) {
      return 1;
    }
    long count = 1;
    IntArrayList open = IntArrayList.of(grants.node(row));
    while (!open.isEmpty()) {
      int at = open.popInt();
      for (int place = tree.children().from(at); place < tree.children().to(at); place++) {
        int child = tree.children().row(place);
        count += (covers & tree.kind(child).bit()) != 0 ? 1 : 0;
        if (!tree.kind(child).isObject()) {
          open.add(child);
        }
      }
    }
    return count;
  }

  private void sources(int user) {
    IntOpenHashSet alsoHis = new IntOpenHashSet();
    if (access.accounts() != null) {
      alsoHis.addAll(IntArrayList.wrap(access.accounts().sameName(user)));
      alsoHis.addAll(IntArrayList.wrap(access.accounts().nameless(user)));
    }
    int kind = tree.kind(node).bit();
    for (int at = node; at >= 0; at = tree.parent(at)) {
      for (int row : grants.byNode().run(at)) {
        Terms terms = grants.terms(row);
        int grantee = grants.grantee(row);
        int place = alsoHis.contains(grantee) ? USER : placeOf.get(grantee);
        boolean about = at == node || (terms.covers() & kind) != 0;
        if (place >= 0 && about && (terms.privileges() & privilege) != 0 && onColumn(row)) {
          arc(place, SINK, weight(grantee, reached(row)), new Removal(true, row));
        }
      }
    }
  }

  private boolean onColumn(int row) {
    int columns = grants.columns(row);
    return columns == ColumnSets.WHOLE
        || column < 0
        || Arrays.binarySearch(access.columnSets().ordinals(columns), column) >= 0;
  }

  private void firmSources(IntArrayList all) {
    boolean exists = (access.rules().privilegesOn(tree.kind(node)) & privilege) != 0;
    boolean bySchema = access.rules().ownership() == Ownership.SCHEMA;
    int home = bySchema ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    boolean owned = home >= 0 && access.rules().ownership() != Ownership.NONE;
    int owner = owned ? tree.owner(home) : None.PRINCIPAL;
    for (int principal : all) {
      if (exists && principal == owner && (tree.withheld(node) & privilege) == 0) {
        firm(principal, new Sever.Firm(principal, null, home));
      }
      for (Power power : Power.values()) {
        boolean opens =
            (access.notByPower(node) & privilege) == 0
                && (power == Power.SUPERUSER
                    ? exists
                    : (access.rules().opened(power, tree.kind(node)) & privilege) != 0);
        if (opens && people.has(principal, power)) {
          firm(principal, new Sever.Firm(principal, power, None.NODE));
        }
      }
    }
  }

  /** It stays for whoever holds the role; but the membership in the role can go. */
  private void firm(int principal, Sever.Firm source) {
    firm.add(source);
    arc(placeOf.get(principal), SINK, MinimumCut.NEVER, null);
  }

  /** What gives the privilege and cannot be revoked. */
  List<Sever.Firm> firm() {
    return firm;
  }

  private record Weight(int arc, long weight) {}

  /**
   * The lightest removals.
   *
   * @param kept what has to stay
   * @return null when there are none that suffice
   */
  List<Removal> cut(List<Removal> kept) {
    List<Weight> before = new ArrayList<>();
    for (int arc = 0; arc < removals.size(); arc++) {
      if (removals.get(arc) != null && kept.contains(removals.get(arc))) {
        before.add(new Weight(arc, graph.reweigh(arc, MinimumCut.NEVER)));
      }
    }
    MinimumCut.Cut cut = graph.between(USER, SINK);
    before.forEach(was -> graph.reweigh(was.arc(), was.weight()));
    if (!cut.isPossible()) {
      return null;
    }
    List<Removal> found = new ArrayList<>();
    cut.arcs().forEach((int arc) -> found.add(removals.get(arc)));
    return found.stream().distinct().toList();
  }
}
