package fiador.changes;

import fiador.changes.Plan.Problem;
import fiador.changes.Wanted.Action;
import fiador.changes.Wanted.Every;
import fiador.changes.Wanted.Single;
import fiador.effects.Held;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.LaterGrant;
import fiador.grants.Lookup;
import fiador.grants.Membership;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Compares what is wanted with what a server has. Only adds; what the server has beyond that stays.
 * Cost: the demands times the nodes each speaks about.
 */
public final class Planner {
  private final Access access;
  private final Tree tree;
  private final Lookup lookup;
  private final Held held;
  private final Set<Step> steps = new LinkedHashSet<>();
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();

  /** Plans against that server. */
  public Planner(Access access) {
    this.access = access;
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.held = new Held(access);
  }

  /** What has to be done so that the server has all that is wanted. */
  public Plan plan(Wanted wanted) {
    wanted.roles().forEach(role -> principal(role, PrincipalKind.ROLE));
    wanted.users().forEach(user -> principal(user, PrincipalKind.USER));
    wanted.memberships().forEach(this::membership);
    wanted.grants().forEach(this::grant);
    return new Plan(List.copyOf(steps), List.copyOf(problems), List.copyOf(notes));
  }

  private void principal(Wanted.Principal wanted, PrincipalKind kind) {
    int id = existing(wanted.name());
    if (id < 0) {
      String name = stored(wanted.name());
      steps.add(kind == PrincipalKind.USER ? new Step.CreateUser(name) : new Step.CreateRole(name));
    } else if (access.principals().kind(id) != kind) {
      problems.add(
          new Problem(
              wanted.place(),
              wanted.name()
                  + " is to be a "
                  + kind.text()
                  + ", but the server has a "
                  + access.principals().kind(id).text()
                  + " of that name"));
    }
  }

  private int existing(String name) {
    return access.principals().named(stored(name));
  }

  /** The name as the server will store it: exactly when it stands in quotes, else folded. */
  private String stored(String name) {
    boolean quoted = name.length() > 2 && name.startsWith("\"") && name.endsWith("\"");
    return quoted
        ? name.substring(1, name.length() - 1).replace("\"\"", "\"")
        : access.rules().fold(name);
  }

  private void membership(Wanted.Member wanted) {
    int member = existing(wanted.member());
    int role = existing(wanted.role());
    if (member >= 0 && role >= 0 && isMember(member, role)) {
      return;
    }
    steps.add(new Step.GiveRole(stored(wanted.role()), stored(wanted.member())));
  }

  private boolean isMember(int member, int role) {
    var edges = access.memberships().rolesOf();
    for (int place = edges.from(member); place < edges.to(member); place++) {
      int edge = edges.row(place);
      Membership options = access.memberships().options(edge);
      if (access.memberships().role(edge) == role && !options.implicit()) {
        return true;
      }
    }
    return false;
  }

  private void grant(Wanted.Grant wanted) {
    if (wanted.target() instanceof Single single) {
      grantOnOne(wanted, single);
    } else if (wanted.target() instanceof Every every) {
      grantOnEvery(wanted, every);
    }
  }

  private void grantOnOne(Wanted.Grant wanted, Single target) {
    NodeKind kind = target.kind();
    long all = 0;
    for (Action action : wanted.actions()) {
      all |= action.privilege() == null ? 0 : action.privilege().bit();
    }
    if (kind != null && all != 0 && (access.rules().privilegesOn(kind) & all) == 0) {
      notes.add(
          access.rules().server()
              + " has no "
              + PrivilegeSet.text(all)
              + " on "
              + kind.text()
              + "s: sentences about it are left out");
      return;
    }
    Lookup.Found found = lookup.node(target.name(), kind == null ? all : 0, false);
    if (!found.ok()) {
      problems.add(new Problem(wanted.place(), found.problem()));
    } else if (kind != null && !isOfKind(found.id(), kind)) {
      problems.add(
          new Problem(
              wanted.place(),
              target.name() + " is a " + tree.kind(found.id()).text() + ", not a " + kind.text()));
    } else {
      grantOn(wanted, found.id());
    }
  }

  private boolean isOfKind(int node, NodeKind kind) {
    return tree.kind(node) == kind
        || kind == NodeKind.TABLE && tree.kind(node) == NodeKind.MATERIALIZED_VIEW;
  }

  private void grantOnEvery(Wanted.Grant wanted, Every target) {
    Lookup.Found found = lookup.node(target.container(), 0, false);
    if (!found.ok()) {
      problems.add(new Problem(wanted.place(), found.problem()));
      return;
    }
    IntArrayList inside = IntArrayList.of(found.id());
    TreeSet<String> creators = new TreeSet<>();
    for (int i = 0; i < inside.size(); i++) {
      int node = inside.getInt(i);
      if (tree.owner(node) >= 0 && !tree.isSystem(node)) {
        creators.add(access.principals().name(tree.owner(node)));
      }
      if (wanted.now() && i > 0 && target.kinds().stream().anyMatch(kind -> isOfKind(node, kind))) {
        grantOn(wanted, node);
      }
      for (int c = tree.children().from(node); c < tree.children().to(node); c++) {
        inside.add(tree.children().row(c));
      }
    }
    if (wanted.later()) {
      grantLater(wanted, target, found.id(), creators);
    }
  }

  private void grantOn(Wanted.Grant wanted, int node) {
    long possible = access.rules().privilegesOn(tree.kind(node));
    Map<List<String>, Long> byColumns = new LinkedHashMap<>();
    for (Action action : wanted.actions()) {
      long bits = action.privilege() == null ? possible : action.privilege().bit() & possible;
      if (bits == 0) {
        notes.add(
            action.privilege().text()
                + " on "
                + tree.kind(node).text()
                + "s: "
                + access.rules().server()
                + " has no such privilege");
        continue;
      }
      List<String> columns = columns(wanted, node, action);
      if (columns != null) {
        byColumns.merge(columns, bits, (a, b) -> a | b);
      }
    }
    int grantee = existing(wanted.grantee());
    byColumns.forEach(
        (columns, bits) -> {
          long missing =
              grantee < 0
                  ? bits
                  : bits
                      & ~held.directly(
                          grantee, node, ordinals(node, columns), wanted.grantOption());
          if (missing != 0) {
            steps.add(
                new Step.Grant(
                    missing, on(node), columns, stored(wanted.grantee()), wanted.grantOption()));
          }
        });
  }

  /** The columns by their stored names; null after a problem was noted. */
  private List<String> columns(Wanted.Grant wanted, int node, Action action) {
    List<String> names = new ArrayList<>();
    for (String column : action.columns()) {
      Lookup.Found found = lookup.node(tree.path(node) + "." + column, 0, true);
      if (!found.ok() || found.column() < 0) {
        problems.add(new Problem(wanted.place(), found.problem()));
        return null;
      }
      names.add(tree.column(node, found.column()));
    }
    return List.copyOf(names);
  }

  private int[] ordinals(int node, List<String> columns) {
    return columns.stream().mapToInt(column -> tree.columnNamed(node, column)).toArray();
  }

  private void grantLater(Wanted.Grant wanted, Every target, int container, Set<String> creators) {
    if (!access.rules().later()) {
      notes.add(
          access.rules().server()
              + " has no grants for what will be created later: settle again after creating something");
      return;
    }
    for (NodeKind kind : target.kinds()) {
      NodeKind family =
          kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW ? NodeKind.TABLE : kind;
      long bits = 0;
      for (Action action : wanted.actions()) {
        long possible = access.rules().privilegesOn(family);
        bits |= action.privilege() == null ? possible : action.privilege().bit() & possible;
      }
      for (String creator : creators) {
        long missing = bits & ~laterOf(creator, container, family, wanted);
        if (missing != 0) {
          steps.add(
              new Step.GrantLater(
                  creator,
                  on(container),
                  family,
                  missing,
                  stored(wanted.grantee()),
                  wanted.grantOption()));
        }
      }
    }
  }

  private long laterOf(String creator, int container, NodeKind kind, Wanted.Grant wanted) {
    int grantee = existing(wanted.grantee());
    long covered = 0;
    for (LaterGrant later : access.later()) {
      boolean reaches = later.in() == container || tree.isInside(container, later.in());
      if (reaches
          && later.kind() == kind
          && later.creator() >= 0
          && access.principals().name(later.creator()).equals(creator)) {
        for (LaterGrant.Given given : later.given()) {
          if (given.grantee() == grantee) {
            covered |= wanted.grantOption() ? given.grantable() : given.privileges();
          }
        }
      }
    }
    return covered;
  }

  private Step.On on(int node) {
    int database = tree.enclosing(node, NodeKind.DATABASE);
    List<String> parts = new ArrayList<>();
    for (int at = node; at > 0 && (at != database || at == node); at = tree.parent(at)) {
      parts.add(0, tree.name(at));
    }
    boolean closed = database >= 0 && tree.is(database, NodeFact.UNREAD);
    String in = database < 0 || closed ? null : tree.name(database);
    return new Step.On(tree.kind(node), in, List.copyOf(parts));
  }
}
