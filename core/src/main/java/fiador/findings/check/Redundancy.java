package fiador.findings.check;

import fiador.estate.Principals;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.Reach;
import fiador.grants.Terms;
import fiador.grants.rules.Activation;
import fiador.grants.rules.HouseFact;
import java.util.Arrays;

/**
 * Finds grants and memberships that change nothing, because the same comes by another way that is
 * on just as much. Where only one role is on at a time, ways of users over roles do not count: they
 * go when the user switches. Cost of a question: the other grants on the same node and its
 * containers.
 */
public final class Redundancy {
  /** Not covered. */
  public static final int NOTHING = -1;

  private final Facts facts;
  private final Grants grants;
  private final Memberships memberships;
  private final Reach on;
  private final Stamps stamps;
  private final boolean oneAtATime;

  public Redundancy(Facts facts) {
    this.facts = facts;
    this.grants = facts.access.grants();
    this.memberships = facts.access.memberships();
    this.on = new Reach(facts.access, edge -> isOn(memberships.options(edge)));
    this.stamps = new Stamps(facts.people.size(), principal -> on.up(principal).toIntArray());
    this.oneAtATime = facts.access.rules().activation() == Activation.ONE_AT_A_TIME;
  }

  /** Whether a membership adds all that the role has, after login and after switching. */
  private boolean isOn(Membership how) {
    boolean always = facts.access.rules().activation() == Activation.ALL_ON;
    return how.inherit() && (how.set() || always) && how.until() == Terms.FOREVER;
  }

  /** Who has all that a grant gives as well: its grantee by another grant, or a role of it. */
  public int coveredBy(int row) {
    int node = grants.node(row);
    Terms terms = grants.terms(row);
    if (terms.privileges() == 0 || facts.access.rules().has(HouseFact.DENIALS)) {
      return NOTHING;
    }
    for (int at = node; at >= 0; at = facts.tree.parent(at)) {
      for (int place = grants.byNode().from(at); place < grants.byNode().to(at); place++) {
        int other = grants.byNode().row(place);
        if (other != row && comesTo(other, row) && gives(other, at, row, node)) {
          return grants.grantee(other);
        }
      }
    }
    return NOTHING;
  }

  private boolean gives(int other, int at, int row, int node) {
    Terms terms = grants.terms(row);
    Terms more = grants.terms(other);
    long lacking = terms.privileges() & ~more.privileges();
    long options = terms.grantable() & ~more.grantable();
    boolean reaches =
        at == node
            ? (terms.covers() & ~more.covers()) == 0
            : terms.covers() == 0 && (more.covers() & facts.tree.kind(node).bit()) != 0;
    return lacking == 0
        && options == 0
        && reaches
        && more.until() >= terms.until()
        && more.isByName()
        && terms.isByName()
        && columnsOf(other, row);
  }

  private boolean columnsOf(int other, int row) {
    int more = grants.columns(other);
    int less = grants.columns(row);
    if (more == ColumnSets.WHOLE || more == less) {
      return true;
    }
    if (less == ColumnSets.WHOLE) {
      return false;
    }
    int[] wide = facts.access.columnSets().ordinals(more);
    return Arrays.stream(facts.access.columnSets().ordinals(less))
        .allMatch(column -> Arrays.binarySearch(wide, column) >= 0);
  }

  private boolean comesTo(int other, int row) {
    int grantee = grants.grantee(row);
    int holder = grants.grantee(other);
    if (holder == grantee) {
      // the same from two grantors is one thing to whoever reads statements
      boolean apart = facts.access.rules().has(HouseFact.COLUMNS_APART);
      boolean oneWhole =
          grants.columns(other) == ColumnSets.WHOLE != (grants.columns(row) == ColumnSets.WHOLE);
      return grants.node(other) != grants.node(row) || apart && oneWhole;
    }
    // what everybody has, or another user, is rather itself redundant
    boolean odd = holder == Principals.PUBLIC || facts.people.isUser(holder);
    if (odd || oneAtATime && facts.people.isUser(grantee)) {
      return false;
    }
    // roles in a circle cover each other; one of them has to stay
    return stamps.holds(grantee, holder) && !on.holds(holder, grantee);
  }

  /** The role through which a member has another role anyway, or -1. */
  public int edgeCoveredBy(int edge) {
    Membership how = memberships.options(edge);
    int member = memberships.member(edge);
    int role = memberships.role(edge);
    boolean plain = isOn(how) && !how.admin() && !how.implicit();
    if (!plain || oneAtATime && facts.people.isUser(member)) {
      return NOTHING;
    }
    for (int other : memberships.rolesOf().run(member)) {
      Membership way = memberships.options(other);
      int through = memberships.role(other);
      if (through != role
          && !facts.people.isUser(through)
          && isOn(way)
          && on.holds(through, role)
          && !on.holds(role, through)
          && !on.holds(through, member)) {
        return through;
      }
    }
    return NOTHING;
  }
}
