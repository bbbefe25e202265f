package fiador.estate;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import it.unimi.dsi.fastutil.ints.Int2LongMap;
import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import java.util.Arrays;
import java.util.Map;

/** The privileges that owners have not from themselves, of the few nodes where there are some. */
final class Withheld {
  private final Ints nodes;

  /** Two ints for each node. */
  private final Ints bits;

  private Withheld(Ints nodes, Ints bits) {
    this.nodes = nodes;
    this.bits = bits;
  }

  static Withheld of(Int2LongMap byNode) {
    int[] nodes = byNode.keySet().toIntArray();
    Arrays.sort(nodes);
    int[] bits = new int[2 * nodes.length];
    for (int at = 0; at < nodes.length; at++) {
      long withheld = byNode.get(nodes[at]);
      bits[2 * at] = (int) (withheld >>> 32);
      bits[2 * at + 1] = (int) withheld;
    }
    return new Withheld(Ints.of(nodes), Ints.of(bits));
  }

  static Withheld take(ColumnSource source) {
    return new Withheld(source.ints("withheld.nodes"), source.ints("withheld.bits"));
  }

  void put(ColumnSink sink) {
    sink.ints("withheld.nodes", nodes);
    sink.ints("withheld.bits", bits);
  }

  long of(int node) {
    int at = nodes.size() == 0 ? -1 : nodes.search(node);
    return at < 0 ? 0 : at(at);
  }

  private long at(int place) {
    return (long) bits.get(2 * place) << 32 | (bits.get(2 * place + 1) & 0xFFFF_FFFFL);
  }

  /** The same with others for some nodes. */
  Withheld with(Map<Integer, Long> changed) {
    Int2LongOpenHashMap all = new Int2LongOpenHashMap();
    for (int at = 0; at < nodes.size(); at++) {
      all.put(nodes.get(at), at(at));
    }
    changed.forEach(
        (node, privileges) -> {
          all.remove((int) node);
          if (privileges != 0) {
            all.put((int) node, (long) privileges);
          }
        });
    return of(all);
  }
}
