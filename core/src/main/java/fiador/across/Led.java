package fiador.across;

import fiador.across.Crossing.Crossed;
import fiador.across.Leg.Answer;
import fiador.across.Leg.Why;
import fiador.grants.Access;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** A foreign table that is that table of the target. */
record Led(Crossing crossing, Access from, int table, Access target, int node) {
  /** From what is used down to the foreign table. */
  List<Integer> path(List<Integer> down) {
    List<Integer> path = new ArrayList<>(down);
    if (path.get(path.size() - 1) != table) {
      path.add(table);
    }
    return path;
  }

  /**
   * Of a table of which this is a part, what comes by this one counts, whatever comes of others: a
   * question that keeps to it does not meet them.
   */
  Function<List<Leg>, Answer> counts(int read) {
    return read == table ? Steps::worst : this::best;
  }

  private Answer best(List<Leg> legs) {
    Answer best = Answer.CLOSED;
    for (Leg leg : legs) {
      best = leg.table() == table && leg.answer().compareTo(best) < 0 ? leg.answer() : best;
    }
    return best;
  }

  void add(
      Map<Key, List<Inflows.Reader>> alike,
      @Nullable Crossed crossed,
      Inflows.Reader reader,
      BitSet columns) {
    if (crossed == null || columns.isEmpty()) {
      return;
    }
    for (Leg leg : crossed.legs()) {
      boolean hidden = leg.why() == Why.LOGIN_NOT_SHOWN || leg.why() == Why.LOGIN_NOT_SAID;
      if (leg.table() == table && (hidden || leg.user() >= 0) && isSame(leg.there(), target)) {
        alike.computeIfAbsent(new Key(leg.user(), columns), fresh -> new ArrayList<>()).add(reader);
        return;
      }
    }
  }

  /** Columns of what is read, by their ordinals at the target. */
  BitSet there(int read, BitSet columns) {
    BitSet own = read == table ? columns : Steps.byName(from, read, columns, table);
    return Leads.there(from, table, target, node, own);
  }

  /** What readers have in common who come in alike. */
  record Key(int login, BitSet columns) {}

  private static boolean isSame(@Nullable Access one, Access other) {
    return one != null
        && one.about().server().equals(other.about().server())
        && one.about().identity().equals(other.about().identity());
  }
}
