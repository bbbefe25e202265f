package fiador.effects;

import fiador.estate.NodeKind;
import it.unimi.dsi.fastutil.longs.Long2ObjectOpenHashMap;
import java.util.ArrayList;
import java.util.List;

/**
 * What comes down from containers to all of a kind in them. It is noted first, and added when all
 * is noted: several roles of a user often have the same on the same container.
 */
final class Descents {
  private final NodeBlocks blocks;
  private final Long2ObjectOpenHashMap<Descent> known = new Long2ObjectOpenHashMap<>();
  private final List<Descent> noted = new ArrayList<>();

  /** All of a kind in a container, and what was noted for them, in small numbers. */
  static final class Descent {
    private final Spread nodes;
    private long held;
    private long passed;

    private Descent(Spread nodes) {
      this.nodes = nodes;
    }
  }

  Descents(NodeBlocks blocks) {
    this.blocks = blocks;
  }

  /** The one of a container and a kind. Cost: what is in the container, once. */
  Descent of(int container, NodeKind kind) {
    long key = (long) container * NodeKind.values().length + kind.ordinal();
    return known.computeIfAbsent(key, fresh -> new Descent(blocks.inside(container, kind)));
  }

  /** Notes what comes down, held and to be granted on: not nothing. */
  void note(Descent to, long held, long passed) {
    if ((to.held | to.passed) == 0) {
      noted.add(to);
    }
    to.held |= held;
    to.passed |= passed;
  }

  /** Adds all that was noted, and forgets it. */
  void addNoted(NodeMasks into) {
    for (Descent each : noted) {
      into.add(each.nodes, each.held, each.passed);
      each.held = 0;
      each.passed = 0;
    }
    noted.clear();
  }
}
