package fiador.sqltext.needs;

import fiador.effects.Need;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What has been found to be needed so far, each thing once. */
final class Collected {
  private static final long ROWS =
      PrivilegeSet.of(Privilege.SELECT, Privilege.INSERT, Privilege.UPDATE, Privilege.DELETE);

  private final Access access;
  private final Tree tree;
  private final Map<On, BitSet> columns = new LinkedHashMap<>();
  private final Set<Need> others = new LinkedHashSet<>();
  private final boolean makesView;

  /** A privilege on a thing. */
  private record On(Privilege privilege, int node) {}

  Collected(Access access) {
    this(access, false);
  }

  /**
   * As the other.
   *
   * @param makesView whether what is read is for a view that is made, and not for somebody
   */
  Collected(Access access, boolean makesView) {
    this.access = access;
    this.tree = access.tree();
    this.makesView = makesView && access.rules().has(HouseFact.MAKES_VIEWS_OF_ANY_RIGHT);
  }

  /** That a column comes out as it is; whether that has been taken note of. */
  boolean shown(int node, int ordinal) {
    if (makesView) {
      BitSet column = new BitSet();
      column.set(ordinal);
      others.add(new Need.Right(ROWS, node, column, false));
    }
    return makesView;
  }

  boolean has(HouseFact fact) {
    return access.rules().has(fact);
  }

  /** That something of a thing is used, if only that it is there. */
  void any(Privilege privilege, int node) {
    columns.computeIfAbsent(new On(privilege, node), fresh -> new BitSet());
  }

  /** That a column is used. */
  void column(Privilege privilege, int node, int ordinal) {
    columns.computeIfAbsent(new On(privilege, node), fresh -> new BitSet()).set(ordinal);
  }

  /** That all columns are used. */
  void all(Privilege privilege, int node) {
    BitSet used = columns.computeIfAbsent(new On(privilege, node), fresh -> new BitSet());
    used.set(0, tree.columns(node));
  }

  /** That one of some privileges is needed on the whole. */
  void whole(int node, Privilege... anyOf) {
    others.add(new Need.Right(PrivilegeSet.of(anyOf), node, null, false));
  }

  /** That some column can be read, whichever. */
  void somethingRead(int node) {
    others.add(new Need.Right(Privilege.SELECT.bit(), node, null, true));
  }

  /** One that was found elsewhere. */
  void need(Need need) {
    others.add(need);
  }

  /** That it has to be owned. */
  void ownership(int node) {
    others.add(new Need.Ownership(node));
  }

  /** That what is in the node's containers must be found by name. */
  void found(int node) {
    for (Gate gate : access.rules().gates()) {
      int container = tree.enclosing(node, gate.container());
      if (container >= 0
          && tree.kind(container) == NodeKind.SCHEMA
          && access.stands(gate, container)) {
        whole(container, gate.privilege());
      }
    }
  }

  /** All of it. */
  List<Need> needs() {
    List<Need> needs = new ArrayList<>();
    columns.forEach((on, used) -> needs.add(right(on, used)));
    needs.addAll(others);
    return needs;
  }

  private Need right(On on, BitSet used) {
    long bit = on.privilege().bit();
    boolean byColumn = (access.rules().columnPrivileges() & bit) != 0;
    if (!byColumn) {
      return new Need.Right(bit, on.node(), null, false);
    }
    boolean reads = on.privilege() == Privilege.SELECT;
    boolean anyRight = reads && access.rules().has(HouseFact.ANY_RIGHT_COUNTS_ROWS);
    long any = anyRight ? access.rules().privilegesOn(tree.kind(on.node())) : bit;
    any = reads && makesView ? ROWS : any;
    return used.isEmpty()
        ? new Need.Right(any, on.node(), null, true)
        : new Need.Right(bit, on.node(), used, false);
  }
}
