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
   * Groups the rows {@code 0..count-1} by {@code keyOfRow}; rows with a negative key are left out.
   * A counting sort: cost {@code ids + count}.
   */
  public static Adjacency group(int ids, int[] keyOfRow, int count) {
    int[] start = new int[ids + 1];
    for (int row = 0; row < count; row++) {
      if (keyOfRow[row] >= 0) {
        start[keyOfRow[row] + 1]++;
      }
    }
    for (int id = 0; id < ids; id++) {
      start[id + 1] += start[id];
    }
    int[] next = start.clone();
    int[] rows = new int[start[ids]];
    for (int row = 0; row < count; row++) {
      if (keyOfRow[row] >= 0) {
        rows[next[keyOfRow[row]]++] = row;
      }
    }
    return new Adjacency(start, rows);
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
