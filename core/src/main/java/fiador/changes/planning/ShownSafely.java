package fiador.changes.planning;

import java.util.BitSet;

/**
 * Through what the readers of a table go on that has a safe view.
 *
 * @param view the safe view
 * @param open the columns in which they may go on reading the table itself, because it shows no
 *     more in them than the view does: so those who write to the table can still look for rows
 */
record ShownSafely(int view, BitSet open) {}
