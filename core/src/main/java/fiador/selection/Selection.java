package fiador.selection;

import fiador.estate.Nearest;
import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.Reach;
import fiador.refusal.BadInput;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Locale;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Which users, roles and things an answer is about. Where nothing is said, all of them; what is
 * said twice narrows twice. Cost: of a pattern, all names; of a question, nothing.
 */
public final class Selection {
  private static final int EVERY_KIND = -1;

  private final Access access;
  private final Tree tree;
  private final Principals people;
  private @Nullable BitSet to;
  private @Nullable BitSet by;
  private @Nullable BitSet roles;
  private @Nullable BitSet underRoles;
  private @Nullable BitSet nodes;
  private long privileges = PrivilegeSet.EVERY;
  private int kinds = EVERY_KIND;
  private boolean withoutPublic;
  private @Nullable Power power;

  /** All that there is. */
  public Selection(Access access) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
  }

  /** Only what was given to these. */
  public Selection to(String names) throws BadInput {
    to = both(to, principals(names));
    return this;
  }

  /** Only what these gave. */
  public Selection by(String names) throws BadInput {
    by = both(by, principals(names));
    return this;
  }

  /** Only what these roles give, themselves or through roles they hold. */
  public Selection role(String names) throws BadInput {
    roles = both(roles, principals(names));
    Reach reach = new Reach(access);
    BitSet under = new BitSet();
    roles.stream().forEach(role -> reach.up(role).forEach(under::set));
    underRoles = under;
    return this;
  }

  /** Only these things. */
  public Selection on(String paths) throws BadInput {
    nodes = both(nodes, named(paths, false));
    return this;
  }

  /** Only these schemas and what is in them. */
  public Selection schema(String names) throws BadInput {
    BitSet schemas = named(names, true);
    BitSet inside = (BitSet) schemas.clone();
    for (int node = 0; node < tree.size(); node++) {
      // a container stands before what is in it
      if (tree.parent(node) >= 0 && inside.get(tree.parent(node))) {
        inside.set(node);
      }
    }
    nodes = both(nodes, inside);
    return this;
  }

  /** Only things of that kind. */
  public Selection kind(String name) throws BadInput {
    String wanted = name.toLowerCase(Locale.ROOT).replace('_', ' ').replace('-', ' ');
    NodeKind kind = NodeKind.named(wanted);
    if (kind == null) {
      throw new BadInput(
          "there is no kind \""
              + name
              + "\"; the kinds are "
              + String.join(", ", Arrays.stream(NodeKind.values()).map(NodeKind::text).toList()));
    }
    kinds &= kind.bit();
    return this;
  }

  /** Only that privilege. */
  public Selection privilege(String name) throws BadInput {
    Privilege privilege = Privilege.named(name.toLowerCase(Locale.ROOT).replace('_', ' '));
    if (privilege == null) {
      Stream<String> known = Arrays.stream(Privilege.values()).map(Privilege::text);
      throw new BadInput("there is no privilege \"" + name + "\"" + Nearest.hint(name, known));
    }
    privileges &= privilege.bit();
    return this;
  }

  /** Only that power. */
  public Selection power(String name) throws BadInput {
    power = Power.named(name.toLowerCase(Locale.ROOT).replace('_', ' '));
    if (power == null) {
      Stream<String> known = Arrays.stream(Power.values()).map(Power::text);
      throw new BadInput("there is no power \"" + name + "\"" + Nearest.hint(name, known));
    }
    return this;
  }

  /** Whether a power is meant; null stands for what is no power but a privilege. */
  public boolean includesPower(@Nullable Power other) {
    return power == null || power == other;
  }

  /** Nothing of what everybody has. */
  public Selection withoutPublic() {
    withoutPublic = true;
    return this;
  }

  /** Whether a user or role that was given something is meant. */
  public boolean takes(int grantee) {
    return (to == null || to.get(grantee))
        && (underRoles == null || underRoles.get(grantee))
        && !(withoutPublic && grantee == Principals.PUBLIC);
  }

  /** Whether somebody who gave something is meant; below zero nobody knows who it was. */
  public boolean gave(int grantor) {
    return by == null || grantor >= 0 && by.get(grantor);
  }

  /** Whether a membership of one role is meant. */
  public boolean ofRole(int role) {
    return roles == null || roles.get(role);
  }

  /** Whether one who holds a role is meant. */
  public boolean member(int member) {
    return to == null || to.get(member);
  }

  /** Whether users or roles are named, so that all they hold is worth following. */
  public boolean namesPeople() {
    return to != null || roles != null;
  }

  /** Those who may have been given something, where they are narrowed down; else null. */
  public @Nullable BitSet grantees() {
    if (to == null || underRoles == null) {
      return to == null ? underRoles : to;
    }
    BitSet both = (BitSet) to.clone();
    both.and(underRoles);
    return both;
  }

  /** The things that are meant, where they are narrowed down by name; else null. */
  public @Nullable BitSet things() {
    return nodes;
  }

  /** Whether those who gave something are narrowed down. */
  public boolean namesGivers() {
    return by != null;
  }

  /** Whether things are narrowed down at all. */
  public boolean namesThings() {
    return nodes != null || kinds != EVERY_KIND;
  }

  /** Whether a thing is meant. */
  public boolean includes(int node) {
    return (nodes == null || nodes.get(node)) && (kinds & tree.kind(node).bit()) != 0;
  }

  /** The privileges that are meant, among these. */
  public long among(long bits) {
    return bits & privileges;
  }

  private static BitSet both(@Nullable BitSet one, BitSet other) {
    if (one != null) {
      other.and(one);
    }
    return other;
  }

  private BitSet principals(String typed) throws BadInput {
    BitSet found = new BitSet();
    if (!NamePattern.is(typed)) {
      Lookup.Found one = new Lookup(access).principal(typed);
      if (!one.ok()) {
        throw new BadInput(one.problem());
      }
      found.set(one.id());
      return found;
    }
    NamePattern pattern = new NamePattern(typed);
    for (int id = 0; id < people.size(); id++) {
      if (pattern.matches(people.name(id)) || pattern.matches(access.bareName(id))) {
        found.set(id);
      }
    }
    if (found.isEmpty()) {
      throw new BadInput("no user and no role is called like " + typed);
    }
    return found;
  }

  private BitSet named(String typed, boolean schemas) throws BadInput {
    BitSet found = new BitSet();
    if (!NamePattern.is(typed)) {
      Lookup.Found exact = new Lookup(access).node(typed, 0, false);
      Lookup.Found one =
          exact.ok() ? exact : new Lookup(access).anywhere(typed, 0, false).orElse(exact);
      if (!one.ok()) {
        throw new BadInput(one.problem());
      }
      if (schemas && tree.kind(one.id()).isObject()) {
        throw new BadInput(typed + " is a " + tree.kind(one.id()).text() + " and no schema");
      }
      found.set(one.id());
      return found;
    }
    NamePattern pattern = new NamePattern(typed);
    boolean dotted = typed.indexOf('.') >= 0;
    for (int node = 1; node < tree.size(); node++) {
      boolean fits = !schemas || tree.kind(node) == NodeKind.SCHEMA;
      if (fits && (dotted ? isAt(node, pattern) : pattern.matches(tree.name(node)))) {
        found.set(node);
      }
    }
    if (found.isEmpty()) {
      throw new BadInput("nothing is called like " + typed + " on " + access.about().server());
    }
    return found;
  }

  /** The database may be left out. */
  private boolean isAt(int node, NamePattern pattern) {
    String path = tree.path(node);
    int database = tree.enclosing(node, NodeKind.DATABASE);
    boolean inside = database > 0 && database != node;
    return pattern.matches(path)
        || inside && pattern.matches(path.substring(tree.path(database).length() + 1));
  }
}
