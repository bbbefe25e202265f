package fiador.servers.sheet;

import fiador.changes.steps.DefineLookup;
import fiador.changes.steps.FilterRows;
import fiador.changes.steps.Guard;
import fiador.changes.steps.MoveTable;
import fiador.changes.steps.SetAttribute;
import fiador.changes.steps.ShowSafely;
import fiador.changes.steps.SightCases;
import fiador.changes.steps.SightStep;
import fiador.houses.Pattern;
import fiador.policies.ColumnMask;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Puts policies on servers that have one rule for a table, in the patterns of a house sheet. Before
 * the rule is touched it is noted that it is under way, and when it is done what it was made from:
 * whoever is killed in between finds it as one that has to be put back.
 */
final class SheetSight implements SightCases<List<String>> {
  /** No policies are written like this: what is noted so is not believed, and done again. */
  private static final String UNDER_WAY = "under way";

  private final SheetDialect dialect;
  private final SheetSightSql sql;

  SheetSight(SheetDialect dialect) {
    this.dialect = dialect;
    this.sql = new SheetSightSql(dialect);
  }

  @Override
  public List<String> setAttribute(SetAttribute step) {
    Map<String, String> names = new HashMap<>(dialect.name("user", step.user()));
    names.put("attribute", dialect.literal(step.attribute()));
    if (step.after().isEmpty()) {
      return List.of(dialect.write(Pattern.CLEAR_ATTRIBUTE, names));
    }
    names.put("values", String.join(", ", step.after().stream().map(dialect::literal).toList()));
    return List.of(dialect.write(Pattern.SET_ATTRIBUTE, names));
  }

  @Override
  public List<String> filterRows(FilterRows step) {
    String on = dialect.on(step.table());
    TableSight before = known(step);
    TableSight after = SightText.read(step.after(), step.columns());
    List<String> statements = new ArrayList<>();
    statements.add(note(on, UNDER_WAY));
    if (!step.before().isEmpty() && !step.after().isEmpty()) {
      // between the old rule and the new one nobody sees more than by either
      statements.add(rows(on, Expression.FALSE));
    }
    for (SafeColumn column : step.columns()) {
      List<ColumnMask> masks = after.masksOf(column.name());
      boolean was = before == null || step.putsBack() || !before.masksOf(column.name()).isEmpty();
      Map<String, String> names = Map.of("on", on, "column", dialect.quoted(column.name()));
      if (!masks.isEmpty()) {
        Map<String, String> all = new HashMap<>(names);
        String plain = dialect.quoted(column.name());
        all.put("value", sql.seen(masks, plain, column.type()));
        statements.add(dialect.write(Pattern.MASK_COLUMN, all));
      } else if (was) {
        statements.add(dialect.write(Pattern.UNMASK_COLUMN, names));
      }
    }
    Expression condition = after.condition();
    statements.add(
        condition.equals(Expression.TRUE)
            ? dialect.write(Pattern.SHOW_ROWS, Map.of("on", on))
            : rows(on, condition));
    statements.add(note(on, step.after()));
    return statements;
  }

  /** What the rule was made from so far; null where what was noted does not fit the table. */
  private static @Nullable TableSight known(FilterRows step) {
    try {
      return SightText.read(step.before(), step.columns());
    } catch (IllegalArgumentException doesNotFit) {
      return null;
    }
  }

  private String rows(String on, Expression condition) {
    return dialect.write(Pattern.FILTER_ROWS, Map.of("on", on, "rows", sql.predicate(condition)));
  }

  private String note(String on, String policies) {
    return dialect.write(
        Pattern.NOTE_POLICIES, Map.of("on", on, "policies", dialect.literal(policies)));
  }

  private static IllegalArgumentException none(SightStep step) {
    return new IllegalArgumentException("a house sheet has no statement for " + step);
  }

  @Override
  public List<String> guard(Guard step) {
    throw none(step);
  }

  @Override
  public List<String> defineLookup(DefineLookup step) {
    throw none(step);
  }

  @Override
  public List<String> showSafely(ShowSafely step) {
    throw none(step);
  }

  @Override
  public List<String> moveTable(MoveTable step) {
    throw none(step);
  }
}
