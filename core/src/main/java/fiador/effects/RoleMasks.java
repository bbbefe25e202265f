package fiador.effects;

import fiador.estate.Adjacency;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.rules.Ownership;
import it.unimi.dsi.fastutil.longs.LongArrayList;
import it.unimi.dsi.fastutil.longs.LongOpenHashSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What each was given and owns, added to {@link NodeMasks}. What a role has is put together once
 * and kept, because many have it. Cost: what is given, or less the second time.
 */
final class RoleMasks {
  /** So many longs are kept of roles; what further ones have is put together each time. */
  private static final long ROOM = 16_000_000;

  private static final int LONGS_OF_COMING = 4;

  /** So many bits say what is had on nodes; where more differ, it is not counted like this. */
  private static final int BUNDLE_BITS = 16;

  private static final int MOST_BUNDLES = (1 << BUNDLE_BITS) - 1;

  private final Access access;
  private final Tree tree;
  private final Grants grants;
  private final NodeBlocks blocks;
  private final SmallNumbers numbers;

  /**
   * What can be had on a node at once, a bundle, in small numbers: what is held and what may be
   * granted on. First of all terms, on the whole; then of all terms, on columns; then of owners.
   */
  private final LongArrayList held = new LongArrayList();

  private final LongArrayList passed = new LongArrayList();
  private final int terms;
  private final Map<Owned, Integer> ofOwners = new HashMap<>();

  /** By kind the privileges there are on such, in small numbers. */
  private final long[] onKind = new long[NodeKind.values().length];

  private final @Nullable Kept[] kept;
  private long room = ROOM;

  /** Of the one that is looked at: each block with a bundle and a node of it. */
  private final LongArrayList direct = new LongArrayList();

  /** What comes down: each container with the terms. */
  private final LongOpenHashSet down = new LongOpenHashSet();

  private final Descents descents;
  private boolean odd;

  private record Owned(long held, long passed) {}

  /**
   * What somebody has.
   *
   * @param direct on nodes themselves, block by block: a block with a bundle, then the nodes it is
   *     on
   * @param down what comes down
   * @param comesDown whether any terms come down, also where there is nothing they could be on
   */
  @SuppressWarnings("ArrayRecordComponent")
  private record Kept(long[] direct, Coming[] down, boolean comesDown) {}

  /** What comes down to some nodes, in small numbers. */
  private record Coming(Descents.Descent to, long held, long passed) {}

  RoleMasks(Access access, NodeBlocks blocks, SmallNumbers numbers) {
    this.access = access;
    this.tree = access.tree();
    this.grants = access.grants();
    this.blocks = blocks;
    this.numbers = numbers;
    this.terms = grants.differentTerms();
    for (int id = 0; id < 2 * terms; id++) {
      held.add(numbers.numbers(grants.termsAt(id % terms).privileges()));
      passed.add(numbers.numbers(grants.termsAt(id % terms).grantable()));
    }
    for (NodeKind kind : NodeKind.values()) {
      onKind[kind.ordinal()] = numbers.numbers(access.rules().privilegesOn(kind));
    }
    this.descents = new Descents(blocks);
    this.kept = new Kept[access.principals().size()];
  }

  /** Whether something was met that is not counted like this, as columns on what is no object. */
  boolean isOdd() {
    return odd;
  }

  /**
   * Adds what one has; what comes down is only noted, because several may have it, until {@link
   * #addNoted} is called.
   *
   * @return whether some of it comes down from containers
   */
  boolean add(int principal, NodeMasks into) {
    Kept known = kept[principal];
    if (known == null) {
      known = putTogether(principal);
      if (room > 0 && !access.principals().isUser(principal)) {
        kept[principal] = known;
        room -= known.direct().length + (long) LONGS_OF_COMING * known.down().length;
      }
    }
    long[] entries = known.direct();
    for (int i = 0; i < entries.length; i += 2) {
      int block = (int) (entries[i] >>> BUNDLE_BITS);
      int bundle = (int) entries[i] & MOST_BUNDLES;
      long nodes = entries[i + 1];
      long canGrant = passed.getLong(bundle);
      boolean parts = bundle >= terms && bundle < 2 * terms;
      into.add(block, nodes, held.getLong(bundle), parts ? 0 : canGrant);
      if (parts) {
        into.putFlags(block, nodes, canGrant == 0 ? 0 : nodes);
      }
    }
    for (Coming each : known.down()) {
      descents.note(each.to(), each.held(), each.passed());
    }
    return known.comesDown() || access.rules().ownership() == Ownership.SCHEMA;
  }

  /** Adds what was noted to come down. */
  void addNoted(NodeMasks into) {
    descents.addNoted(into);
  }

  private Kept putTogether(int principal) {
    direct.clear();
    down.clear();
    findGiven(principal);
    findOwned(principal);
    long[] all = direct.toLongArray();
    Arrays.sort(all);
    long[] entries = new long[2 * all.length];
    int end = 0;
    for (long each : all) {
      long entry = each / NodeMasks.IN_BLOCK;
      if (end == 0 || entries[end - 2] != entry) {
        entries[end] = entry;
        end += 2;
      }
      entries[end - 1] |= 1L << each;
    }
    return new Kept(Arrays.copyOf(entries, end), comingDown(), !down.isEmpty());
  }

  private void find(int node, int bundle) {
    odd |= bundle > MOST_BUNDLES;
    long entry = (long) (node / NodeMasks.IN_BLOCK) << BUNDLE_BITS | bundle & MOST_BUNDLES;
    direct.add(entry * NodeMasks.IN_BLOCK + node % NodeMasks.IN_BLOCK);
  }

  private void findGiven(int principal) {
    Adjacency rows = grants.byGrantee();
    for (int place = rows.from(principal); place < rows.to(principal); place++) {
      int row = rows.row(place);
      int node = grants.node(row);
      int given = grants.termsId(row);
      if (grants.columns(row) != ColumnSets.WHOLE) {
        find(node, terms + given);
        odd |= !tree.kind(node).isObject();
        continue;
      }
      find(node, given);
      if (grants.termsAt(given).covers() != 0) {
        down.add((long) node << Integer.SIZE | given);
      }
    }
  }

  private void findOwned(int owner) {
    Ownership ownership = access.rules().ownership();
    for (int at = tree.owned().from(owner); at < tree.owned().to(owner); at++) {
      int node = tree.owned().row(at);
      if (ownership == Ownership.OBJECT) {
        findOwned(owner, node);
      } else if (ownership == Ownership.SCHEMA && tree.kind(node) == NodeKind.SCHEMA) {
        findOwned(owner, node);
        for (int i = tree.children().from(node); i < tree.children().to(node); i++) {
          findOwned(owner, tree.children().row(i));
        }
      }
    }
  }

  private void findOwned(int owner, int node) {
    long all = access.rules().privilegesOn(tree.kind(node));
    long without = numbers.numbers(all & ~tree.withheld(node));
    Owned has = new Owned(without, access.ownersGrant(owner) ? numbers.numbers(all) : 0);
    find(node, ofOwners.computeIfAbsent(has, this::bundle));
  }

  private int bundle(Owned fresh) {
    held.add(fresh.held());
    passed.add(fresh.passed());
    return held.size() - 1;
  }

  private Coming[] comingDown() {
    List<Coming> found = new ArrayList<>();
    for (long each : down) {
      int container = (int) (each >>> Integer.SIZE);
      int given = (int) each;
      for (int rest = grants.termsAt(given).covers(); rest != 0; rest &= rest - 1) {
        NodeKind kind = NodeKind.at(Integer.numberOfTrailingZeros(rest));
        long some = held.getLong(given) & onKind[kind.ordinal()];
        long canGrant = passed.getLong(given) & onKind[kind.ordinal()];
        if ((some | canGrant) != 0) {
          found.add(new Coming(descents.of(container, kind), some, canGrant));
        }
      }
    }
    return found.toArray(Coming[]::new);
  }

  /** Adds privileges on all of a kind, wherever it is. */
  void addEverywhere(NodeKind kind, long privileges, long grantable, NodeMasks into) {
    long some = numbers.numbers(privileges);
    into.add(blocks.everywhere(kind), some, numbers.numbers(grantable));
  }
}
