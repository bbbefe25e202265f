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
  private SightText() {}

  /** The text. */
  public static String of(TableSight sight) {
    StringBuilder text = new StringBuilder();
    for (RowPolicy policy : sight.rows()) {
      line(
          text,
          policy.any() ? "any" : "all",
          policy.name(),
          PredicateText.of(policy.applies()),
          PredicateText.of(policy.exempts()),
          PredicateText.of(policy.rows()));
    }
    for (ColumnMask mask : sight.masks()) {
      line(
          text,
          "mask",
          mask.policy(),
          PredicateText.of(mask.applies()),
          mask.column(),
          mask.mask().text());
    }
    return text.toString();
  }

  private static void line(StringBuilder text, String... fields) {
    text.append(Fields.join(fields)).append('\n');
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
      if (fields[0].equals("mask") && fields.length == 5) {
        masks.add(
            new ColumnMask(
                fields[1], fields[3], predicate(fields[2], columns), Mask.of(fields[4])));
      } else if ((fields[0].equals("any") || fields[0].equals("all")) && fields.length == 5) {
        Expression applies = predicate(fields[2], columns);
        Expression exempts = predicate(fields[3], columns);
        Expression shown = predicate(fields[4], columns);
        rows.add(new RowPolicy(fields[1], fields[0].equals("any"), applies, exempts, shown));
      } else {
        throw new IllegalArgumentException("not a policy: " + line);
      }
    }
    return new TableSight(List.copyOf(rows), List.copyOf(masks));
  }

  private static Expression predicate(String text, List<SafeColumn> columns) {
    try {
      return Typing.typed(PredicateReader.read(text), SafeColumn.names(columns, Map.of()));
    } catch (PredicateException wrong) {
      throw new IllegalArgumentException(wrong.getMessage() + " in \"" + text + "\"", wrong);
    }
  }
}
