package fiador.changes.outcome;

import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.estate.PrincipalKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.WhatIf;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.HashMap;
import java.util.Map;

/** What the parts of an outcome share: who and what steps name, and whom they touched. */
final class Ground {
  final Access base;
  final Tree tree;
  final WhatIf whatIf;
  final IntOpenHashSet grantees = new IntOpenHashSet();
  final IntOpenHashSet nodes = new IntOpenHashSet();
  final IntOpenHashSet joining = new IntOpenHashSet();
  private final Map<String, Integer> created = new HashMap<>();
  private final Map<String, Integer> known;

  /**
   * @param many whether to look all principals up at once
   */
  Ground(Access base, boolean many) {
    this.base = base;
    this.tree = base.tree();
    this.whatIf = new WhatIf(base);
    this.known = many ? new HashMap<>(base.principals().byName()) : new HashMap<>();
  }

  boolean has(HouseFact fact) {
    return base.rules().has(fact);
  }

  void create(PrincipalKind kind, String name) {
    int id = whatIf.principal(kind, name);
    created.put(name, id);
    joining.add(id);
  }

  void rename(String from, String to) {
    int id = principal(from);
    whatIf.rename(id, to);
    known.remove(from);
    known.put(to, id);
    joining.add(id);
  }

  void touched(int grantee, int node) {
    grantees.add(grantee);
    nodes.add(node);
  }

  /** Whether it was there before the first step. */
  boolean isOld(int principal) {
    return principal < base.principals().size();
  }

  boolean isUser(int id) {
    return isOld(id)
        ? base.principals().isUser(id)
        : created.entrySet().stream().anyMatch(e -> e.getValue() == id && e.getKey().contains("@"));
  }

  /**
   * The id of a name.
   *
   * @throws IllegalArgumentException when nobody has it
   */
  int principal(String name) {
    Integer fresh = created.get(name);
    int id = fresh == null ? known.computeIfAbsent(name, base.principals()::named) : fresh;
    if (id < 0) {
      throw new IllegalArgumentException("there is no user or role " + name);
    }
    return id;
  }

  /** The id of a grantor; -1 where none is named. */
  int grantor(String name) {
    return name == null ? -1 : principal(name);
  }

  int node(On on) {
    return Places.node(tree, on);
  }
}
