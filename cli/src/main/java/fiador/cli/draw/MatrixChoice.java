package fiador.cli.draw;

import fiador.cli.shell.Options;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.refusal.BadInput;
import fiador.report.pictures.Levels;
import fiador.report.pictures.Matrix;
import fiador.selection.Selection;
import java.time.Clock;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Which rows and columns a matrix has. */
final class MatrixChoice {
  private String of = "users";
  private String by = "schemas";
  private @Nullable String schemas;
  private @Nullable String who;

  void options(Options options) {
    options.option("--of", "ROWS", value -> of = value, "matrix: users (as it is), or roles.");
    options.option(
        "--by", "COLUMNS", value -> by = value, "matrix: schemas (as it is), or tables.");
    options.option("--schema", "NAME,...", value -> schemas = value, "matrix: only these schemas.");
    options.option("--who", "NAME,...", value -> who = value, "matrix: only these users or roles.");
  }

  Matrix matrix(Access access, Clock clock) throws BadInput {
    boolean tables = choice("--by", by, "schemas", "tables");
    boolean roles = choice("--of", of, "users", "roles");
    return new Levels(access, clock, tables).of(people(access, roles), columns(access), clock);
  }

  private static boolean choice(String option, String said, String first, String second)
      throws BadInput {
    String word = said.toLowerCase(Locale.ROOT);
    if (!word.equals(first) && !word.equals(second)) {
      throw new BadInput(option + " \"" + said + "\" is neither " + first + " nor " + second);
    }
    return word.equals(second);
  }

  private List<Integer> people(Access access, boolean roles) throws BadInput {
    List<Integer> found = new ArrayList<>();
    if (who != null) {
      BitSet named = new Selection(access).to(who).grantees();
      Objects.requireNonNull(named, "names were given").stream().forEach(found::add);
      return found;
    }
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id) != roles) {
        found.add(id);
      }
    }
    return found;
  }

  private List<Integer> columns(Access access) throws BadInput {
    Tree tree = access.tree();
    Selection selection = new Selection(access);
    if (schemas != null) {
      selection.schema(schemas);
    }
    List<Integer> found = new ArrayList<>();
    for (int node = 0; node < tree.size(); node++) {
      if (tree.kind(node) == NodeKind.SCHEMA
          && !tree.isSystem(node)
          && (schemas == null || selection.includes(node))) {
        found.add(node);
      }
    }
    return found;
  }
}
