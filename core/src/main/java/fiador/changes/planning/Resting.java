package fiador.changes.planning;

import fiador.changes.steps.About;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.DropUser;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import fiador.changes.steps.Turn;
import fiador.estate.None;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What rests on what is to be taken: grants and memberships that somebody gave on with a right he
 * is to lose. A server that tells grantors apart refuses to take a right while others rest on it.
 * So what is to stay is given anew by whoever settles and taken from its old grantor, and all that
 * rests on something goes before it.
 *
 * <p>Source: PostgreSQL's manual, REVOKE, notes on dependent privileges. Cost: the steps, and the
 * grants and memberships on the nodes and of the roles they speak about; where somebody is dropped,
 * all grants and memberships.
 */
final class Resting {
  /** From so many steps on, all principals are numbered by name; findings ask with one each. */
  private static final int MANY = 100;

  private final Access access;
  private final Grants grants;
  private final Memberships memberships;
  private final Tree tree;
  private final boolean each;

  /** Those asked for, and all where many will be. */
  private final Map<String, Integer> byName = new HashMap<>();

  private final Int2LongOpenHashMap takenBits = new Int2LongOpenHashMap();
  private final IntOpenHashSet takenEdges = new IntOpenHashSet();
  private final IntOpenHashSet weakened = new IntOpenHashSet();
  private final IntOpenHashSet dropped = new IntOpenHashSet();
  private final Set<Step> over = new LinkedHashSet<>();

  Resting(Access access) {
    this.access = access;
    this.grants = access.grants();
    this.memberships = access.memberships();
    this.tree = access.tree();
    this.each = access.rules().has(HouseFact.MEMBERSHIPS_BY_GRANTOR);
  }

  /** Adds to what is taken what has to be taken over so that the rest can be taken. */
  void takeOver(Set<Step> take, Set<Step> drop) {
    if (!access.rules().has(HouseFact.GRANTORS_COUNT) || take.isEmpty() && drop.isEmpty()) {
      return;
    }
    if (take.size() + drop.size() > MANY) {
      byName.putAll(access.principals().byName());
    }
    drop.forEach(this::drops);
    take.forEach(this::takes);
    for (int edge : edgesInDoubt()) {
      takeOverRole(edge);
    }
    for (int row : rowsInDoubt()) {
      takeOverGrant(row);
    }
    take.addAll(over);
  }

  private void drops(Step step) {
    String name =
        step instanceof DropRole role
            ? role.role()
            : step instanceof DropUser user ? user.user() : null;
    if (id(name) >= 0) {
      dropped.add(id(name));
    }
  }

  /** A principal by its name, or -1. */
  private int id(String name) {
    return name == null ? None.PRINCIPAL : byName.computeIfAbsent(name, access.principals()::named);
  }

  private void takes(Step step) {
    if (step instanceof TakeRole role) {
      takenEdges.addAll(edges(role.member(), role.role(), role.grantor()));
    } else if (step instanceof GiveRole give && !give.how().admin()) {
      weakened.addAll(edges(give.member(), give.role(), null));
    } else if (step instanceof Revoke revoke) {
      taken(revoke.on(), revoke.columns(), revoke.grantee(), revoke.grantor(), revoke.privileges());
    } else if (step instanceof TakeOption option) {
      taken(option.on(), option.columns(), option.grantee(), option.grantor(), option.privileges());
    }
  }

  private IntArrayList edges(String member, String role, String grantor) {
    IntArrayList found = new IntArrayList();
    int of = id(role);
    int by = grantor == null ? None.PRINCIPAL : id(grantor);
    int id = id(member);
    for (int edge : id < 0 ? new int[0] : memberships.rolesOf().run(id)) {
      boolean theirs = by < 0 || memberships.grantor(edge) == by;
      if (memberships.role(edge) == of && theirs && !memberships.options(edge).implicit()) {
        found.add(edge);
      }
    }
    return found;
  }

  private void taken(On on, List<String> columns, String grantee, String grantor, long privileges) {
    int node = Places.find(tree, on);
    int to = id(grantee);
    int by = grantor == null ? tree.owner(node) : id(grantor);
    for (int row : grants.byNode().run(node)) {
      boolean meant = columns.isEmpty() || grants.columns(row) != ColumnSets.WHOLE;
      boolean theirs = grants.grantor(row) == by || grants.grantor(row) < 0;
      if (grants.grantee(row) == to && theirs && meant) {
        takenBits.put(row, takenBits.get(row) | privileges);
      }
    }
  }

  /** The memberships whose grantor loses what they rest on. */
  private IntOpenHashSet edgesInDoubt() {
    IntOpenHashSet found = new IntOpenHashSet();
    if (!each) {
      return found;
    }
    IntOpenHashSet losing = new IntOpenHashSet(takenEdges);
    losing.addAll(weakened);
    for (int edge : losing.toIntArray()) {
      int giver = memberships.member(edge);
      int role = memberships.role(edge);
      boolean still = false;
      for (int other : memberships.rolesOf().run(giver)) {
        boolean stays = !losing.contains(other) && memberships.options(other).admin();
        still |= stays && memberships.role(other) == role;
      }
      for (int other : still ? new int[0] : memberships.membersOf().run(role)) {
        if (memberships.grantor(other) == giver) {
          found.add(other);
        }
      }
    }
    for (int edge = 0; !dropped.isEmpty() && edge < memberships.size(); edge++) {
      boolean others =
          !dropped.contains(memberships.member(edge)) && !dropped.contains(memberships.role(edge));
      if (others && dropped.contains(memberships.grantor(edge))) {
        found.add(edge);
      }
    }
    found.removeAll(takenEdges);
    return found;
  }

  private void takeOverRole(int edge) {
    String member = access.principals().name(memberships.member(edge));
    String role = access.principals().name(memberships.role(edge));
    String by = access.principals().name(memberships.grantor(edge));
    Membership held = access.memberships().held(memberships.member(edge), memberships.role(edge));
    over.add(
        new TakeOver(
            new GiveRole(role, member, held, held, true),
            new TakeRole(role, member, held, by, true)));
  }

  /** The grants whose grantor loses what they rest on. */
  private IntOpenHashSet rowsInDoubt() {
    IntOpenHashSet found = new IntOpenHashSet();
    for (int row : takenBits.keySet().toIntArray()) {
      int giver = grants.grantee(row);
      int node = grants.node(row);
      long lost = grants.terms(row).grantable() & takenBits.get(row);
      for (int other : grants.byNode().run(node)) {
        if (grants.grantee(other) == giver) {
          lost &= ~(grants.terms(other).grantable() & ~takenBits.get(other));
        }
      }
      for (int other : lost == 0 ? new int[0] : grants.byNode().run(node)) {
        long resting = grants.terms(other).privileges() & lost & ~takenBits.get(other);
        boolean theirs = grants.grantor(other) == giver && grants.grantee(other) != giver;
        if (theirs && resting != 0 && tree.owner(node) != giver) {
          found.add(other);
        }
      }
    }
    for (int row = 0; !dropped.isEmpty() && row < grants.size(); row++) {
      boolean theirs =
          dropped.contains(grants.grantor(row)) && !dropped.contains(grants.grantee(row));
      boolean left = (grants.terms(row).privileges() & ~takenBits.get(row)) != 0;
      if (theirs && left && tree.owner(grants.node(row)) != grants.grantor(row)) {
        found.add(row);
      }
    }
    return found;
  }

  private void takeOverGrant(int row) {
    int node = grants.node(row);
    long privileges = grants.terms(row).privileges() & ~takenBits.get(row);
    long option = grants.terms(row).grantable() & privileges;
    On on = Places.on(tree, node);
    List<String> columns = new ArrayList<>();
    if (grants.columns(row) != ColumnSets.WHOLE) {
      for (int ordinal : access.columnSets().ordinals(grants.columns(row))) {
        columns.add(tree.column(node, ordinal));
      }
    }
    String to = access.principals().name(grants.grantee(row));
    String by = access.principals().name(grants.grantor(row));
    for (long bits : new long[] {privileges & ~option, option}) {
      boolean with = bits == option;
      if (bits != 0) {
        over.add(
            new TakeOver(
                new Grant(bits, on, List.copyOf(columns), to, with),
                new Revoke(bits, on, List.copyOf(columns), to, with, by)));
      }
    }
  }

  /** Somebody, and a role or thing. */
  private record Hold(String who, Object what) {}

  /** The same steps, each behind those that take what rests on what it takes. */
  static List<Step> first(Collection<Step> takes) {
    Map<Hold, List<Step>> byGrantor = new LinkedHashMap<>();
    for (Step step : takes) {
      Hold given = given(step);
      if (given != null) {
        byGrantor.computeIfAbsent(given, fresh -> new ArrayList<>()).add(step);
      }
    }
    if (byGrantor.isEmpty()) {
      return List.copyOf(takes);
    }
    Set<Step> ordered = new LinkedHashSet<>();
    for (Step step : takes) {
      // those under way, so that a circle does not hurt
      List<Step> open = new ArrayList<>(List.of(step));
      Set<Step> begun = new LinkedHashSet<>();
      while (!open.isEmpty()) {
        Step top = open.get(open.size() - 1);
        List<Step> resting = byGrantor.getOrDefault(held(top), List.of());
        if (!begun.add(top) || ordered.contains(top)) {
          ordered.add(open.remove(open.size() - 1));
          continue;
        }
        resting.stream()
            .filter(each -> !ordered.contains(each) && !begun.contains(each))
            .forEach(open::add);
      }
    }
    return List.copyOf(ordered);
  }

  /** Who gave what a step takes, of which role or on which thing. */
  private static Hold given(Step step) {
    About about = step.about();
    return about.grantor() == null ? null : new Hold(about.grantor(), about.held());
  }

  /** Who loses a role, or something on a thing. */
  private static Hold held(Step step) {
    About about = step.about();
    boolean loses = about.turn() == Turn.TAKES || step instanceof GiveRole;
    return loses && about.holder() != null ? new Hold(about.holder(), about.held()) : null;
  }
}
