package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.longs.LongOpenHashSet;
import org.jspecify.annotations.Nullable;

/**
 * What each was given and owns, added to {@link NodeMasks}. What a role has is put together once
 * and kept, because many have it. Cost: what is given, or less the second time.
 */
final class RoleMasks {
  /** So many longs are kept of roles; what further ones have is put together each time. */
  private static final long ROOM = 16_000_000;

  private final Access access;
  private final Tree tree;
  private final Grants grants;
  private final NodeBlocks blocks;
  private final SmallNumbers numbers;

  /** By terms, in small numbers, what is held and what may be granted on. */
  private final long[] held;

  private final long[] passed;

  /** By kind the privileges there are on such, in small numbers. */
  private final long[] onKind = new long[NodeKind.values().length];

  private final @Nullable Kept[] kept;
  private final NodeMasks scratch;
  private long room = ROOM;

  /** What comes down, of the one that is looked at: each container with the terms. */
  private final LongOpenHashSet down = new LongOpenHashSet();

  private boolean odd;

  /**
   * What a role has.
   *
   * @param direct on nodes themselves
   * @param down what comes down
   */
  @SuppressWarnings("ArrayRecordComponent")
  private record Kept(NodeMasks.Packed direct, long[] down) {}

  RoleMasks(Access access, NodeBlocks blocks, SmallNumbers numbers) {
    this.access = access;
    this.tree = access.tree();
    this.grants = access.grants();
    this.blocks = blocks;
    this.numbers = numbers;
    this.held = new long[grants.differentTerms()];
    this.passed = new long[held.length];
    for (int id = 0; id < held.length; id++) {
      held[id] = numbers.numbers(grants.termsAt(id).privileges());
      passed[id] = numbers.numbers(grants.termsAt(id).grantable());
    }
    for (NodeKind kind : NodeKind.values()) {
      onKind[kind.ordinal()] = numbers.numbers(access.rules().privilegesOn(kind));
    }
    this.kept = new Kept[access.principals().size()];
    this.scratch = new NodeMasks(tree.size(), numbers.size());
  }

  /** Whether columns were met on what is no object: that is not counted like this. */
  boolean isOdd() {
    return odd;
  }

  /**
   * Adds what one has.
   *
   * @return whether some of it comes down from containers
   */
  boolean add(int principal, NodeMasks into) {
    Kept known = kept[principal];
    if (known == null && room > 0 && !access.principals().isUser(principal)) {
      known = keep(principal);
    }
    long[] comesDown;
    if (known != null) {
      into.add(known.direct());
      comesDown = known.down();
    } else {
      addDirect(principal, into);
      comesDown = down.toLongArray();
    }
    for (long each : comesDown) {
      addDown((int) (each >>> Integer.SIZE), (int) each, into);
    }
    return comesDown.length > 0 || access.rules().ownership() == Ownership.SCHEMA;
  }

  private Kept keep(int principal) {
    scratch.clear();
    addDirect(principal, scratch);
    Kept fresh = new Kept(scratch.packed(), down.toLongArray());
    room -= fresh.direct().size() + fresh.down().length;
    kept[principal] = fresh;
    return fresh;
  }

  /** Adds what one has on nodes themselves, and notes what comes down. */
  private void addDirect(int principal, NodeMasks into) {
    down.clear();
    Adjacency rows = grants.byGrantee();
    for (int place = rows.from(principal); place < rows.to(principal); place++) {
      int row = rows.row(place);
      int node = grants.node(row);
      int terms = grants.termsId(row);
      if (grants.columns(row) == ColumnSets.WHOLE) {
        into.add(node, held[terms], passed[terms]);
        if (grants.termsAt(terms).covers() != 0) {
          down.add((long) node << Integer.SIZE | terms);
        }
      } else {
        into.addPart(node, held[terms], passed[terms] != 0);
        odd |= !tree.kind(node).isObject();
      }
    }
    addOwned(principal, into);
  }

  private void addOwned(int owner, NodeMasks into) {
    Ownership ownership = access.rules().ownership();
    for (int at = tree.owned().from(owner); at < tree.owned().to(owner); at++) {
      int node = tree.owned().row(at);
      if (ownership == Ownership.OBJECT) {
        addOwned(owner, node, into);
      } else if (ownership == Ownership.SCHEMA && tree.kind(node) == NodeKind.SCHEMA) {
        addOwned(owner, node, into);
        for (int i = tree.children().from(node); i < tree.children().to(node); i++) {
          addOwned(owner, tree.children().row(i), into);
        }
      }
    }
  }

  private void addOwned(int owner, int node, NodeMasks into) {
    long all = access.rules().privilegesOn(tree.kind(node));
    long without = numbers.numbers(all & ~tree.withheld(node));
    into.add(node, without, access.ownersGrant(owner) ? numbers.numbers(all) : 0);
  }

  private void addDown(int container, int terms, NodeMasks into) {
    for (int rest = grants.termsAt(terms).covers(); rest != 0; rest &= rest - 1) {
      int kind = Integer.numberOfTrailingZeros(rest);
      long some = held[terms] & onKind[kind];
      long canGrant = passed[terms] & onKind[kind];
      if ((some | canGrant) != 0) {
        add(blocks.inside(container, NodeKind.at(kind)), some, canGrant, into);
      }
    }
  }

  /** Adds privileges on all of a kind, wherever it is. */
  void addEverywhere(NodeKind kind, long privileges, long grantable, NodeMasks into) {
    long some = numbers.numbers(privileges);
    add(blocks.everywhere(kind), some, numbers.numbers(grantable), into);
  }

  private static void add(Spread spread, long some, long canGrant, NodeMasks into) {
    for (int i = 0; i < spread.size(); i++) {
      into.add(spread.block(i), spread.nodes(i), some, canGrant);
    }
  }
}
