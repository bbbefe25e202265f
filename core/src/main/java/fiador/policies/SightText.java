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
    for (int i = 0; i < fields.length; i++) {
      String plain = fields[i].replace("\\", "\\\\").replace("\t", "\\t");
      text.append(i == 0 ? "" : "\t").append(plain.replace("\n", "\\n").replace("\r", "\\r"));
    }
    text.append('\n');
  }

  private static String field(String escaped) {
    StringBuilder plain = new StringBuilder();
    for (int i = 0; i < escaped.length(); i++) {
      char c = escaped.charAt(i);
      if (c == '\\' && i + 1 < escaped.length()) {
        char what = escaped.charAt(++i);
        plain.append(what == 't' ? '\t' : what == 'n' ? '\n' : what == 'r' ? '\r' : what);
      } else {
        plain.append(c);
      }
    }
    return plain.toString();
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
    for (String line : text.split("\n")) {
      if (line.isEmpty()) {
        continue;
      }
      String[] fields = line.split("\t", -1);
      for (int i = 0; i < fields.length; i++) {
        fields[i] = field(fields[i]);
      }
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
