package fiador.estate;

import fiador.columns.ColumnSink;
import fiador.columns.ColumnSource;
import fiador.columns.Ints;
import it.unimi.dsi.fastutil.ints.Int2LongOpenHashMap;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.HashMap;
import java.util.Map;

/**
 * A compressed adjacency: for each of {@code n} ids, a run of row numbers. Two rows of ints,
 * whatever the size of the runs. A patched one shares them and has other runs for a few ids.
 */
public final class Adjacency {
  private final Ints start;

  /**
   * Grouped by id, ascending within an id; null where the row numbers are the places themselves.
   */
  private final Ints rows;

  private final int[] patch;
  private final Int2LongOpenHashMap patched;

  private Adjacency(Ints start, Ints rows) {
    this(start, rows, null, null);
  }

  private Adjacency(Ints start, Ints rows, int[] patch, Int2LongOpenHashMap patched) {
    this.start = start;
    this.rows = rows;
    this.patch = patch;
    this.patched = patched;
  }

  /** The runs of rows that lie in the order of their key already. Cost: ids plus rows. */
  public static Adjacency ofOrdered(int ids, int[] keyOfRow) {
    return new Adjacency(Ints.of(starts(ids, keyOfRow)), null);
  }

  /** What {@link #put} laid down. Cost: none until it is asked. */
  public static Adjacency take(String name, ColumnSource source) {
    Ints rows = source.ints(name + ".rows");
    boolean identity = rows.size() == 0;
    return new Adjacency(source.ints(name + ".start"), identity ? null : rows);
  }

  /**
   * Lays it down.
   *
   * @throws IllegalStateException when it is patched
   */
  public void put(String name, ColumnSink sink) {
    if (patched != null) {
      throw new IllegalStateException("what is supposed is not laid down");
    }
    sink.ints(name + ".start", start);
    sink.ints(name + ".rows", rows == null ? Ints.NONE : rows);
  }

  /**
   * The same with other runs for some ids; ids beyond the ones known so far have empty runs unless
   * given. Cost: the patched runs, of this and of earlier patches.
   */
  public Adjacency patched(Map<Integer, int[]> runs) {
    Map<Integer, int[]> all = new HashMap<>();
    if (patched != null) {
      patched.keySet().forEach((int id) -> all.put(id, run(id)));
    }
    all.putAll(runs);
    IntArrayList places = new IntArrayList();
    Int2LongOpenHashMap where = new Int2LongOpenHashMap();
    where.defaultReturnValue(-1);
    int behind = start.get(start.size() - 1);
    all.forEach(
        (id, run) -> {
          long from = (long) behind + places.size();
          places.addElements(places.size(), run);
          where.put((int) id, from << 32 | (behind + places.size()));
        });
    return new Adjacency(start, rows, places.toIntArray(), where);
  }

  /** How many ids had runs before any patch. */
  public int size() {
    return start.size() - 1;
  }

  /** The run of an id. */
  public int[] run(int id) {
    int[] run = new int[to(id) - from(id)];
    for (int i = 0; i < run.length; i++) {
      run[i] = row(from(id) + i);
    }
    return run;
  }

  /**
   * Groups the rows by {@code keyOfRow}; rows with a negative key are left out. A counting sort:
   * cost ids plus rows.
   */
  public static Adjacency group(int ids, int[] keyOfRow) {
    int[] start = starts(ids, keyOfRow);
    int count = keyOfRow.length;
    int[] next = start.clone();
    int[] rows = new int[start[ids]];
    for (int row = 0; row < count; row++) {
      if (keyOfRow[row] >= 0) {
        rows[next[keyOfRow[row]]++] = row;
      }
    }
    return new Adjacency(Ints.of(start), Ints.of(rows));
  }

  /** Groups the same rows by another key, keeping the order they have here within an id. */
  public Adjacency regrouped(int ids, int[] keyOfRow) {
    int[] starts = starts(ids, keyOfRow);
    int[] next = starts.clone();
    int[] grouped = new int[rows.size()];
    for (int at = 0; at < grouped.length; at++) {
      int row = rows.get(at);
      grouped[next[keyOfRow[row]]++] = row;
    }
    return new Adjacency(Ints.of(starts), Ints.of(grouped));
  }

  /** Where the run of each id would begin if all rows were grouped by that key. */
  public static int[] starts(int ids, int[] keyOfRow) {
    int[] start = new int[ids + 1];
    for (int key : keyOfRow) {
      if (key >= 0) {
        start[key + 1]++;
      }
    }
    for (int id = 0; id < ids; id++) {
      start[id + 1] += start[id];
    }
    return start;
  }

  /** The run of an id that may be a new one; empty where it has none. */
  public int[] runOrNone(int id) {
    return patched == null && id >= size() ? new int[0] : run(id);
  }

  /** Where the run of an id begins. */
  public int from(int id) {
    return patched == null ? start.get(id) : patchedFrom(id);
  }

  /** Where the run of an id ends, exclusive. */
  public int to(int id) {
    return patched == null ? start.get(id + 1) : patchedTo(id);
  }

  private int patchedFrom(int id) {
    long where = patched.get(id);
    return where >= 0 ? (int) (where >>> 32) : id < size() ? start.get(id) : 0;
  }

  private int patchedTo(int id) {
    long where = patched.get(id);
    return where >= 0 ? (int) where : id < size() ? start.get(id + 1) : 0;
  }

  /** Whether every place is its own row, so that a hot loop may count rows and ask no more. */
  public boolean isIdentity() {
    return rows == null && patch == null;
  }

  /** The row at a place of the runs. */
  public int row(int place) {
    if (patch != null && place >= start.get(start.size() - 1)) {
      return patch[place - start.get(start.size() - 1)];
    }
    return rows == null ? place : rows.get(place);
  }
}
