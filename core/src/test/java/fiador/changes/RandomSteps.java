package fiador.changes;

import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.Deny;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Places;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeRole;
import fiador.changes.wanted.StoredName;
import fiador.effects.Owned;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.AccountName;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;

/** Random changes of an estate that a server can carry out. */
public final class RandomSteps {
  private final Access access;
  private final Tree tree;
  private final Random random;
  private final Set<Step> steps = new LinkedHashSet<>();
  private final List<Step> owners = new ArrayList<>();
  private final Set<List<Object>> touched = new LinkedHashSet<>();
  private final Set<List<Integer>> denied = new HashSet<>();
  private final Int2ObjectOpenHashMap<IntList> given = new Int2ObjectOpenHashMap<>();
  private final IntArrayList people = new IntArrayList();
  private final IntArrayList roles = new IntArrayList();
  private final IntArrayList nodes = new IntArrayList();

  private RandomSteps(Access access, Random random) {
    this.access = access;
    this.tree = access.tree();
    this.random = random;
    for (int id = 1; id < access.principals().size(); id++) {
      String name = access.principals().name(id);
      boolean own =
          name.startsWith("pg_")
              || name.startsWith("mariadb.sys")
              || name.startsWith("root")
              || access.principals().has(id, Power.SUPERUSER)
              || access.principals().scope(id) >= 0
              || AccountName.of(name).user().isEmpty()
              || Set.of(
                      "SA", "DBA", "_SYSTEM", "SCRIPT_OPS", "CREATE_SCHEMA", "CHANGE_AUTHORIZATION")
                  .contains(name)
              || Set.of("postgres", "sink").contains(name);
      if (!own) {
        people.add(id);
        if (access.principals().kind(id) == PrincipalKind.ROLE && !name.startsWith("DB")) {
          roles.add(id);
        }
      }
    }
    for (int node = 1; node < tree.size(); node++) {
      boolean inside = tree.enclosing(node, NodeKind.SCHEMA) >= 0;
      if (!tree.isSystem(node) && inside && access.rules().privilegesOn(tree.kind(node)) != 0) {
        nodes.add(node);
      }
    }
  }

  /** Some {@code count} changes; each speaks about another grant or membership. */
  public static List<Step> of(Access access, Random random, int count) {
    RandomSteps made = new RandomSteps(access, random);
    for (int i = 0; i < count; i++) {
      switch (random.nextInt(made.ownersChange() ? 7 : 6)) {
        case 6 -> made.own();
        case 0, 1 -> made.grant();
        case 2, 3 -> made.revoke();
        case 4 -> made.give();
        default -> made.take();
      }
    }
    for (int i = 0; i < 4 && access.rules().has(HouseFact.DENIALS); i++) {
      made.deny();
    }
    List<Step> all = new ArrayList<>(made.owners);
    all.addAll(made.steps);
    return all;
  }

  /** Some new names, where the server gives any. */
  public static List<Step> renames(Access access, Random random) {
    RandomSteps made = new RandomSteps(access, random);
    boolean left = access.rules().has(HouseFact.MAKERS_BY_NAME);
    Set<Step> renames = new LinkedHashSet<>();
    IntOpenHashSet chosen = new IntOpenHashSet();
    for (int i = 0; i < 3; i++) {
      int id = made.any(made.people);
      boolean user = access.principals().isUser(id);
      boolean can = access.rules().has(user ? HouseFact.RENAMES_USERS : HouseFact.RENAMES_ROLES);
      boolean maker = made.tree.owned().from(id) < made.tree.owned().to(id);
      boolean alone = user && left ? made.isOnlyOne(id) : true;
      if (can && alone && !(left && maker) && chosen.add(id)) {
        String name = made.name(id);
        String host = left ? name.substring(name.lastIndexOf('@')) : "";
        String other = "\"re\"\"named ü" + i + host + '"';
        renames.add(new Rename(name, StoredName.of(other, access.rules()), user));
      }
    }
    return List.copyOf(renames);
  }

  /** Some powers given or taken, where the server has any to set. */
  public static List<Step> powers(Access access, Random random) {
    RandomSteps made = new RandomSteps(access, random);
    Set<Step> steps = new LinkedHashSet<>();
    for (int i = 0; i < 3 && access.rules().has(HouseFact.SETS_POWERS); i++) {
      int id = made.any(made.people);
      Power power = Power.values()[1 + random.nextInt(4)];
      steps.add(new SetPower(made.name(id), power, !access.principals().has(id, power)));
    }
    return List.copyOf(steps);
  }

  /** Whether no other account has its name: those share what they hold. */
  private boolean isOnlyOne(int account) {
    for (int id = 1; id < access.principals().size(); id++) {
      if (id != account && access.bareName(id).equals(access.bareName(account))) {
        return false;
      }
    }
    return true;
  }

  private boolean ownersChange() {
    return access.rules().ownership() == Ownership.OBJECT;
  }

  /** To somebody who has nothing there, so that going back leads back. */
  private void own() {
    int to = any(roles);
    int node = any(nodes);
    boolean fresh = tree.owner(node) >= 0 && tree.owner(node) != to;
    for (int row : access.grants().byNode().run(node)) {
      fresh &= access.grants().grantee(row) != to;
      fresh &= access.grants().grantee(row) != tree.owner(node);
    }
    if (fresh && touched.stream().noneMatch(pair -> pair.contains(node))) {
      for (int id = 0; id < access.principals().size(); id++) {
        touched.add(List.of(id, node));
      }
      owners.add(new ChangeOwner(Places.on(tree, node), name(to), name(tree.owner(node))));
    }
  }

  private int any(IntArrayList of) {
    return of.getInt(random.nextInt(of.size()));
  }

  private String name(int id) {
    return access.principals().name(id);
  }

  private long some(long privileges) {
    long some = 0;
    for (var privilege : PrivilegeSet.list(privileges)) {
      some |= random.nextInt(3) == 0 ? privilege.bit() : 0;
    }
    return some == 0 ? Long.lowestOneBit(privileges) : some;
  }

  private void grant() {
    int to = any(access.rules().has(HouseFact.ROLES_ONLY) ? roles : people);
    int node = any(nodes);
    // owners have all of it, and some servers refuse to give them more
    boolean owns = tree.owner(node) == to || new Owned(access).owned(to, node) != 0;
    if (!touched.add(List.of(to, node)) || owns) {
      return;
    }
    long there = 0;
    long columnsThere = 0;
    for (int row : access.grants().byNode().run(node)) {
      if (access.grants().grantee(row) == to) {
        there |= access.grants().terms(row).privileges() | access.grants().terms(row).grantable();
        columnsThere |= access.grants().columns(row) == ColumnSets.WHOLE ? 0 : 1;
      }
    }
    long possible = access.rules().grantableOn(tree.kind(node)) & ~there;
    if (possible == 0 || columnsThere != 0) {
      return;
    }
    long columnwise = possible & access.rules().columnPrivileges();
    boolean table = tree.kind(node) == NodeKind.TABLE;
    if (table && tree.columns(node) > 0 && columnwise != 0 && random.nextInt(4) == 0) {
      steps.add(
          new Grant(
              some(columnwise),
              Places.on(tree, node),
              List.of(tree.column(node, random.nextInt(tree.columns(node)))),
              name(to),
              false));
      return;
    }
    boolean toRole = access.principals().kind(to) == PrincipalKind.ROLE;
    boolean options = access.rules().has(HouseFact.GRANT_OPTIONS);
    boolean option = toRole && there == 0 && random.nextInt(4) == 0 && options;
    steps.add(new Grant(some(possible), Places.on(tree, node), List.of(), name(to), option));
  }

  /** Denies what is not denied yet, or lifts what is, so that going back leads back. */
  private void deny() {
    Grants denials = access.denials();
    boolean lifts = denials.size() > 0 && random.nextBoolean();
    int row = lifts ? random.nextInt(denials.size()) : -1;
    int to = lifts ? denials.grantee(row) : any(people);
    int node = lifts ? denials.node(row) : any(nodes);
    if (!people.contains(to) || !nodes.contains(node) || !denied.add(List.of(to, node))) {
      return;
    }
    List<String> columns = new ArrayList<>();
    long possible = access.rules().privilegesOn(tree.kind(node));
    if (lifts) {
      possible = denials.terms(row).privileges();
      boolean whole = denials.columns(row) == ColumnSets.WHOLE;
      for (int ordinal : whole ? new int[0] : access.columnSets().ordinals(denials.columns(row))) {
        columns.add(tree.column(node, ordinal));
      }
    }
    for (int other : lifts ? new int[0] : denials.byNode().run(node)) {
      possible &= denials.grantee(other) == to ? 0 : -1;
    }
    boolean part = !lifts && tree.columns(node) > 0 && random.nextBoolean();
    if (part) {
      possible &= access.rules().columnPrivileges();
      columns.add(tree.column(node, random.nextInt(tree.columns(node))));
    }
    if (possible != 0) {
      steps.add(new Deny(some(possible), Places.on(tree, node), columns, name(to), lifts));
    }
  }

  private void revoke() {
    Grants grants = access.grants();
    if (grants.size() == 0) {
      return;
    }
    int row = random.nextInt(grants.size());
    Terms terms = grants.terms(row);
    int to = grants.grantee(row);
    int node = grants.node(row);
    boolean dependent = false;
    for (int other : grants.byNode().run(node)) {
      // what was given on, or by several, is another matter
      dependent |= grants.grantor(other) == to;
      dependent |= other != row && grants.grantee(other) == to;
    }
    boolean plain =
        terms.pattern() == Terms.NO_PATTERN
            && terms.privileges() != 0
            && !dependent
            && nodes.contains(node)
            && people.contains(to)
            && grants.grantor(row) == tree.owner(node)
            && grants.columns(row) == ColumnSets.WHOLE
            && (terms.grantable() == 0 || terms.grantable() == terms.privileges());
    if (to != Principals.PUBLIC && plain && touched.add(List.of(to, node))) {
      steps.add(
          new Revoke(
              some(terms.privileges()),
              Places.on(tree, node),
              List.of(),
              name(to),
              terms.grantable() != 0,
              null));
    }
  }

  /** By the memberships there are and by those given here: two new ones may close a circle. */
  private boolean reaches(int from, int role) {
    IntArrayList open = IntArrayList.of(from);
    IntOpenHashSet seen = new IntOpenHashSet(open);
    while (!open.isEmpty()) {
      int at = open.popInt();
      IntArrayList next = new IntArrayList(given.getOrDefault(at, IntList.of()));
      for (int edge : access.memberships().rolesOf().run(at)) {
        next.add(access.memberships().role(edge));
      }
      next.forEach(
          to -> {
            if (seen.add(to)) {
              open.add(to);
            }
          });
    }
    return seen.contains(role);
  }

  private void give() {
    int member = any(people);
    int role = any(roles);
    boolean circle = roles.contains(member) && (member <= role || reaches(role, member));
    if (!circle && !reaches(member, role) && touched.add(List.of(member, role, "role"))) {
      boolean each = access.rules().activation() == Activation.PER_MEMBERSHIP;
      steps.add(new GiveRole(name(role), name(member), Membership.PLAIN, null, each));
      given.computeIfAbsent(member, key -> new IntArrayList()).add(role);
    }
  }

  private void take() {
    if (access.memberships().size() == 0) {
      return;
    }
    int edge = random.nextInt(access.memberships().size());
    int member = access.memberships().member(edge);
    int role = access.memberships().role(edge);
    Membership how = access.memberships().options(edge);
    int edges = 0;
    for (int other : access.memberships().rolesOf().run(member)) {
      edges += access.memberships().role(other) == role ? 1 : 0;
    }
    boolean isDefault =
        access.rules().activation() == Activation.ONE_AT_A_TIME
            && access.principals().isUser(member)
            && how.inherit();
    boolean plain = !how.implicit() && !how.admin() && edges == 1 && !isDefault;
    if (plain
        && people.contains(member)
        && roles.contains(role)
        && touched.add(List.of(member, role, "role"))) {
      int by = access.memberships().grantor(edge);
      boolean each = access.rules().activation() == Activation.PER_MEMBERSHIP;
      Membership before = each ? Membership.of(false, how.inherit(), how.set()) : Membership.PLAIN;
      String grantor = each && by >= 0 ? name(by) : null;
      steps.add(new TakeRole(name(role), name(member), before, grantor, each));
    }
  }
}
