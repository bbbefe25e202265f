package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntCollection;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;

/** Everything that gives one privilege on one node (or one column of it), by who has it. */
final class Sources implements PathSearch.Ends {
  private final Access access;
  private final Int2ObjectOpenHashMap<List<Source>> passedOn = new Int2ObjectOpenHashMap<>();
  private final Int2ObjectOpenHashMap<List<Source>> own = new Int2ObjectOpenHashMap<>();

  /**
   * @param column an ordinal; -1 for the whole object; -2 for any part of it
   */
  Sources(Access access, long privilege, int node, int column) {
    this.access = access;
    Tree tree = access.tree();
    boolean exists = (access.rules().privilegesOn(tree.kind(node)) & privilege) != 0;
    for (int at = node; at >= 0; at = tree.parent(at)) {
      addGrants(privilege, node, at, column, exists);
    }
    addOwner(privilege, node, exists);
    if ((access.notByPower(node) & privilege) == 0) {
      addPowers(privilege, tree.kind(node), exists);
    }
  }

  static final int ANY_PART = -2;

  private void addGrants(long privilege, int node, int at, int column, boolean exists) {
    Grants grants = access.grants();
    int wantedKind = at == node ? 0 : access.tree().kind(node).bit();
    for (int place = grants.byNode().from(at); place < grants.byNode().to(at); place++) {
      int row = grants.byNode().row(place);
      Terms terms = grants.terms(row);
      if ((terms.privileges() & privilege) != 0
          && (terms.covers() & wantedKind) == wantedKind
          && (at == node || exists)
          && speaksAbout(grants.columns(row), column)) {
        boolean grantable = (terms.grantable() & privilege) != 0;
        add(passedOn, grants.grantee(row), new Source.Granted(row, grantable));
      }
    }
  }

  private boolean speaksAbout(int columnSet, int column) {
    return columnSet == ColumnSets.WHOLE
        || column == ANY_PART
        || column >= 0 && Arrays.binarySearch(access.columnSets().ordinals(columnSet), column) >= 0;
  }

  private void addOwner(long privilege, int node, boolean exists) {
    Tree tree = access.tree();
    Ownership ownership = access.rules().ownership();
    boolean bySchema = ownership == Ownership.SCHEMA;
    int home = bySchema ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    if (exists
        && ownership != Ownership.NONE
        && home >= 0
        && tree.owner(home) >= 0
        && (tree.withheld(node) & privilege) == 0) {
      add(passedOn, tree.owner(home), new Source.Owned(home));
    }
  }

  private void addPowers(long privilege, NodeKind kind, boolean exists) {
    Principals principals = access.principals();
    for (int i = 0; i < principals.powerful().size(); i++) {
      int principal = principals.powerful().getInt(i);
      for (Power power : Power.values()) {
        if (!principals.has(principal, power)) {
          continue;
        }
        if (power == Power.SUPERUSER && exists) {
          boolean inherited = access.rules().has(HouseFact.SUPERUSER_INHERITED);
          add(inherited ? passedOn : own, principal, new Source.Powered(power));
        } else if ((access.rules().opened(power, kind) & privilege) != 0) {
          add(passedOn, principal, new Source.Powered(power));
        }
      }
    }
  }

  private static void add(Map<Integer, List<Source>> to, int principal, Source source) {
    to.computeIfAbsent(principal, fresh -> new ArrayList<>(1)).add(source);
  }

  /**
   * Puts what other accounts of the user's name were given to the user, and leaves out the grants
   * that do not count for them.
   */
  void moveToAccount(int user, IntPredicate counts) {
    IntOpenHashSet others = new IntOpenHashSet(access.accounts().sameName(user));
    for (int id : access.accounts().nameless(user)) {
      others.add(id);
    }
    Map<Integer, List<Source>> before = new LinkedHashMap<>(passedOn);
    passedOn.clear();
    before.forEach(
        (principal, sources) -> {
          for (Source source : sources) {
            if (!(source instanceof Source.Granted granted) || counts.test(granted.row())) {
              add(passedOn, others.contains((int) principal) ? user : principal, source);
            }
          }
        });
  }

  /** What members of the principal get through it. */
  List<Source> passedOnBy(int principal) {
    return passedOn.getOrDefault(principal, List.of());
  }

  /** What counts only for the principal itself. */
  List<Source> ownOf(int principal) {
    return own.getOrDefault(principal, List.of());
  }

  /** Who has something that passes on. */
  int[] principals() {
    return passedOn.keySet().toIntArray();
  }

  @Override
  public int countPassedOn(int principal) {
    return passedOnBy(principal).size();
  }

  @Override
  public int countOwn(int principal) {
    return ownOf(principal).size();
  }

  @Override
  public IntCollection all() {
    IntOpenHashSet all = new IntOpenHashSet(passedOn.keySet());
    all.addAll(own.keySet());
    return all;
  }
}
