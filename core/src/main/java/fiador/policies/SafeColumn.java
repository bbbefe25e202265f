package fiador.policies;

import fiador.estate.ColumnType;
import fiador.estate.Nearest;
import fiador.estate.Tree;
import fiador.predicates.Expression.Column;
import fiador.predicates.Typing;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/** A column of a table that policies are about. */
public record SafeColumn(String name, ColumnType type) {
  /** The columns of a table or view. */
  public static List<SafeColumn> all(Tree tree, int node) {
    List<SafeColumn> found = new ArrayList<>();
    for (int i = 0; i < tree.columns(node); i++) {
      found.add(new SafeColumn(tree.column(node, i), tree.columnType(node, i)));
    }
    return List.copyOf(found);
  }

  /** Where the names of a predicate on those columns lead. */
  public static Typing.Names names(List<SafeColumn> columns, Map<String, ColumnType> lookups) {
    return names(columns, lookups, UnaryOperator.identity());
  }

  /**
   * As the other, on a server that folds unquoted names.
   *
   * @param folded what the server makes of an unquoted name
   */
  public static Typing.Names names(
      List<SafeColumn> columns, Map<String, ColumnType> lookups, UnaryOperator<String> folded) {
    return new Typing.Names() {
      @Override
      public Column column(String name) {
        boolean quoted = name.startsWith("\"");
        String bare = quoted ? name.substring(1, name.length() - 1).replace("\"\"", "\"") : name;
        for (String wanted : quoted ? List.of(bare) : List.of(bare, folded.apply(bare))) {
          for (int i = 0; i < columns.size(); i++) {
            if (columns.get(i).name().equals(wanted)) {
              return new Column(wanted, i, columns.get(i).type());
            }
          }
        }
        throw new IllegalArgumentException(
            "there is no column "
                + bare
                + Nearest.hint(bare, columns.stream().map(SafeColumn::name)));
      }

      @Override
      public ColumnType lookup(String name) {
        return lookups.get(name);
      }
    };
  }
}
