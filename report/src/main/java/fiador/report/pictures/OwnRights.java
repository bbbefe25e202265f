package fiador.report.pictures;

import fiador.effects.Insiders;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import fiador.report.pictures.Figure.Manner;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * What a user or role was itself given, thing by thing, as lines of a drawing say it. What only
 * opens the way to other things, such as usage of a schema, is left out: it would be a line beside
 * every other.
 */
public final class OwnRights {
  private static final long WAY_IN =
      PrivilegeSet.of(Privilege.USAGE, Privilege.CONNECT, Privilege.TEMPORARY);

  private final Access access;
  private final Tree tree;
  private final Insiders insiders;
  private final boolean withWayIn;

  /** Of that estate, without what only opens the way. */
  public OwnRights(Access access) {
    this(access, false);
  }

  /**
   * Of that estate.
   *
   * @param withWayIn whether what only opens the way is said too
   */
  public OwnRights(Access access, boolean withWayIn) {
    this.withWayIn = withWayIn;
    this.access = access;
    this.tree = access.tree();
    this.insiders = new Insiders(access);
  }

  /**
   * What somebody has on a thing.
   *
   * @param privileges on the whole
   * @param some those on some columns alone
   * @param inside whether it is a container, and they are had on what lies in it
   * @param owns whether it is theirs
   */
  public record Right(int node, long privileges, long some, boolean inside, boolean owns) {
    private Right and(Right other) {
      return new Right(
          node,
          privileges | other.privileges,
          some | other.some,
          inside || other.inside,
          owns || other.owns);
    }

    /** As a line says it. */
    public String label() {
      if (owns) {
        return "owns";
      }
      List<String> parts = new ArrayList<>();
      if (privileges != 0) {
        parts.add(PrivilegeSet.text(privileges) + (inside ? " on all in it" : ""));
      }
      if ((some & ~privileges) != 0) {
        parts.add(PrivilegeSet.text(some & ~privileges) + " on some columns");
      }
      return String.join("; ", parts);
    }
  }

  /** What a user or role was given, by node. Cost: its grants and what it owns. */
  public List<Right> of(int principal) {
    Map<Integer, Right> found = new TreeMap<>();
    Grants grants = access.grants();
    for (int at = grants.byGrantee().from(principal); at < grants.byGrantee().to(principal); at++) {
      add(found, grants.byGrantee().row(at));
    }
    for (int at = tree.owned().from(principal); at < tree.owned().to(principal); at++) {
      int node = tree.owned().row(at);
      boolean counts =
          access.rules().ownership() == Ownership.OBJECT
              || access.rules().ownership() == Ownership.SCHEMA
                  && tree.kind(node) == NodeKind.SCHEMA;
      if (counts && !tree.isSystem(node)) {
        found.merge(node, new Right(node, 0, 0, false, true), Right::and);
      }
    }
    return List.copyOf(found.values());
  }

  private void add(Map<Integer, Right> found, int row) {
    Grants grants = access.grants();
    int node = grants.node(row);
    Terms terms = grants.terms(row);
    if (tree.isSystem(node)) {
      return;
    }
    long privileges = terms.privileges();
    boolean object = tree.kind(node).isObject();
    if (!object && terms.covers() == 0 && !withWayIn) {
      privileges &= ~WAY_IN;
    }
    if (privileges != 0) {
      boolean whole = grants.columns(row) == ColumnSets.WHOLE;
      Right right =
          new Right(
              node,
              whole ? privileges : 0,
              whole ? 0 : privileges,
              !object && terms.covers() != 0,
              false);
      found.merge(node, right, Right::and);
    }
  }

  /** The powers of a user or role that open things to it, or everything. */
  List<Power> powers(int principal) {
    List<Power> found = new ArrayList<>();
    for (Power power : Power.values()) {
      boolean opens = power == Power.SUPERUSER;
      for (NodeKind kind : NodeKind.values()) {
        opens |= access.rules().opened(power, kind) != 0;
      }
      if (opens && access.principals().has(principal, power)) {
        found.add(power);
      }
    }
    return found;
  }

  /** How a power comes to whoever holds the role that has it: some only after switching. */
  Manner comes(Power power) {
    boolean inherited =
        power != Power.SUPERUSER || access.rules().has(HouseFact.SUPERUSER_INHERITED);
    return inherited ? Manner.WORKS : Manner.ON_REQUEST;
  }

  /** Who has something on a thing itself or on what it lies in, and what. */
  Map<Integer, String> on(int node, int column) {
    Map<Integer, Right> found = new TreeMap<>();
    for (int at = node; at >= 0; at = tree.parent(at)) {
      Grants grants = access.grants();
      for (int place = grants.byNode().from(at); place < grants.byNode().to(at); place++) {
        addOn(found, node, column, grants.byNode().row(place));
      }
    }
    int owner = ownerOf(node);
    if (owner >= 0) {
      found.merge(owner, new Right(node, 0, 0, false, true), Right::and);
    }
    Map<Integer, String> labels = new TreeMap<>();
    found.forEach((who, right) -> labels.put(who, right.label()));
    addPowers(node, labels);
    return labels;
  }

  /** Whose a thing is, by its own owner or its schema's as the server has it; -1 for nobody's. */
  public int ownerOf(int node) {
    Ownership ownership = access.rules().ownership();
    int home = ownership == Ownership.SCHEMA ? tree.enclosing(node, NodeKind.SCHEMA) : node;
    return home < 0 || ownership == Ownership.NONE ? None.PRINCIPAL : tree.owner(home);
  }

  private void addOn(Map<Integer, Right> found, int node, int column, int row) {
    Grants grants = access.grants();
    Terms terms = grants.terms(row);
    boolean here = grants.node(row) == node;
    if (!here && (terms.covers() & tree.kind(node).bit()) == 0) {
      return;
    }
    long privileges = terms.privileges();
    privileges &= column >= 0 ? access.rules().columnPrivileges() : -1L;
    boolean whole = grants.columns(row) == ColumnSets.WHOLE;
    boolean meant = whole || column < 0 || has(grants.columns(row), column);
    if (meant && privileges != 0 && (here || whole)) {
      Right right = new Right(node, whole ? privileges : 0, whole ? 0 : privileges, false, false);
      found.merge(grants.grantee(row), right, Right::and);
    }
  }

  private boolean has(int columnSet, int column) {
    for (int ordinal : access.columnSets().ordinals(columnSet)) {
      if (ordinal == column) {
        return true;
      }
    }
    return false;
  }

  private void addPowers(int node, Map<Integer, String> labels) {
    Principals principals = access.principals();
    for (int i = 0; i < principals.powerful().size(); i++) {
      int who = principals.powerful().getInt(i);
      for (Power power : Power.values()) {
        boolean opens =
            power == Power.SUPERUSER || access.rules().opened(power, tree.kind(node)) != 0;
        if (principals.has(who, power) && opens && !insiders.isOut(who, node)) {
          labels.putIfAbsent(who, power.text());
        }
      }
    }
  }
}
