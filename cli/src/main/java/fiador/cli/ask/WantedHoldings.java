package fiador.cli.ask;

import fiador.effects.Holding;
import fiador.effects.Holdings;
import fiador.effects.StateCounts;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.selection.Selection;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Holdings, narrowed down. */
final class WantedHoldings {
  private record Right(int node, long privilege) {}

  private final Holdings holdings;
  private final Selection selection;
  private final Map<Right, List<Holding>> everybodys = new HashMap<>();

  WantedHoldings(Access access, Narrowing narrowing, Holdings holdings) throws BadInput {
    this.holdings = holdings;
    this.selection = narrowing.selection(access);
    if (!selection.takes(Principals.PUBLIC)) {
      holdings
          .of(Principals.PUBLIC)
          .forEach(row -> everybodys.computeIfAbsent(right(row), r -> new ArrayList<>()).add(row));
    }
  }

  private static Right right(Holding row) {
    return new Right(row.node(), row.privilege().bit());
  }

  /** Those of a user. */
  List<Holding> of(int user) {
    return holdings.of(user).stream().filter(this::isMeant).toList();
  }

  /** Whether what is held there is among what is wanted. */
  boolean includes(int node) {
    return selection.includes(node);
  }

  /** How many of them there are in each state. */
  StateCounts counts(int user) {
    boolean all =
        selection.takes(Principals.PUBLIC)
            && !selection.namesThings()
            && selection.among(PrivilegeSet.EVERY) == PrivilegeSet.EVERY;
    return all ? holdings.countByState(user) : StateCounts.of(of(user));
  }

  private boolean isMeant(Holding row) {
    return selection.includes(row.node())
        && selection.among(row.privilege().bit()) != 0
        && everybodys.getOrDefault(right(row), List.of()).stream()
            .noneMatch(all -> isAllOf(all, row));
  }

  /** Whether what everybody has is as good, and on as many columns. */
  private static boolean isAllOf(Holding everybodys, Holding row) {
    boolean asGood =
        everybodys.state().compareTo(row.state()) <= 0
            && (everybodys.grantable() || !row.grantable());
    if (everybodys.columns() == null || row.columns() == null) {
      return asGood && everybodys.columns() == null;
    }
    BitSet more = (BitSet) row.columns().clone();
    more.andNot(everybodys.columns());
    return asGood && more.isEmpty();
  }
}
