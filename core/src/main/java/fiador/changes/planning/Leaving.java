package fiador.changes.planning;

import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.DropUser;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Problem;
import fiador.estate.Few;
import fiador.estate.NodeKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import fiador.grants.Memberships;
import fiador.grants.Seen;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * The users and roles that a charter governs and does not list, and what has to happen before they
 * can be dropped: what they own goes to whoever owns the database, what they were given is taken.
 * What no step can be about stops the plan, by name. Cost: the principals, and what is theirs.
 */
final class Leaving {
  private static final int NAMED = 5;

  private final Access access;
  private final Tree tree;
  private final Principals people;
  private final Governed governed;
  private final boolean mayDrop;
  private final IntArrayList leaving = new IntArrayList();

  /**
   * @param listed the principals that the charter lists
   * @param mayDrop whether the others are dropped
   */
  Leaving(Access access, Governed governed, Set<Integer> listed, boolean mayDrop) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.governed = governed;
    this.mayDrop = mayDrop;
    for (int id = 1; id < people.size(); id++) {
      if (governed.principal(id) && !listed.contains(id)) {
        leaving.add(id);
      }
    }
  }

  /**
   * Gives what they own to others, or says why that cannot be; what a charter gives somebody is
   * theirs.
   *
   * @param steps where owners change already, and to be added to
   */
  void handOver(Collection<Step> steps, List<Problem> problems, Set<String> notes) {
    Set<On> given = new HashSet<>();
    for (Step step : steps) {
      if (step instanceof ChangeOwner owner) {
        given.add(owner.on());
      }
    }
    for (int id : dropped()) {
      List<Integer> things = new ArrayList<>();
      for (int place = tree.owned().from(id); place < tree.owned().to(id); place++) {
        if (!given.contains(Places.on(tree, tree.owned().row(place)))) {
          things.add(tree.owned().row(place));
        }
      }
      int heir = things.isEmpty() ? -1 : heir(things.get(0));
      if (!things.isEmpty() && heir < 0) {
        problems.add(
            new Problem(
                null,
                people.name(id)
                    + " is not in the charter but owns "
                    + counted(things)
                    + ": say with \"owns\" who is to own them, settle that, then drop"));
        continue;
      }
      things.forEach(
          node ->
              steps.add(
                  new ChangeOwner(
                      Places.on(tree, node), people.name(heir(node)), people.name(id))));
      if (!things.isEmpty()) {
        notes.add(
            "what "
                + people.name(id)
                + " owns goes to whoever owns the database, "
                + people.name(heir)
                + ": "
                + counted(things));
      }
      beside(id, problems);
    }
  }

  private void beside(int id, List<Problem> problems) {
    List<Seen.Beside> left = access.seen().of(id);
    if (!left.isEmpty()) {
      String some = Few.of(left.stream().map(Seen.Beside::text).toList(), NAMED);
      problems.add(
          new Problem(
              null,
              people.name(id)
                  + " cannot be dropped, because the account "
                  + some
                  + ". No sentence of a charter is about that: take it away or give it to somebody"
                  + " else by hand"));
    }
  }

  private int[] dropped() {
    return mayDrop ? leaving.toIntArray() : new int[0];
  }

  /** Who takes over a thing: the owner of its database, who stays. */
  private int heir(int node) {
    if (!access.rules().has(HouseFact.CHANGES_OWNERS)) {
      return -1;
    }
    int database = tree.enclosing(node, NodeKind.DATABASE);
    int heir = database < 0 || database == node ? access.founder() : tree.owner(database);
    return heir < 0 || leaving.contains(heir) ? access.founder() : heir;
  }

  private String counted(List<Integer> things) {
    String first = tree.path(things.get(0));
    return things.size() == 1 ? first : things.size() + " things, such as " + first;
  }

  /**
   * Takes from them what else they were given, outside of what is governed: some servers drop
   * nobody who has anything, and without such steps no undo could give it back.
   */
  void strip(Collection<Step> take) {
    Taking taking = new Taking(access);
    Grants grants = access.grants();
    for (int id : dropped()) {
      memberships(id, taking, take);
      for (int row : grants.byGrantee().run(id)) {
        boolean outside = !governed.node(grants.node(row));
        Step revoke = outside ? taking.revoke(row, grants.terms(row).privileges()) : null;
        if (revoke != null) {
          take.add(revoke);
        }
      }
      for (LaterGrant later : access.later()) {
        for (LaterGrant.Given given : later.given()) {
          boolean theirs = later.creator() == id || given.grantee() == id;
          if (theirs && later.creator() >= 0 && given.grantee() != later.creator()) {
            take.add(
                new RevokeLater(
                    people.name(later.creator()),
                    Places.on(tree, later.in()),
                    later.kind(),
                    given.privileges(),
                    people.name(given.grantee()),
                    given.grantable() != 0));
          }
        }
      }
    }
  }

  private void memberships(int id, Taking taking, Collection<Step> take) {
    Memberships all = access.memberships();
    IntArrayList edges = new IntArrayList(all.rolesOf().run(id));
    edges.addAll(IntArrayList.wrap(all.membersOf().run(id)));
    boolean defaults = access.rules().has(HouseFact.DEFAULT_ROLES);
    for (int edge : edges) {
      boolean outside =
          !governed.principal(all.member(edge)) || !governed.principal(all.role(edge));
      Step leave = outside ? taking.leave(edge) : null;
      if (leave != null) {
        take.add(leave);
      }
      boolean first = all.member(edge) == id && people.isUser(id) && all.options(edge).inherit();
      if (defaults && first && !all.options(edge).implicit()) {
        take.add(new DefaultRole(people.name(id), null, people.name(all.role(edge))));
      }
    }
  }

  /** Drops them, or says that they are kept. */
  void drop(Collection<Step> drop, Set<String> notes) {
    for (int id : dropped()) {
      String name = people.name(id);
      drop.add(people.isUser(id) ? new DropUser(name) : new DropRole(name));
    }
    if (!mayDrop && !leaving.isEmpty()) {
      String some =
          leaving.intStream().limit(NAMED).mapToObj(people::name).collect(Collectors.joining(", "));
      notes.add(
          leaving.size()
              + " governed but not in the charter, kept without --drop: "
              + some
              + (leaving.size() > NAMED ? " ..." : ""));
    }
  }
}
