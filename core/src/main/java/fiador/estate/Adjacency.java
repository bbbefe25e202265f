package fiador.estate;

/**
 * A compressed adjacency: for each of {@code n} ids, a run of row numbers. Two int arrays, whatever
 * the size of the runs.
 *
 * @param start where the run of an id begins in {@code rows}; one entry more than there are ids
 * @param rows row numbers, grouped by id, in ascending order within an id
 */
public record Adjacency(int[] start, int[] rows) {

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
    return new Adjacency(start, rows);
  }

  /** Groups the same rows by another key, keeping the order they have here within an id. */
  public Adjacency regrouped(int ids, int[] keyOfRow) {
    int[] starts = starts(ids, keyOfRow);
    int[] next = starts.clone();
    int[] grouped = new int[rows.length];
    for (int row : rows) {
      grouped[next[keyOfRow[row]]++] = row;
    }
    return new Adjacency(starts, grouped);
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

  /** Where the run of an id begins. */
  public int from(int id) {
    return start[id];
  }

  /** Where the run of an id ends, exclusive. */
  public int to(int id) {
    return start[id + 1];
  }

  /** The row at a place of the runs. */
  public int row(int place) {
    return rows[place];
  }
}
