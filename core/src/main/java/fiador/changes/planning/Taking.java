package fiador.changes.planning;

import fiador.changes.steps.GiveRole;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeRole;
import fiador.estate.None;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Makes the steps that take a single grant or membership away, and put a smaller one there. */
public final class Taking {
  private final Access access;

  /** On that server. */
  public Taking(Access access) {
    this.access = access;
  }

  /**
   * Takes privileges of a grant away; null where no statement by names can, because it was given on
   * schemas by a pattern that means several, or on what carries a label.
   */
  public Step revoke(int row, long privileges) {
    return revoke(row, privileges, None.COLUMN);
  }

  /**
   * As the other, of one column alone where the grant is on columns.
   *
   * @param column an ordinal, or {@link None#COLUMN} for all that the grant is on
   */
  public Step revoke(int row, long privileges, int column) {
    Grants grants = access.grants();
    Tree tree = access.tree();
    Terms terms = grants.terms(row);
    int node = grants.node(row);
    boolean byPattern = terms.pattern() != Terms.NO_PATTERN;
    if (terms.label() != Terms.NO_LABEL
        || byPattern && !access.patterns().get(terms.pattern()).isOf(tree.name(node))) {
      return null;
    }
    // what no statement gives, none takes either
    long possible = access.rules().grantableOn(tree.kind(node));
    long taken = terms.privileges() & privileges & possible;
    if (taken == 0) {
      return null;
    }
    List<String> columns = new ArrayList<>();
    if (grants.columns(row) != ColumnSets.WHOLE) {
      for (int ordinal : access.columnSets().ordinals(grants.columns(row))) {
        if (column < 0 || column == ordinal) {
          columns.add(tree.column(node, ordinal));
        }
      }
    }
    return new Revoke(
        taken,
        Places.on(tree, node),
        columns,
        access.principals().name(grants.grantee(row)),
        (terms.grantable() & privileges) != 0 && !optionByPlace(),
        grantor(grants.grantor(row), node));
  }

  /**
   * The grants that rest on a grant, because its grantee gave them on with the right it had from
   * there alone: a server refuses to take it while they are there.
   */
  public IntArrayList restingOn(int row, long privileges) {
    Grants grants = access.grants();
    IntArrayList found = new IntArrayList();
    int node = grants.node(row);
    int giver = grants.grantee(row);
    long bits = grants.terms(row).grantable() & privileges;
    for (int other : grants.byNode().run(node)) {
      boolean another = other != row && grants.grantee(other) == giver;
      bits &= another ? ~grants.terms(other).grantable() : -1L;
    }
    if (bits == 0 || optionByPlace() || giver == access.tree().owner(node)) {
      return found;
    }
    for (int other : grants.byNode().run(node)) {
      boolean theirs = grants.grantor(other) == giver && grants.grantee(other) != giver;
      if (theirs && (grants.terms(other).privileges() & bits) != 0) {
        found.add(other);
      }
    }
    return found;
  }

  /** The memberships that rest on a membership; as for grants. */
  public IntArrayList membershipsRestingOn(int edge) {
    var memberships = access.memberships();
    IntArrayList found = new IntArrayList();
    int role = memberships.role(edge);
    int giver = memberships.member(edge);
    boolean rests = access.rules().has(HouseFact.MEMBERSHIPS_BY_GRANTOR);
    if (!rests || !memberships.options(edge).admin()) {
      return found;
    }
    for (int other : memberships.rolesOf().run(giver)) {
      boolean same = other != edge && memberships.role(other) == role;
      if (same && memberships.options(other).admin()) {
        return found;
      }
    }
    for (int other : memberships.membersOf().run(role)) {
      if (memberships.grantor(other) == giver) {
        found.add(other);
      }
    }
    return found;
  }

  /**
   * The same takes, with what has to go along: what was given on with what is taken stays with whom
   * it was given to, from another hand.
   */
  public List<Step> complete(List<Step> takes, Clock clock) {
    Set<Step> all = new LinkedHashSet<>(takes);
    new Resting(access).takeOver(all, new LinkedHashSet<>());
    return new LettingIn(access, clock).through(Resting.first(all));
  }

  /** Takes the right to grant on and leaves the privileges. */
  public Step takeOption(int row) {
    Grants grants = access.grants();
    int node = grants.node(row);
    return new TakeOption(
        grants.terms(row).grantable(),
        Places.on(access.tree(), node),
        List.of(),
        access.principals().name(grants.grantee(row)),
        grantor(grants.grantor(row), node));
  }

  /** Takes a role from a member; null for a membership the server made up. */
  public Step leave(int edge) {
    var memberships = access.memberships();
    if (memberships.options(edge).implicit()) {
      return null;
    }
    int by = memberships.grantor(edge);
    boolean several = access.rules().has(HouseFact.MEMBERSHIPS_BY_GRANTOR);
    return new TakeRole(
        access.principals().name(memberships.role(edge)),
        access.principals().name(memberships.member(edge)),
        memberships.held(memberships.member(edge), memberships.role(edge)),
        by < 0 || !several ? null : access.principals().name(by),
        several);
  }

  /**
   * Gives a role to somebody who does not hold it, in place of one that is taken.
   *
   * @param as how they hold that one: it counts at once, or after switching, just the same; it may
   *     not be given on
   */
  public Step giveInstead(String role, int member, Membership as) {
    boolean several = access.rules().has(HouseFact.MEMBERSHIPS_BY_GRANTOR);
    String name = access.principals().name(member);
    Membership how = several ? Membership.of(false, as.inherit(), as.set()) : Membership.PLAIN;
    return new GiveRole(role, name, how, null, several);
  }

  /** The name of a node as steps write it. */
  public On on(int node) {
    return Places.on(access.tree(), node);
  }

  private String grantor(int by, int node) {
    return optionByPlace() || by < 0 || by == access.tree().owner(node)
        ? null
        : access.principals().name(by);
  }

  private boolean optionByPlace() {
    return access.rules().has(HouseFact.OPTION_BY_PLACE);
  }
}
