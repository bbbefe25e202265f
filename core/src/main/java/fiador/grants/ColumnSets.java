package fiador.grants;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Sets of column ordinals, each once, by id. */
public final class ColumnSets {
  /** The id that stands for the whole object. */
  public static final int WHOLE = -1;

  private record Key(List<Integer> ordinals) {}

  private final List<int[]> sets = new ArrayList<>();
  private final Map<Key, Integer> ids = new HashMap<>();

  /** The id of a set of ordinals, in any order. */
  public int intern(int... ordinals) {
    int[] sorted = Arrays.stream(ordinals).sorted().distinct().toArray();
    return ids.computeIfAbsent(
        new Key(Arrays.stream(sorted).boxed().toList()),
        key -> {
          sets.add(sorted);
          return sets.size() - 1;
        });
  }

  /** The ordinals of a set, ascending; not to be written to. */
  public int[] ordinals(int id) {
    return sets.get(id);
  }
}
