package fiador.effects;

import fiador.effects.Tally.Part;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import java.util.BitSet;

/**
 * One {@link Tally} per state, and the rows that come out of them: for each id and privilege the
 * best state first, a worse one only for what it adds (columns, or the right to grant on).
 */
final class Ranked {
  /** Takes rows without making objects of them. */
  interface Sink {
    /**
     * One row.
     *
     * @param id what the tallies count by
     * @param privilege a single bit
     * @param columns ordinals, or null for the whole; the receiver keeps it
     */
    void row(int id, long privilege, State state, boolean grantable, BitSet columns);
  }

  private static final int STATES = State.values().length;

  private final Tally[] byState = new Tally[STATES];
  private final int ids;

  Ranked(int ids) {
    this.ids = ids;
  }

  void clear() {
    for (Tally tally : byState) {
      if (tally != null) {
        tally.clear();
      }
    }
  }

  Tally at(State state) {
    if (byState[state.ordinal()] == null) {
      byState[state.ordinal()] = new Tally(ids);
    }
    return byState[state.ordinal()];
  }

  /** The privileges that an id has in some state better than that, on the whole. */
  long better(int id, State than) {
    long all = 0;
    for (int state = 0; state < than.ordinal(); state++) {
      all |= byState[state] == null ? 0 : byState[state].whole(id);
    }
    return all;
  }

  /** All rows, by id in the order the ids were first added to in the best state. */
  void emitAll(boolean sorted, Sink sink) {
    for (int state = 0; state < STATES; state++) {
      Tally tally = byState[state];
      if (tally == null || tally.isEmpty()) {
        continue;
      }
      IntArrayList ids = sorted ? tally.sorted() : tally.touched();
      for (int i = 0; i < ids.size(); i++) {
        int id = ids.getInt(i);
        if (!seenBefore(id, state)) {
          emit(id, sink);
        }
      }
    }
  }

  private boolean seenBefore(int id, int state) {
    for (int better = 0; better < state; better++) {
      Tally tally = byState[better];
      if (tally != null && (tally.whole(id) != 0 || !tally.parts(id).isEmpty())) {
        return true;
      }
    }
    return false;
  }

  private void emit(int id, Sink sink) {
    long all = 0;
    long inParts = 0;
    long grantableInParts = 0;
    for (Tally tally : byState) {
      if (tally != null) {
        all |= tally.whole(id);
        for (Part part : tally.parts(id)) {
          inParts |= part.privileges();
          grantableInParts |= part.grantable();
        }
      }
    }
    // what the best state has on the whole is added to by nothing but the right to grant on
    Tally best = byState[0];
    long partsAdd = inParts & (grantableInParts | (best == null ? ~0L : ~best.whole(id)));
    for (long rest = all | inParts; rest != 0; rest &= rest - 1) {
      long privilege = Long.lowestOneBit(rest);
      if ((partsAdd & privilege) != 0) {
        emitWithParts(id, privilege, sink);
      } else {
        emitWhole(id, privilege, sink);
      }
    }
  }

  private void emitWhole(int id, long privilege, Sink sink) {
    boolean held = false;
    boolean grantable = false;
    for (int state = 0; state < STATES; state++) {
      Tally tally = byState[state];
      if (tally != null && (tally.whole(id) & privilege) != 0) {
        boolean canGrant = (tally.grantable(id) & privilege) != 0;
        if (!held || canGrant && !grantable) {
          sink.row(id, privilege, State.at(state), canGrant, null);
          held = true;
          grantable |= canGrant;
        }
      }
    }
  }

  private void emitWithParts(int id, long privilege, Sink sink) {
    boolean held = false;
    boolean grantable = false;
    BitSet covered = new BitSet();
    BitSet coveredGrantable = new BitSet();
    for (int state = 0; state < STATES; state++) {
      Tally tally = byState[state];
      if (tally == null) {
        continue;
      }
      if ((tally.whole(id) & privilege) != 0) {
        boolean canGrant = (tally.grantable(id) & privilege) != 0;
        if (!held || canGrant && !grantable) {
          sink.row(id, privilege, State.at(state), canGrant, null);
          held = true;
          grantable |= canGrant;
        }
      }
      BitSet plain = new BitSet();
      BitSet granting = new BitSet();
      boolean wholeGrants = (tally.grantable(id) & privilege) != 0;
      for (Part part : tally.parts(id)) {
        if ((part.privileges() & privilege) != 0) {
          boolean grants = wholeGrants || (part.grantable() & privilege) != 0;
          (grants ? granting : plain).or(part.columns());
        }
      }
      plain.andNot(granting);
      plain.andNot(covered);
      granting.andNot(coveredGrantable);
      if (!granting.isEmpty() && !grantable) {
        sink.row(id, privilege, State.at(state), true, granting);
      }
      if (!plain.isEmpty() && !held) {
        sink.row(id, privilege, State.at(state), false, plain);
      }
      covered.or(granting);
      covered.or(plain);
      coveredGrantable.or(granting);
    }
  }
}
