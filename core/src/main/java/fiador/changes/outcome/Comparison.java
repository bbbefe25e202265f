package fiador.changes.outcome;

import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Extent;
import fiador.grants.Grants;
import fiador.grants.Reach;
import fiador.grants.Terms;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.Arrays;

/**
 * Compares what single principals reach, and what they were given, before and after a change, where
 * grants add up. Remembers the closures it has compared. Cost of a question: the role closure of
 * the principal, twice; on a node also the grants on it and its containers.
 */
final class Comparison {
  private final Access before;
  private final Access after;
  private final Way inherit;
  private final Way set;

  /** A principal's closures over one sort of membership. */
  private static final class Way {
    private final Access before;
    private final Access after;
    private final Reach old;
    private final Reach fresh;
    private final Int2ObjectOpenHashMap<Tilt> known = new Int2ObjectOpenHashMap<>();
    private final Int2ObjectOpenHashMap<IntOpenHashSet> had = new Int2ObjectOpenHashMap<>();
    private final Int2ObjectOpenHashMap<IntOpenHashSet> has = new Int2ObjectOpenHashMap<>();

    Way(Access before, Access after, boolean inherit) {
      this.before = before;
      this.after = after;
      this.old = reach(before, inherit);
      this.fresh = reach(after, inherit);
    }

    private static Reach reach(Access access, boolean inherit) {
      var memberships = access.memberships();
      return inherit
          ? new Reach(access, edge -> memberships.options(edge).inherit())
          : new Reach(access, edge -> memberships.options(edge).set());
    }

    private IntArrayList old(int principal) {
      return principal < before.principals().size() ? old.up(principal) : new IntArrayList();
    }

    IntOpenHashSet had(int principal) {
      return had.computeIfAbsent(principal, id -> new IntOpenHashSet(old(id)));
    }

    IntOpenHashSet has(int principal) {
      return has.computeIfAbsent(principal, id -> new IntOpenHashSet(fresh.up(id)));
    }

    /** Whether it was there, is not dropped and has the same account. */
    private boolean isAsItWas(int principal) {
      Principals old = before.principals();
      Principals fresh = after.principals();
      return principal < old.size()
          && old.name(principal).equals(fresh.name(principal))
          && old.account(principal).equals(fresh.account(principal));
    }

    Tilt of(int principal) {
      Tilt found = known.get(principal);
      if (found == null) {
        found = compare(principal);
        known.put(principal, found);
      }
      return found;
    }

    private Tilt compare(int principal) {
      IntArrayList had = old(principal);
      IntArrayList has = fresh.up(principal);
      for (int each : has) {
        if (!isAsItWas(each)) {
          return Tilt.OTHER;
        }
      }
      if (!new IntOpenHashSet(had).containsAll(has)) {
        return Tilt.OTHER;
      }
      return had.size() == has.size() ? Tilt.SAME : Tilt.LESS;
    }
  }

  Comparison(Access before, Access after) {
    this.before = before;
    this.after = after;
    this.inherit = new Way(before, after, true);
    this.set = new Way(before, after, false);
  }

  /** Of the roles a principal has on and can switch to, and of what comes with those. */
  Tilt ofRoles(int principal) {
    Tilt tilt = inherit.of(principal).and(set.of(principal));
    for (int role : set.fresh.up(principal)) {
      tilt = tilt.and(inherit.of(role));
    }
    return tilt;
  }

  /**
   * Of what some grantees have on a node.
   *
   * @param most those with more of a difference than this are put to {@code found}
   */
  Tilt onNode(int node, IntOpenHashSet grantees, Tilt most, IntOpenHashSet found) {
    IntOpenHashSet here = new IntOpenHashSet();
    for (Access access : new Access[] {before, after}) {
      for (int row : access.grants().byNode().run(node)) {
        if (grantees.contains(access.grants().grantee(row))) {
          here.add(access.grants().grantee(row));
        }
      }
    }
    Tilt tilt = Tilt.SAME;
    for (int grantee : here.toIntArray()) {
      Tilt theirs = grantee < before.principals().size() ? onNode(grantee, node) : Tilt.OTHER;
      if (theirs.compareTo(most) > 0) {
        found.add(grantee);
      }
      tilt = tilt.and(theirs);
    }
    return tilt;
  }

  private Tilt onNode(int grantee, int node) {
    Extent[] had = given(before, inherit.had(grantee), grantee, node);
    Extent[] has = given(after, inherit.has(grantee), grantee, node);
    Tilt tilt = Tilt.SAME;
    for (int i = 0; i < had.length; i++) {
      tilt =
          tilt.and(Tilt.of(had[i].privileges(), has[i].privileges()))
              .and(Tilt.of(had[i].grantable(), has[i].grantable()));
    }
    return tilt;
  }

  /**
   * What a closure was given on a node: privileges and those that may be granted on, for each
   * column, then for the whole, then what the grantee itself passes to what the node contains.
   */
  private static Extent[] given(Access access, IntOpenHashSet closure, int grantee, int node) {
    Tree tree = access.tree();
    Grants grants = access.grants();
    int columns = tree.columns(node);
    Extent[] sum = new Extent[columns + 2];
    Arrays.fill(sum, Extent.NONE);
    for (int at = node; at >= 0; at = tree.parent(at)) {
      for (int row : grants.byNode().run(at)) {
        Terms terms = grants.terms(row);
        boolean reaches = at == node || (terms.covers() & tree.kind(node).bit()) != 0;
        if (!reaches || !closure.contains(grants.grantee(row))) {
          continue;
        }
        Extent given = Extent.of(terms);
        if (grants.columns(row) == ColumnSets.WHOLE) {
          for (int i = 0; i <= columns; i++) {
            sum[i] = sum[i].and(given);
          }
        } else {
          for (int ordinal : access.columnSets().ordinals(grants.columns(row))) {
            sum[ordinal] = sum[ordinal].and(given);
          }
        }
        if (at == node && terms.covers() != 0 && grants.grantee(row) == grantee) {
          sum[columns + 1] = sum[columns + 1].and(given);
        }
      }
    }
    return sum;
  }
}
