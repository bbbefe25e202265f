package fiador.changes.planning;

import fiador.changes.wanted.Problem;
import fiador.changes.wanted.Rights;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.Wanted.Action;
import fiador.changes.wanted.Wanted.Every;
import fiador.changes.wanted.Wanted.Single;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.NodeKind;
import fiador.estate.Privilege;
import fiador.estate.PrivilegeSet;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Extent;
import fiador.grants.Lookup;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * What the grant sentences of a charter come to on the objects of a server: the names are looked up
 * and "every" is spelled out.
 */
public final class Demands {
  private static final Set<NodeKind> ROWS = Set.of(NodeKind.TABLE, NodeKind.VIEW);

  private final Access access;
  private final Tree tree;
  private final Lookup lookup;
  private final Map<String, Map<Integer, Rights>> rights = new LinkedHashMap<>();
  private final Map<LaterKey, Extent> later = new LinkedHashMap<>();
  private final Map<String, List<Labelled>> labels;
  private final Map<Integer, ShownSafely> safe;
  private final Set<Integer> safeViews;
  private final Map<Integer, Integer> tables;
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();

  /**
   * What a grant for later objects is about.
   *
   * @param container a schema or database
   */
  record LaterKey(String creator, int container, NodeKind kind, String grantee) {}

  private boolean ofDenials;

  /**
   * @param labels what carries which label
   * @param safe through what the readers of tables with policies go on
   * @param safeViews all views that stand for tables, which tell nothing of who makes what there
   */
  public Demands(
      Access access,
      Map<String, List<Labelled>> labels,
      Map<Integer, ShownSafely> safe,
      Set<Integer> safeViews) {
    this.safeViews = safeViews;
    this.labels = labels;
    this.safe = safe;
    this.access = access;
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.tables = ShownSafely.tables(access, safe);
  }

  /** The same, of what is to be denied. */
  public Demands ofDenials() {
    ofDenials = true;
    return this;
  }

  /** Adds what others come to, without their problems and notes. */
  void join(Demands others) {
    others.rights.forEach(
        (grantee, byNode) -> byNode.forEach((node, theirs) -> rights(grantee, node).add(theirs)));
    others.later.forEach((key, extent) -> later.merge(key, extent, Extent::and));
  }

  /** What is demanded, by grantee and node. */
  public Map<String, Map<Integer, Rights>> rights() {
    return rights;
  }

  /** What is demanded for later objects: privileges, and those that may be granted on. */
  Map<LaterKey, Extent> later() {
    return later;
  }

  public List<Problem> problems() {
    return problems;
  }

  Set<String> notes() {
    return notes;
  }

  /**
   * Adds a sentence.
   *
   * @param accounts by the charter's name of a principal, its names on the server
   */
  void add(Wanted.Grant wanted, Map<String, List<String>> accounts) {
    String name = wanted.grantee();
    add(wanted, accounts.getOrDefault(name, List.of(StoredName.of(name, access.rules()))));
  }

  /**
   * Adds a sentence.
   *
   * @param grantees the grantee as the server stores it; several where one user is several accounts
   */
  public void add(Wanted.Grant wanted, List<String> grantees) {
    for (String grantee : grantees) {
      if (wanted.target() instanceof Single single) {
        addOne(wanted, single, grantee);
      } else if (wanted.target() instanceof Every every) {
        addEvery(wanted, every, grantee);
      }
    }
  }

  private void addOne(Wanted.Grant wanted, Single target, String grantee) {
    NodeKind kind = target.kind();
    long all = 0;
    for (Action action : wanted.actions()) {
      all |= action.privilege() == null ? 0 : action.privilege().bit();
    }
    if (kind != null && all != 0 && (access.rules().privilegesOn(kind) & all) == 0) {
      notes.add(
          access.rules().kind()
              + " has no "
              + PrivilegeSet.text(all)
              + " on "
              + kind.text()
              + "s: sentences about it are left out");
      return;
    }
    if (kind == NodeKind.SERVER) {
      add(wanted, 0, grantee);
      return;
    }
    Lookup.Found found = lookup.node(target.name(), kind == null ? all : 0, false);
    int node = found.ok() ? meant(found.id()) : found.id();
    if (!found.ok()) {
      problems.add(new Problem(wanted.place(), found.problem()));
    } else if (kind != null && !isOfKind(node, kind) && !isOfKind(found.id(), kind)) {
      problems.add(
          new Problem(
              wanted.place(),
              target.name() + " is a " + tree.kind(node).text() + ", not a " + kind.text()));
    } else {
      add(wanted, node, grantee);
    }
  }

  /** The table, where a view has its name. */
  private int meant(int node) {
    return tables.getOrDefault(node, node);
  }

  private boolean isOfKind(int node, NodeKind kind) {
    return tree.kind(node) == kind
        || kind == NodeKind.TABLE && tree.kind(node) == NodeKind.MATERIALIZED_VIEW;
  }

  private void addEvery(Wanted.Grant wanted, Every target, String grantee) {
    Lookup.Found found = lookup.node(target.container(), 0, false);
    if (!found.ok()) {
      problems.add(new Problem(wanted.place(), found.problem()));
      return;
    }
    if (isOneGrantOnSchema(wanted, target, found.id())) {
      add(wanted, found.id(), grantee);
      return;
    }
    IntArrayList inside = IntArrayList.of(found.id());
    TreeSet<String> creators = new TreeSet<>();
    for (int i = 0; i < inside.size(); i++) {
      int node = inside.getInt(i);
      if (tree.owner(node) >= 0 && !tree.isSystem(node) && !safeViews.contains(node)) {
        creators.add(access.principals().name(tree.owner(node)));
      }
      boolean meant =
          i > 0
              && !tables.containsKey(node)
              && target.kinds().stream().anyMatch(kind -> isOfKind(node, kind))
              && isLabelled(node, target.label());
      if (wanted.now() && meant) {
        add(wanted, node, grantee);
      }
      for (int c = tree.children().from(node); c < tree.children().to(node); c++) {
        inside.add(tree.children().row(c));
      }
    }
    if (wanted.later() && target.label() != null) {
      notes.add(
          "what will be created carries no label yet: sentences about labelled things are about"
              + " what is there now");
    } else if (wanted.later()) {
      String maker =
          wanted.madeBy() == null ? null : StoredName.of(wanted.madeBy(), access.rules());
      addLater(wanted, target, found.id(), maker == null ? creators : Set.of(maker), grantee);
    }
  }

  /** Whether a thing carries a label itself, or what it is in. */
  private boolean isLabelled(int node, String label) {
    if (label == null) {
      return true;
    }
    for (Labelled carrier : labels.getOrDefault(label, List.of())) {
      Lookup.Found found = lookup.node(carrier.name(), 0, true);
      boolean whole = found.ok() && found.column() < 0;
      if (whole && (meant(found.id()) == node || tree.isInside(node, found.id()))) {
        return true;
      }
    }
    return false;
  }

  /**
   * Where a grant on a schema covers what is inside, now and later, that one grant is meant; unless
   * it would reach kinds of things that the sentence does not name.
   */
  private boolean isOneGrantOnSchema(Wanted.Grant wanted, Every target, int container) {
    boolean covers =
        access.rules().has(HouseFact.SCHEMA_GRANTS_REACH_DOWN)
            && !(ofDenials && access.rules().has(HouseFact.DENIALS_STAY));
    boolean plain = wanted.actions().stream().allMatch(action -> action.columns().isEmpty());
    if (!covers || !plain || !wanted.later() || tree.kind(container) != NodeKind.SCHEMA) {
      return false;
    }
    if (target.label() != null) {
      return false;
    }
    boolean reads =
        wanted.actions().stream()
            .anyMatch(
                action -> action.privilege() == null || action.privilege() == Privilege.SELECT);
    boolean closed = safe.keySet().stream().anyMatch(table -> tree.isInside(table, container));
    if (reads && closed) {
      notes.add(
          tree.path(container)
              + " has tables that are read through safe views only, so sentences about all of it are"
              + " spelled out for what is there now: settle again after creating something");
      return false;
    }
    boolean all = true;
    for (Action action : wanted.actions()) {
      for (NodeKind kind : NodeKind.values()) {
        boolean reaches =
            kind.isObject()
                && action.privilege() != null
                && (access.rules().privilegesOn(kind) & action.privilege().bit()) != 0;
        boolean rows = kind == NodeKind.SEQUENCE && target.kinds().containsAll(ROWS);
        all &= !reaches || rows || target.kinds().contains(kind);
      }
    }
    if (!all) {
      notes.add(
          "a grant on a whole schema reaches tables and views alike on "
              + access.rules().kind()
              + ", so sentences about only some of them are spelled out for what is there now");
    }
    return all;
  }

  private Rights rights(String grantee, int node) {
    return rights
        .computeIfAbsent(grantee, fresh -> new LinkedHashMap<>())
        .computeIfAbsent(node, fresh -> new Rights());
  }

  private void add(Wanted.Grant wanted, int node, String grantee) {
    long possible = access.rules().grantableOn(tree.kind(node));
    for (Action action : wanted.actions()) {
      long bits = action.privilege() == null ? possible : action.privilege().bit() & possible;
      if (bits == 0) {
        notes.add(
            action.privilege().text()
                + " on "
                + tree.kind(node).text()
                + "s: "
                + access.rules().kind()
                + " has no such privilege to give");
      } else {
        ShownSafely shown = safe.get(node);
        long reading = shown == null ? 0 : bits & Privilege.SELECT.bit();
        long through = shown == null ? 0 : bits & shown.through();
        add(wanted, node, action, shown == null ? bits : bits & shown.stays(), grantee);
        if (through != 0) {
          add(wanted, shown.view(), action, through, grantee);
        }
        if (reading != 0 && !shown.open().isEmpty()) {
          addColumns(wanted, node, action, reading, shown.open(), grantee);
        }
      }
    }
  }

  private void add(Wanted.Grant wanted, int node, Action action, long bits, String grantee) {
    if (bits != 0 && action.columns().isEmpty()) {
      rights(grantee, node).add(bits, wanted.grantOption());
    } else if (bits != 0) {
      addColumns(wanted, node, action, bits, grantee);
    }
  }

  private void addColumns(Wanted.Grant wanted, int node, Action action, long bits, String grantee) {
    BitSet all = new BitSet();
    all.set(0, tree.columns(node));
    addColumns(wanted, node, action, bits, all, grantee);
  }

  /**
   * @param among the columns that come into question
   */
  private void addColumns(
      Wanted.Grant wanted, int node, Action action, long bits, BitSet among, String grantee) {
    if ((bits & access.rules().columnPrivileges()) == 0) {
      notes.add(
          access.rules().kind()
              + " gives no "
              + PrivilegeSet.text(bits)
              + " on single columns: sentences about that are left out");
      return;
    }
    IntArrayList named = new IntArrayList();
    for (String column : action.columns()) {
      Lookup.Found found = lookup.node(tree.path(node) + "." + column, 0, true);
      if (!found.ok() || found.column() < 0) {
        problems.add(new Problem(wanted.place(), found.problem()));
        return;
      }
      named.add(found.column());
    }
    boolean each = action.columns().isEmpty();
    for (int column = among.nextSetBit(0); column >= 0; column = among.nextSetBit(column + 1)) {
      if (each || named.contains(column) != action.except()) {
        rights(grantee, node)
            .add(column, bits & access.rules().columnPrivileges(), wanted.grantOption());
      }
    }
  }

  private void addLater(
      Wanted.Grant wanted, Every target, int container, Set<String> creators, String grantee) {
    if (!access.rules().has(HouseFact.LATER_GRANTS)) {
      notes.add(
          access.rules().kind()
              + " has no grants for what will be created later: settle again after creating something");
      return;
    }
    for (NodeKind kind : target.kinds()) {
      boolean view = kind == NodeKind.VIEW || kind == NodeKind.MATERIALIZED_VIEW;
      NodeKind family = view ? NodeKind.TABLE : kind;
      long bits = 0;
      for (Action action : wanted.actions()) {
        long possible = access.rules().grantableOn(family);
        bits |= action.privilege() == null ? possible : action.privilege().bit() & possible;
      }
      for (String creator : creators) {
        Extent more = new Extent(bits, wanted.grantOption() ? bits : 0);
        later.merge(new LaterKey(creator, container, family, grantee), more, Extent::and);
      }
    }
  }
}
