package fiador.reviews;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.evidence.Evidence;
import fiador.findings.check.Finding;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Extent;
import fiador.grants.Grants;
import fiador.grants.Memberships;
import fiador.grants.Reach;
import fiador.grants.Terms;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Makes the lines of a review: for each user each role, grant, ownership and power they have
 * themselves, and for each schema in which that gives them something, what. Cost: the roles of the
 * users in the scope, and what those were given.
 */
public final class Drafting {
  /** Whom lines about what everybody has name. */
  public static final String EVERYBODY = "PUBLIC";

  /** What a line says of a role that may be given on. */
  static final String MAY_GIVE_ON = "may give the role on";

  private final Access access;
  private final Tree tree;
  private final Principals people;
  private final Scope scope;
  private final Set<String> untouchable;
  private final Reach reach;
  private final Map<Integer, Map<Integer, Given>> ofRole = new HashMap<>();
  private final List<Draft> drafts = new ArrayList<>();

  /** What is given in one area: privileges, and which may be granted on, by where. */
  private static final class Given {
    final Map<Part, Extent> parts = new LinkedHashMap<>();
    int powers;

    void add(Part part, long privileges, long grantable) {
      parts.merge(part, new Extent(privileges, grantable & privileges), Extent::and);
    }
  }

  /** A node or columns of it; a container where everything inside is meant. */
  private record Part(int node, int columns, boolean inside, boolean owned) {}

  /**
   * A line before it has a reviewer and words.
   *
   * @param user a principal id
   * @param role the role it comes through, or -1
   * @param admin whether the user may give that role to others
   * @param area the node it is reviewed with
   * @param given what is given there, things on which the same is given together
   * @param powers the powers that come with it
   * @param facts the same by names, sorted
   */
  public record Draft(
      Entitlement about,
      int user,
      int role,
      boolean admin,
      int area,
      List<Group> given,
      int powers,
      List<String> facts) {}

  /**
   * Some things on which the same is given.
   *
   * @param grantable those of the privileges that may be granted on
   * @param owned whether they are owned
   * @param inside whether everything in them is meant
   * @param columns ordinals where a single thing is limited to columns, or null
   */
  public record Group(
      long privileges,
      long grantable,
      boolean owned,
      boolean inside,
      List<Integer> nodes,
      int[] columns) {}

  /**
   * @param untouchable names of accounts that are no matter of a review, such as the one that
   *     administers the server
   */
  public Drafting(Access access, Scope scope, Set<String> untouchable) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.scope = scope;
    this.untouchable = untouchable;
    this.reach = new Reach(access);
  }

  /** All lines, by user. */
  public List<Draft> drafts() {
    int founder = access.founder();
    for (int user = 1; user < people.size(); user++) {
      String name = people.name(user);
      String bare = access.bareName(user);
      boolean ours = user != founder && !access.rules().isOwn(bare);
      boolean asked = people.isUser(user) && ours && !untouchable.contains(bare);
      if (asked && scope.coversUser(name)) {
        of(user, name);
      }
    }
    if (scope.coversUser(EVERYBODY)) {
      of(Principals.PUBLIC, EVERYBODY);
    }
    return drafts;
  }

  private void of(int user, String name) {
    Memberships memberships = access.memberships();
    Map<Integer, Boolean> roles = new LinkedHashMap<>();
    for (int edge : memberships.rolesOf().run(user)) {
      if (!memberships.options(edge).implicit()) {
        boolean admin = memberships.options(edge).admin();
        roles.merge(memberships.role(edge), admin, Boolean::logicalOr);
      }
    }
    roles.forEach(
        (role, admin) ->
            ofRole
                .computeIfAbsent(role, this::ofRole)
                .forEach(
                    (area, given) -> {
                      Entitlement about =
                          new Entitlement(name, Means.ROLE, people.name(role), tree.path(area));
                      add(about, user, role, admin, area, given);
                    }));
    Means means = user == Principals.PUBLIC ? Means.EVERYBODY : Means.GRANT;
    Map<Integer, Given> granted = new TreeMap<>();
    granted(user, granted);
    granted.forEach(
        (area, given) ->
            add(new Entitlement(name, means, "", tree.path(area)), user, -1, false, area, given));
    Map<Integer, Given> owned = new TreeMap<>();
    owned(user, owned);
    owned.forEach(
        (area, given) ->
            add(
                new Entitlement(name, Means.OWNER, "", tree.path(area)),
                user,
                -1,
                false,
                area,
                given));
    for (Power power : Power.values()) {
      if (people.has(user, power)) {
        Given given = new Given();
        given.powers = power.bit();
        add(new Entitlement(name, Means.POWER, power.text(), ""), user, -1, false, 0, given);
      }
    }
  }

  /** What a role gives, with all that it holds itself, by area. */
  private Map<Integer, Given> ofRole(int role) {
    Map<Integer, Given> found = new TreeMap<>();
    for (int held : reach.up(role)) {
      granted(held, found);
      owned(held, found);
      if (people.powers(held) != 0) {
        found.computeIfAbsent(0, none -> new Given()).powers |= people.powers(held);
      }
    }
    return found;
  }

  private void granted(int grantee, Map<Integer, Given> found) {
    Grants grants = access.grants();
    for (int row : grants.byGrantee().run(grantee)) {
      int node = grants.node(row);
      Terms terms = grants.terms(row);
      boolean inside = terms.covers() != 0;
      boolean above = tree.enclosing(node, NodeKind.SCHEMA) < 0;
      // a mere way in, such as connect, gives none of the data
      if (scope.covers(access, node) && terms.privileges() != 0 && (inside || !above)) {
        found
            .computeIfAbsent(Entitlement.area(access, node), none -> new Given())
            .add(
                new Part(node, grants.columns(row), inside, false),
                terms.privileges(),
                terms.grantable());
      }
    }
  }

  private void owned(int owner, Map<Integer, Given> found) {
    for (int node : tree.owned().run(owner)) {
      if (scope.covers(access, node) && tree.enclosing(node, NodeKind.SCHEMA) >= 0) {
        found
            .computeIfAbsent(Entitlement.area(access, node), none -> new Given())
            .add(new Part(node, ColumnSets.WHOLE, false, true), 0, 0);
      }
    }
  }

  private void add(Entitlement about, int user, int role, boolean admin, int area, Given given) {
    if (!scope.covers(about.means(), about.through())) {
      return;
    }
    Set<String> facts = facts(given);
    if (admin) {
      facts.add(MAY_GIVE_ON);
    }
    drafts.add(
        new Draft(about, user, role, admin, area, groups(given), given.powers, List.copyOf(facts)));
  }

  private Set<String> facts(Given given) {
    Set<String> facts = new TreeSet<>();
    given.parts.forEach((part, much) -> facts(part, much, facts));
    for (Power power : Power.values()) {
      if ((given.powers & power.bit()) != 0) {
        facts.add("power " + power.text());
      }
    }
    return facts;
  }

  /** All that a role gives in the scope, with all that it holds. */
  Set<String> factsOf(int role) {
    Set<String> facts = new TreeSet<>();
    ofRole
        .computeIfAbsent(role, this::ofRole)
        .values()
        .forEach(given -> facts.addAll(facts(given)));
    return facts;
  }

  /** What one grant gives. */
  Set<String> factsOfGrant(int row) {
    Terms terms = access.grants().terms(row);
    Part part =
        new Part(
            access.grants().node(row), access.grants().columns(row), terms.covers() != 0, false);
    Set<String> facts = new TreeSet<>();
    facts(part, Extent.of(terms), facts);
    return facts;
  }

  private void facts(Part part, Extent much, Set<String> facts) {
    StringBuilder columns = new StringBuilder();
    if (part.columns() != ColumnSets.WHOLE) {
      for (int ordinal : access.columnSets().ordinals(part.columns())) {
        columns.append(columns.isEmpty() ? " (" : ", ").append(tree.column(part.node(), ordinal));
      }
      columns.append(")");
    }
    String on = tree.kind(part.node()).text() + " " + tree.path(part.node()) + columns;
    String where = (part.inside() ? "all in " : "") + on;
    if (part.owned()) {
      facts.add("owner of " + where);
    }
    for (Privilege privilege : Privilege.values()) {
      if ((much.privileges() & privilege.bit()) != 0) {
        boolean onwards = (much.grantable() & privilege.bit()) != 0;
        facts.add(privilege.text() + " on " + where + (onwards ? ", may grant it on" : ""));
      }
    }
  }

  /** What can be said together; single things with columns stand alone. */
  private record Alike(
      long privileges, long grantable, boolean owned, boolean inside, Part alone) {}

  private List<Group> groups(Given given) {
    Map<Alike, List<Integer>> alike = new LinkedHashMap<>();
    given.parts.forEach(
        (part, much) -> {
          boolean whole = part.columns() == ColumnSets.WHOLE;
          // an owner's own grants say nothing more, nor do columns where the whole is granted
          Part owned = new Part(part.node(), ColumnSets.WHOLE, false, true);
          Extent all = given.parts.get(new Part(part.node(), ColumnSets.WHOLE, false, false));
          boolean within = !whole && all != null && much.beyond(all) == 0;
          if (part.owned() || !within && !given.parts.containsKey(owned)) {
            Alike like =
                new Alike(
                    much.privileges(),
                    much.grantable(),
                    part.owned(),
                    part.inside(),
                    whole ? null : part);
            alike.computeIfAbsent(like, none -> new ArrayList<>()).add(part.node());
          }
        });
    List<Group> groups = new ArrayList<>();
    alike.forEach(
        (like, nodes) -> {
          int[] columns =
              like.alone() == null ? null : access.columnSets().ordinals(like.alone().columns());
          groups.add(
              new Group(
                  like.privileges(),
                  like.grantable(),
                  like.owned(),
                  like.inside(),
                  nodes,
                  columns));
        });
    return groups;
  }

  /** The findings that concern each line, by their ids. */
  public static List<String> findings(Draft draft, List<Finding> findings) {
    Set<String> ids = new TreeSet<>();
    for (Finding finding : findings) {
      boolean theirs = finding.principal() == draft.user();
      boolean its = draft.role() >= 0 && finding.principal() == draft.role();
      boolean about = finding.principal() < 0 && finding.users().contains(draft.user());
      boolean where = finding.node() < 0 || draft.area() == 0 || isNear(draft, finding.node());
      if ((theirs || its || about) && where) {
        ids.add(finding.asked().id());
      }
    }
    return List.copyOf(ids);
  }

  private static boolean isNear(Draft draft, int node) {
    return draft.area() == node
        || draft.given().stream().anyMatch(group -> group.nodes().contains(node));
  }

  /** When any of it was last used by the user; null when it was not seen. */
  public Instant lastUsed(Draft draft, Evidence evidence) {
    IntArrayList nodes = new IntArrayList();
    draft.given().forEach(group -> nodes.addAll(group.nodes()));
    Instant last = null;
    for (Map.Entry<Evidence.Use, Instant> use : evidence.uses().entrySet()) {
      boolean theirs = use.getKey().user() == draft.user();
      if (theirs && isUnder(use.getKey().node(), nodes)) {
        last = last == null || use.getValue().isAfter(last) ? use.getValue() : last;
      }
    }
    return last;
  }

  private boolean isUnder(int node, IntArrayList nodes) {
    for (int at : nodes) {
      if (node == at || tree.isInside(node, at)) {
        return true;
      }
    }
    return false;
  }
}
