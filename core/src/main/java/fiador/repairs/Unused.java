package fiador.repairs;

import fiador.changes.Seals;
import fiador.changes.steps.Step;
import fiador.changes.wanted.WantedSight.Seal;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.evidence.Evidence;
import fiador.evidence.Evidence.Use;
import fiador.findings.check.Facts;
import fiador.findings.check.Phrase;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.Reach;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import fiador.policies.Sealing;
import it.unimi.dsi.fastutil.ints.Int2IntOpenHashMap;
import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayFIFOQueue;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What can go because nothing that comes over it was used. For each use one way is kept: over what
 * is kept already where that is possible, else the shortest. What is on no kept way was needed by
 * nobody. A set that keeps the least possible would be a Steiner tree, which is hard to find; this
 * one may keep a little more.
 */
final class Unused {
  private final Facts facts;
  private final Grants grants;
  private final Memberships memberships;
  private final Tree tree;
  private final Reach on;
  private final IntOpenHashSet keptEdges = new IntOpenHashSet();
  private final Int2LongOpenHashMap keptRows = new Int2LongOpenHashMap();
  private final IntOpenHashSet usedPrincipals = new IntOpenHashSet();

  /** By user, whose grants it needs. */
  private final Int2ObjectOpenHashMap<IntOpenHashSet> sourcesOf = new Int2ObjectOpenHashMap<>();

  /** By a user's own membership, whose grants came over it. */
  private final Int2ObjectOpenHashMap<IntOpenHashSet> sourcesOver = new Int2ObjectOpenHashMap<>();

  Unused(Facts facts, Needs needs) {
    this.facts = facts;
    this.grants = facts.access.grants();
    this.memberships = facts.access.memberships();
    this.tree = facts.tree;
    this.on = new Reach(facts.access, edge -> memberships.options(edge).inherit());
    for (Use use : needs.uses()) {
      keep(use, needs.isLive(use));
    }
  }

  private void keep(Use use, boolean live) {
    Int2IntOpenHashMap cameOver = new Int2IntOpenHashMap();
    IntArrayList reached = walk(use.user(), live, cameOver);
    IntArrayList rows = sources(use, new IntOpenHashSet(reached));
    for (int principal : reached) {
      if (owns(principal, use.node())) {
        keepWayTo(use.user(), principal, cameOver);
        return;
      }
    }
    boolean oneIsEnough = use.column() != Evidence.ALL;
    int best = -1;
    for (int row : rows) {
      boolean suffices = oneIsEnough || grants.columns(row) == ColumnSets.WHOLE;
      if (suffices && (best < 0 || rank(row, use, reached) < rank(best, use, reached))) {
        best = row;
      }
    }
    if (best >= 0) {
      keepWay(best, use, cameOver);
      return;
    }
    // grants on columns, which only together are the whole
    for (int row : rows) {
      keepWay(row, use, cameOver);
    }
  }

  /** Best is what the user needs anyway, then what somebody needs, then the nearest. */
  private int rank(int row, Use use, IntArrayList reached) {
    int grantee = grants.grantee(row);
    IntOpenHashSet theirs = sourcesOf.get(use.user());
    if (theirs != null && theirs.contains(grantee)) {
      return -2;
    }
    boolean kept = (keptRows.get(row) & use.privilege().bit()) != 0;
    return kept ? -1 : reached.indexOf(grantee);
  }

  private boolean owns(int principal, int node) {
    Ownership ownership = facts.access.rules().ownership();
    int home = ownership == Ownership.SCHEMA ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    boolean owner = ownership != Ownership.NONE && home >= 0 && tree.owner(home) == principal;
    return owner || facts.people.powers(principal) != 0;
  }

  private void keepWay(int row, Use use, Int2IntOpenHashMap cameOver) {
    keptRows.put(row, keptRows.get(row) | use.privilege().bit());
    keepWayTo(use.user(), grants.grantee(row), cameOver);
  }

  private void keepWayTo(int user, int principal, Int2IntOpenHashMap cameOver) {
    usedPrincipals.add(principal);
    sourcesOf.computeIfAbsent(user, none -> new IntOpenHashSet()).add(principal);
    int first = -1;
    for (int at = principal; cameOver.containsKey(at); ) {
      first = cameOver.get(at);
      keepEdge(first);
      at = memberships.member(first);
      usedPrincipals.add(at);
    }
    if (first >= 0) {
      sourcesOver.computeIfAbsent(first, none -> new IntOpenHashSet()).add(principal);
    }
  }

  /** What one statement takes together is kept together. */
  private void keepEdge(int edge) {
    for (int other : memberships.rolesOf().run(memberships.member(edge))) {
      boolean same = memberships.role(other) == memberships.role(edge);
      if (same && memberships.grantor(other) == memberships.grantor(edge)) {
        keptEdges.add(other);
      }
    }
  }

  /** Kept memberships cost nothing, others one: nearest first. */
  private IntArrayList walk(int user, boolean live, Int2IntOpenHashMap cameOver) {
    Int2IntOpenHashMap distance = new Int2IntOpenHashMap();
    distance.defaultReturnValue(Integer.MAX_VALUE);
    IntArrayFIFOQueue open = new IntArrayFIFOQueue();
    distance.put(user, 0);
    distance.put(Principals.PUBLIC, 0);
    open.enqueue(user);
    open.enqueue(Principals.PUBLIC);
    IntArrayList reached = new IntArrayList();
    IntOpenHashSet done = new IntOpenHashSet();
    while (!open.isEmpty()) {
      int at = open.dequeueInt();
      if (!done.add(at)) {
        continue;
      }
      reached.add(at);
      for (int edge : memberships.rolesOf().run(at)) {
        Membership how = memberships.options(edge);
        int role = memberships.role(edge);
        boolean follows = how.inherit() || !live && how.set();
        boolean kept = keptEdges.contains(edge) || how.implicit();
        int far = distance.get(at) + (kept ? 0 : 1);
        if (follows && far < distance.get(role)) {
          distance.put(role, far);
          cameOver.put(role, edge);
          if (kept) {
            open.enqueueFirst(role);
          } else {
            open.enqueue(role);
          }
        }
      }
    }
    return reached;
  }

  /** The grants that give what was used. */
  private IntArrayList sources(Use use, IntOpenHashSet holders) {
    IntArrayList found = new IntArrayList();
    IntOpenHashSet also = new IntOpenHashSet();
    if (facts.access.accounts() != null) {
      also.addAll(IntArrayList.wrap(facts.access.accounts().sameName(use.user())));
      also.addAll(IntArrayList.wrap(facts.access.accounts().nameless(use.user())));
    }
    int kind = tree.kind(use.node()).bit();
    for (int at = use.node(); at >= 0; at = tree.parent(at)) {
      for (int row : grants.byNode().run(at)) {
        boolean about = at == use.node() || (grants.terms(row).covers() & kind) != 0;
        boolean gives = (grants.terms(row).privileges() & use.privilege().bit()) != 0;
        int grantee = grants.grantee(row);
        boolean theirs = holders.contains(grantee) || also.contains(grantee);
        if (about && gives && theirs && onColumn(row, use.column())) {
          found.add(row);
        }
      }
    }
    return found;
  }

  private boolean onColumn(int row, int column) {
    int columns = grants.columns(row);
    return columns == ColumnSets.WHOLE
        || column < 0
        || Arrays.binarySearch(facts.access.columnSets().ordinals(columns), column) >= 0;
  }

  /** What is on no kept way. */
  List<Trim.Cut> cuts() {
    List<Trim.Cut> cuts = new ArrayList<>();
    Risk risk = new Risk(facts);
    int umbrella = facts.umbrella();
    for (int principal = 1; principal < facts.people.size(); principal++) {
      // administrators hold everything by design; who is not ours is no matter of ours
      if (!facts.isOurs(principal) || principal == umbrella || underUmbrella(principal, umbrella)) {
        continue;
      }
      for (int edge : memberships.rolesOf().run(principal)) {
        membership(edge, risk, cuts);
      }
      boolean inUse = facts.people.isUser(principal) || usedPrincipals.contains(principal);
      if (inUse) {
        grants(principal, risk, cuts);
      }
    }
    return cuts;
  }

  private boolean underUmbrella(int principal, int umbrella) {
    return umbrella >= 0
        && facts.people.isUser(principal)
        && facts.reach.holds(principal, umbrella);
  }

  private void membership(int edge, Risk risk, List<Trim.Cut> cuts) {
    int member = memberships.member(edge);
    int role = memberships.role(edge);
    boolean ofUse = facts.people.isUser(member) || usedPrincipals.contains(member);
    if (!ofUse || memberships.options(edge).implicit() || !facts.isOurs(role)) {
      return;
    }
    if (keptEdges.contains(edge)) {
      smaller(edge, risk, cuts);
      return;
    }
    Step step = facts.plainLeave(edge);
    if (step == null) {
      return;
    }
    cuts.add(
        new Trim.Cut(
            Trim.Why.UNUSED,
            member,
            Phrase.of("role ").who(role),
            List.of(step),
            risk.users(member) * risk.ofRole(role)));
  }

  /** What is kept of a grant, and of those that one statement takes together with it. */
  private long keptWith(int row) {
    long kept = 0;
    for (int other : facts.takenWith(row)) {
      kept |= keptRows.get(other);
    }
    return kept;
  }

  /** Whether taking a grant on columns takes nothing that is kept of the whole. */
  private boolean apart(int row) {
    if (grants.columns(row) == ColumnSets.WHOLE
        || facts.access.rules().has(HouseFact.COLUMNS_APART)) {
      return true;
    }
    for (int other : grants.byNode().run(grants.node(row))) {
      boolean same = other != row && grants.grantee(other) == grants.grantee(row);
      if (same && keptRows.get(other) != 0) {
        return false;
      }
    }
    return true;
  }

  /** What a principal was granted and nobody used, together for each thing. */
  private void grants(int grantee, Risk risk, List<Trim.Cut> cuts) {
    Map<List<Integer>, IntArrayList> byThing = new LinkedHashMap<>();
    for (int row : grants.byGrantee().run(grantee)) {
      int node = grants.node(row);
      boolean own = tree.owner(node) == grantee;
      boolean unused = (grants.terms(row).privileges() & ~keptWith(row)) != 0;
      boolean alone = apart(row);
      if (unused && !own && alone && !tree.isSystem(node) && tree.kind(node).isObject()) {
        byThing
            .computeIfAbsent(List.of(node, grants.columns(row)), none -> new IntArrayList())
            .add(row);
      }
    }
    byThing.forEach(
        (thing, rows) -> {
          List<Step> steps = new ArrayList<>();
          long all = 0;
          long sum = 0;
          for (int row : rows) {
            long unused = grants.terms(row).privileges() & ~keptWith(row);
            Step step = facts.plainRevoke(row, unused);
            if (step != null) {
              steps.add(step);
              all |= unused;
              sum += risk.ofGrant(row, unused);
            }
          }
          if (!steps.isEmpty()) {
            Phrase said = Phrase.of("").privileges(all).say(" on ").where(thing.get(0));
            long weight = risk.users(grantee) * sum;
            cuts.add(new Trim.Cut(Trim.Why.UNUSED, grantee, said, steps, weight));
          }
        });
  }

  /** Whether a seal names the one role and not the other, and so would shut the user out. */
  private boolean leavesSeal(int role, int below) {
    Sealing sealing = new Sealing(facts.access, facts.clock);
    for (Seal seal : facts.expected.seals()) {
      IntOpenHashSet open = sealing.openTo(Seals.found(facts.access, seal));
      if (open.contains(role) && !open.contains(below)) {
        return true;
      }
    }
    return false;
  }

  /** A role below the one a user holds that has all of it that the user needs. */
  private void smaller(int edge, Risk risk, List<Trim.Cut> cuts) {
    int user = memberships.member(edge);
    int role = memberships.role(edge);
    Membership how = memberships.options(edge);
    boolean plain = how.inherit() && !how.admin() && !how.implicit();
    if (!facts.people.isUser(user) || !plain) {
      return;
    }
    IntOpenHashSet sources = sourcesOver.get(edge);
    int at = role;
    for (int below : on.up(role)) {
      boolean enough = sources != null && new IntOpenHashSet(on.up(below)).containsAll(sources);
      boolean less = risk.ofRole(below) < risk.ofRole(at);
      boolean fits = facts.isOurs(below) && !facts.people.isUser(below) && !leavesSeal(role, below);
      if (enough && less && fits) {
        at = below;
      }
    }
    Step leave = facts.plainLeave(edge);
    if (at == role || leave == null) {
      return;
    }
    List<Step> steps = new ArrayList<>();
    steps.add(
        facts.taking.giveInstead(
            facts.people.name(at), user, facts.access.memberships().options(edge)));
    steps.add(leave);
    cuts.add(
        new Trim.Cut(
            Trim.Why.TOO_BROAD,
            user,
            Phrase.of("role ").who(role).say(", of which ").who(at).say(" is enough"),
            steps,
            Math.max(0, risk.ofRole(role) - risk.ofRole(at))));
  }
}
