package fiador.effects;

import fiador.estate.NodeKind;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.ints.Int2ObjectArrayMap;
import it.unimi.dsi.fastutil.ints.Int2ObjectOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntCollection;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;

/**
 * Everything that gives one privilege on one node (or one column of it), by who has it. What
 * somebody was granted is looked at when it is asked for.
 */
final class Sources implements PathSearch.Ends {
  static final int ANY_PART = -2;

  private final Access access;
  private final GrantsOn grants;
  private final long privilege;
  private final int column;
  private final boolean exists;

  /** What owning and powers give that passes on, and what counts for nobody else: a few at most. */
  private final Int2ObjectArrayMap<List<Source>> notGranted = new Int2ObjectArrayMap<>(1);

  private final Int2ObjectArrayMap<List<Source>> own = new Int2ObjectArrayMap<>(1);
  private final Int2ObjectOpenHashMap<List<Source>> passedOn = new Int2ObjectOpenHashMap<>();
  private final IntOpenHashSet all = new IntOpenHashSet();

  /** As the other, for a single question. */
  Sources(Access access, long privilege, int node, int column) {
    this(access, new GrantsOn(access, new ComingDown(access), node), privilege, node, column);
  }

  /**
   * @param grants those on the node
   * @param column an ordinal; -1 for the whole object; -2 for any part of it
   */
  Sources(Access access, GrantsOn grants, long privilege, int node, int column) {
    this.access = access;
    this.grants = grants;
    this.privilege = privilege;
    this.column = column;
    NodeKind kind = access.tree().kind(node);
    this.exists = (access.rules().privilegesOn(kind) & privilege) != 0;
    addOwner(node);
    if ((access.notByPower(node) & privilege) == 0) {
      addPowers(kind);
    }
    all.addAll(grants.givenItself());
    if (exists) {
      all.addAll(grants.givenFromAbove());
    }
    all.addAll(notGranted.keySet());
    all.addAll(own.keySet());
  }

  private List<Source> find(int principal) {
    List<Source> found = new ArrayList<>(1);
    addGranted(grants.itself(principal), found);
    if (exists) {
      addGranted(grants.fromAbove(principal), found);
    }
    found.addAll(notGranted.getOrDefault(principal, List.of()));
    return found;
  }

  private void addGranted(IntArrayList rows, List<Source> to) {
    for (int i = 0; i < rows.size(); i++) {
      int row = rows.getInt(i);
      Terms terms = access.grants().terms(row);
      if ((terms.privileges() & privilege) != 0
          && speaksAbout(access.grants().columns(row), column)) {
        to.add(new Source.Granted(row, (terms.grantable() & privilege) != 0));
      }
    }
  }

  private boolean speaksAbout(int columnSet, int column) {
    return columnSet == ColumnSets.WHOLE
        || column == ANY_PART
        || column >= 0 && Arrays.binarySearch(access.columnSets().ordinals(columnSet), column) >= 0;
  }

  private void addOwner(int node) {
    Tree tree = access.tree();
    Ownership ownership = access.rules().ownership();
    boolean bySchema = ownership == Ownership.SCHEMA;
    int home = bySchema ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    if (exists
        && ownership != Ownership.NONE
        && home >= 0
        && tree.owner(home) >= 0
        && (tree.withheld(node) & privilege) == 0) {
      add(notGranted, tree.owner(home), new Source.Owned(home));
    }
  }

  private void addPowers(NodeKind kind) {
    Principals principals = access.principals();
    for (int i = 0; i < principals.powerful().size(); i++) {
      int principal = principals.powerful().getInt(i);
      for (Power power : Power.values()) {
        if (!principals.has(principal, power)) {
          continue;
        }
        if (power == Power.SUPERUSER && exists) {
          boolean inherited = access.rules().has(HouseFact.SUPERUSER_INHERITED);
          add(inherited ? notGranted : own, principal, new Source.Powered(power));
        } else if ((access.rules().opened(power, kind) & privilege) != 0) {
          add(notGranted, principal, new Source.Powered(power));
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
    Map<Integer, List<Source>> before = new LinkedHashMap<>();
    all.forEach(principal -> before.put(principal, find(principal)));
    passedOn.clear();
    all.forEach(principal -> passedOn.put(principal, new ArrayList<>(1)));
    before.forEach(
        (principal, sources) -> {
          for (Source source : sources) {
            if (!(source instanceof Source.Granted granted) || counts.test(granted.row())) {
              add(passedOn, others.contains((int) principal) ? user : principal, source);
            }
          }
        });
    all.add(user);
  }

  /** What members of the principal get through it. */
  List<Source> passedOnBy(int principal) {
    List<Source> known = passedOn.get(principal);
    if (known == null) {
      known = find(principal);
      passedOn.put(principal, known);
    }
    return known;
  }

  /** What counts only for the principal itself. */
  List<Source> ownOf(int principal) {
    return own.getOrDefault(principal, List.of());
  }

  /** Who has something that passes on. */
  int[] principals() {
    return all.intStream().filter(each -> !passedOnBy(each).isEmpty()).sorted().toArray();
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
    return all;
  }
}
