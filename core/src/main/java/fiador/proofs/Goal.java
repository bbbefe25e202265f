package fiador.proofs;

import fiador.effects.Holding;
import fiador.estate.Privilege;
import java.util.List;

/**
 * Something to be able to do.
 *
 * @param node on what
 * @param column an ordinal, or -1 for any part of it
 */
record Goal(Privilege privilege, int node, int column) {
  /** Whether one of the holdings is enough, now or after a switch. */
  boolean reachedBy(List<Holding> rows) {
    return rows.stream().anyMatch(this::reachedBy);
  }

  /** Whether a holding is enough, now or after a switch. */
  boolean reachedBy(Holding row) {
    boolean covers = column < 0 || row.columns() == null || row.columns().get(column);
    return row.privilege() == privilege && row.state().works() && covers;
  }

  /** Whether a holding would be enough if nothing stood in its way. */
  boolean meantBy(Holding row) {
    boolean covers = column < 0 || row.columns() == null || row.columns().get(column);
    return row.privilege() == privilege && covers;
  }
}
