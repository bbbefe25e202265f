package fiador.policies;

import fiador.predicates.Expression;
import fiador.predicates.PredicateException;
import fiador.predicates.PredicateReader;
import fiador.predicates.PredicateText;
import fiador.predicates.Typing;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Writes a {@link TableSight} as text, one policy a line, and reads it again: the form in which it
 * is kept on the server beside what was made from it. Fields stand between tabs.
 */
public final class SightText {
  private static final String BINDS_WRITING = "binds writing";

  private SightText() {}

  /** The text. */
  public static String of(TableSight sight) {
    StringBuilder text = new StringBuilder();
    for (RowPolicy policy : sight.rows()) {
      List<String> fields =
          new ArrayList<>(
              List.of(
                  policy.any() ? "any" : "all",
                  policy.name(),
                  PredicateText.of(policy.applies()),
                  PredicateText.of(policy.exempts()),
                  PredicateText.of(policy.rows())));
      if (policy.bindsWriting()) {
        fields.add(BINDS_WRITING);
      }
      line(text, fields);
    }
    for (ColumnMask mask : sight.masks()) {
      List<String> fields =
          new ArrayList<>(
              List.of(
                  "mask",
                  mask.policy(),
                  PredicateText.of(mask.applies()),
                  mask.column(),
                  mask.mask().text()));
      if (!mask.clearWhere().equals(Expression.FALSE)) {
        fields.add(PredicateText.of(mask.clearWhere()));
      }
      line(text, fields);
    }
    return text.toString();
  }

  private static void line(StringBuilder text, List<String> fields) {
    text.append(Fields.join(fields.toArray(String[]::new))).append('\n');
  }

  /**
   * Reads the text.
   *
   * @param columns the table's columns
   * @throws IllegalArgumentException when it does not fit the table
   */
  public static TableSight read(String text, List<SafeColumn> columns) {
    List<RowPolicy> rows = new ArrayList<>();
    List<ColumnMask> masks = new ArrayList<>();
    for (String line : text.split("\n", -1)) {
      if (line.isEmpty()) {
        continue;
      }
      String[] fields = Fields.of(line);
      if (fields[0].equals("mask") && (fields.length == 5 || fields.length == 6)) {
        Expression clear = fields.length == 5 ? Expression.FALSE : predicate(fields[5], columns);
        masks.add(
            new ColumnMask(
                fields[1], fields[3], predicate(fields[2], columns), clear, Mask.of(fields[4])));
      } else if (isRows(fields)) {
        Expression applies = predicate(fields[2], columns);
        Expression exempts = predicate(fields[3], columns);
        Expression shown = predicate(fields[4], columns);
        rows.add(
            new RowPolicy(
                fields[1], fields[0].equals("any"), applies, exempts, shown, fields.length > 5));
      } else {
        throw new IllegalArgumentException("not a policy: " + line);
      }
    }
    return new TableSight(List.copyOf(rows), List.copyOf(masks));
  }

  private static boolean isRows(String[] fields) {
    boolean binds = fields.length == 6 && fields[5].equals(BINDS_WRITING);
    return (fields[0].equals("any") || fields[0].equals("all")) && (fields.length == 5 || binds);
  }

  private static Expression predicate(String text, List<SafeColumn> columns) {
    try {
      return Typing.typed(PredicateReader.read(text), SafeColumn.names(columns, Map.of()));
    } catch (PredicateException wrong) {
      throw new IllegalArgumentException(wrong.getMessage() + " in \"" + text + "\"", wrong);
    }
  }
}
