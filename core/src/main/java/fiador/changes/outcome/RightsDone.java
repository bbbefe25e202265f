package fiador.changes.outcome;

import fiador.changes.steps.About;
import fiador.changes.steps.Deny;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.wanted.Rights;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * What a survey shows of what principals were given and denied on things, named as steps name them.
 */
final class RightsDone {
  private final Access access;
  private final Tree tree;
  private final Map<On, On> names;

  /** With the other names of tables that move; whoever made it may add to them. */
  RightsDone(Access access, Map<On, On> names) {
    this.access = access;
    this.tree = access.tree();
    this.names = names;
  }

  /** What somebody is denied on a thing, or on all of some columns; of any where it is lifted. */
  long denied(Deny step) {
    int node = node(step.on());
    Rights denied = Rights.denied(access, access.principals().named(step.who()), node);
    if (step.columns().isEmpty()) {
      return denied.whole;
    }
    long found = step.lifted() ? 0 : -1L;
    for (String column : step.columns()) {
      long on = denied.on(tree.columnNamed(node, column));
      found = step.lifted() ? found | on : found & on;
    }
    return found;
  }

  /** The place of that name, or of its other name; below zero where there is neither. */
  int node(On on) {
    int found = Places.find(tree, on);
    On other = found < 0 ? names.get(on) : null;
    return other == null ? found : Places.find(tree, other);
  }

  private long bits(int grantee, int node, int column, boolean option) {
    return bits(grantee, node, column, option, None.PRINCIPAL);
  }

  private long bits(int grantee, int node, int column, boolean option, int grantor) {
    long bits = 0;
    Grants grants = access.grants();
    for (int row : grants.byNode().run(node)) {
      Terms terms = grants.terms(row);
      boolean here =
          column < 0
              ? grants.columns(row) == ColumnSets.WHOLE
              : grants.columns(row) != ColumnSets.WHOLE
                  && contains(access.columnSets().ordinals(grants.columns(row)), column);
      boolean named =
          terms.isByName()
              || terms.label() == Terms.NO_LABEL
                  && access.patterns().get(terms.pattern()).isOf(tree.name(node));
      boolean theirs = grantor < 0 || grants.grantor(row) < 0 || grants.grantor(row) == grantor;
      if (grants.grantee(row) == grantee && here && theirs && named) {
        bits |= option ? terms.grantable() : terms.privileges();
      }
    }
    return bits;
  }

  private static boolean contains(int[] ordinals, int column) {
    return Arrays.binarySearch(ordinals, column) >= 0;
  }

  /** Whether somebody has been given privileges, or those with the right to grant them on. */
  boolean given(About about, long privileges, boolean option) {
    int grantee = access.principals().named(about.holder());
    int node = node(about.on());
    List<String> columns = about.columns();
    if (grantee < 0 || node < 0) {
      return false;
    }
    boolean byPlace = option && access.accounts() != null;
    if (columns.isEmpty() || byPlace) {
      long bits = bits(grantee, node, None.COLUMN, option);
      return byPlace ? bits != 0 : (bits & privileges) == privileges;
    }
    return columns.stream()
        .mapToInt(column -> tree.columnNamed(node, column))
        .allMatch(
            column ->
                column >= 0 && (bits(grantee, node, column, option) & privileges) == privileges);
  }

  /** Whether nothing is left of privileges, or of the right to grant them on. */
  boolean gone(About about, long privileges, boolean option) {
    int grantee = access.principals().named(about.holder());
    int node = node(about.on());
    List<String> columns = about.columns();
    String grantor = about.grantor();
    if (grantee < 0 || node < 0) {
      return true;
    }
    int by =
        !access.rules().has(HouseFact.GRANTORS_COUNT)
            ? -1
            : grantor == null ? tree.owner(node) : access.principals().named(grantor);
    if (columns.isEmpty()) {
      return (bits(grantee, node, None.COLUMN, option, by) & privileges) == 0;
    }
    return columns.stream()
        .mapToInt(column -> tree.columnNamed(node, column))
        .filter(column -> column >= 0)
        .allMatch(column -> (bits(grantee, node, column, option, by) & privileges) == 0);
  }

  /** What somebody gets on things that are created later. */
  long later(String creator, On in, NodeKind kind, String grantee) {
    int container = node(in);
    boolean everybody = grantee.equals(access.principals().name(Principals.PUBLIC));
    long bits = everybody ? LaterGrant.openToAll(access, creator, container, kind) : 0;
    for (LaterGrant later : access.later()) {
      boolean same =
          later.creator() >= 0
              && access.principals().name(later.creator()).equals(creator)
              && later.in() == container
              && later.kind() == kind;
      for (LaterGrant.Given given : same ? later.given() : List.<LaterGrant.Given>of()) {
        boolean theirs = access.principals().name(given.grantee()).equals(grantee);
        bits |= theirs ? given.privileges() : 0;
      }
    }
    return bits;
  }
}
