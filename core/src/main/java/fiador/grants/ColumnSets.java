package fiador.grants;

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

  private final List<int[]> sets = new ArrayList<>();
  private final Map<IntArrayList, Integer> ids = new HashMap<>();

  /** The id of a set of ordinals, in any order; the array is kept. */
  public int intern(int... ordinals) {
    int[] sorted = isAscending(ordinals) ? ordinals : new IntRBTreeSet(ordinals).toIntArray();
    IntArrayList key = IntArrayList.wrap(sorted);
    Integer known = ids.get(key);
    if (known == null) {
      known = sets.size();
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
    return sets.get(id);
  }
}
