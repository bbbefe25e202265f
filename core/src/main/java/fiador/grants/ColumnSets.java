package fiador.grants;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntRBTreeSet;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Sets of column ordinals, each once, by id. */
public final class ColumnSets {
  /** The id that stands for the whole object. */
  public static final int WHOLE = -1;

  /** Where each of the sets that were laid down begins and, behind the last, where that ends. */
  private final Ints start;

  private final Ints laid;

  /** Sets that came later. */
  private final List<int[]> sets = new ArrayList<>();

  /** The ids of all sets, once one was added; before nobody needs them. */
  private final Map<IntArrayList, Integer> ids = new HashMap<>();

  /** No sets yet. */
  public ColumnSets() {
    this(Ints.of(0), Ints.NONE);
  }

  private ColumnSets(Ints start, Ints laid) {
    this.start = start;
    this.laid = laid;
  }

  /** The sets that {@link #put} laid down; more can be added. */
  static ColumnSets take(ColumnSource source) {
    return new ColumnSets(source.ints("column_sets.start"), source.ints("column_sets.ordinals"));
  }

  /** Lays down the first sets, so many of them. */
  void put(int count, ColumnSink sink) {
    IntArrayList starts = new IntArrayList(new int[] {0});
    IntArrayList ordinals = new IntArrayList();
    for (int id = 0; id < count; id++) {
      ordinals.addElements(ordinals.size(), ordinals(id));
      starts.add(ordinals.size());
    }
    sink.ints("column_sets.start", Ints.of(starts.toIntArray()));
    sink.ints("column_sets.ordinals", Ints.of(ordinals.toIntArray()));
  }

  /** How many sets there are. */
  public int size() {
    return laidSets() + sets.size();
  }

  private int laidSets() {
    return start.size() - 1;
  }

  /** The id of a set of ordinals, in any order; the array is kept. */
  public int intern(int... ordinals) {
    int[] sorted = isAscending(ordinals) ? ordinals : new IntRBTreeSet(ordinals).toIntArray();
    IntArrayList key = IntArrayList.wrap(sorted);
    if (ids.isEmpty()) {
      for (int id = 0; id < laidSets(); id++) {
        ids.put(IntArrayList.wrap(ordinals(id)), id);
      }
    }
    Integer known = ids.get(key);
    if (known == null) {
      known = size();
      ids.put(key, known);
      sets.add(sorted);
    }
    return known;
  }

  private static boolean isAscending(int[] ordinals) {
    for (int i = 1; i < ordinals.length; i++) {
      if (ordinals[i] <= ordinals[i - 1]) {
        return false;
      }
    }
    return true;
  }

  /** The ordinals of a set, ascending; not to be written to. */
  public int[] ordinals(int id) {
    return id < laidSets()
        ? laid.copy(start.get(id), start.get(id + 1))
        : sets.get(id - laidSets());
  }
}
