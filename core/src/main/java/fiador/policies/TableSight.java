package fiador.policies;

import fiador.predicates.Expression;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Or;
import fiador.predicates.Simplifier;
import fiador.predicates.Subject;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What decides on the rows and columns of one table, or of the view that shows it safely.
 *
 * @param rows the row policies
 * @param masks the masks; of several on one column the first that applies acts
 */
public record TableSight(List<RowPolicy> rows, List<ColumnMask> masks) {
  /** Nothing decides: everybody who may read it sees all. */
  public static final TableSight OPEN = new TableSight(List.of(), List.of());

  /** Nobody sees any row. */
  public static final TableSight CLOSED =
      new TableSight(
          List.of(
              new RowPolicy("closed", true, Expression.TRUE, Expression.FALSE, Expression.FALSE)),
          List.of());

  /** Whether nothing decides. */
  public boolean isOpen() {
    return rows.isEmpty() && masks.isEmpty();
  }

  /** Which rows are shown, for everybody. */
  public Expression condition() {
    return RowPolicy.together(rows);
  }

  /** Whether what somebody sees depends on the session, too. */
  public boolean asksSession() {
    return masks.stream().anyMatch(mask -> !Expression.sessionFacts(mask.acts()).isEmpty())
        || !Expression.sessionFacts(condition()).isEmpty();
  }

  /** Which rows anybody may add or change rows to; TRUE where no policy binds who writes. */
  public Expression written() {
    // one that lets rows be written lets them, whatever the others of its kind say
    boolean all = rows.stream().filter(RowPolicy::any).allMatch(RowPolicy::bindsWriting);
    return RowPolicy.together(
        rows.stream().filter(one -> one.bindsWriting() && (all || !one.any())).toList());
  }

  /** The masks of one column, in the order in which they are tried. */
  public List<ColumnMask> masksOf(String column) {
    return masks.stream().filter(mask -> mask.column().equals(column)).toList();
  }

  /**
   * How one user sees the table.
   *
   * @param condition which rows, with what is known of the user put in
   * @param written which rows they may add or change rows to; TRUE where no policy says
   * @param rows the row policies that apply
   * @param exempt the row policies that let the user see all
   * @param masks the masks that act, by the column's name: in the rows in which one lets the value
   *     through the next is tried; masked columns alone stand here
   */
  public record Seen(
      Expression condition,
      Expression written,
      List<RowPolicy> rows,
      List<RowPolicy> exempt,
      Map<String, List<ActingMask>> masks) {
    /** Whether all rows are shown. */
    public boolean allRows() {
      return condition.equals(Expression.TRUE);
    }

    /** Whether no row is shown, whatever it holds. */
    public boolean noRows() {
      return condition.equals(Expression.FALSE) || condition.equals(Expression.UNKNOWN);
    }
  }

  /** How a user sees the table. Cost: the size of the policies. */
  public Seen by(Subject user) {
    Simplifier simplifier = new Simplifier(user);
    List<RowPolicy> applying = new ArrayList<>();
    List<RowPolicy> exempt = new ArrayList<>();
    for (RowPolicy policy : rows) {
      if (simplifier.known(policy.exempts()).equals(Expression.TRUE)) {
        exempt.add(policy);
      } else if (!simplifier.known(policy.applies()).equals(Expression.FALSE)) {
        applying.add(policy);
      }
    }
    Map<String, List<ActingMask>> acting = new LinkedHashMap<>();
    for (ColumnMask mask : masks) {
      List<ActingMask> before = acting.getOrDefault(mask.column(), List.of());
      boolean settled = !before.isEmpty() && before.get(before.size() - 1).everywhere();
      Expression applies = settled ? Expression.FALSE : simplifier.known(mask.applies());
      if (applies.equals(Expression.FALSE)) {
        continue;
      }
      Expression clear =
          simplifier.simplified(new Or(List.of(new Not(new IsTrue(applies)), mask.clearWhere())));
      if (!clear.equals(Expression.TRUE)) {
        Expression known = clear.equals(Expression.UNKNOWN) ? Expression.FALSE : clear;
        acting
            .computeIfAbsent(mask.column(), none -> new ArrayList<>())
            .add(new ActingMask(mask, known));
      }
    }
    return new Seen(
        simplifier.simplified(condition()),
        simplifier.simplified(written()),
        applying,
        exempt,
        acting);
  }
}
