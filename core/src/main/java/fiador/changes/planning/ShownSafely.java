package fiador.changes.planning;

import fiador.grants.Access;
import fiador.policies.UnderName;
import java.util.BitSet;
import java.util.Map;

/**
 * Through what the readers of a table go on that has a safe view.
 *
 * @param view the safe view
 * @param open the columns in which they may go on reading the table itself, because it shows no
 *     more in them than the view does: so those who write to the table can still look for rows
 * @param through the privileges that are held on the view for the table
 * @param stays the privileges that are held on the table itself all the same
 * @param underName whether the view has the table's name: then who names it means the table
 */
record ShownSafely(int view, BitSet open, long through, long stays, boolean underName) {

  /** The tables that are meant by the names of views, by those: as it is, and as it will be. */
  static Map<Integer, Integer> tables(Access access, Map<Integer, ShownSafely> safe) {
    Map<Integer, Integer> found = UnderName.tables(access);
    safe.forEach(
        (table, shown) -> {
          if (shown.underName()) {
            found.put(shown.view(), table);
          }
        });
    return found;
  }
}
