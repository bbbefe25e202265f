package fiador.sweep.estate;

import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.policies.Seeing;
import fiador.selection.NamePattern;
import fiador.sweep.tables.Sink;
import fiador.sweep.tables.Table;
import fiador.work.sweeping.LabelRule;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Finds what carries a label: a label on a schema is one on all in it. Letters' case does not
 * matter. Cost: things times rules.
 */
final class LabelledThings {
  private final Access access;
  private final Tree tree;
  private final Seeing seeing;
  private final Sink sink;

  LabelledThings(Access access, Sink sink) {
    this.access = access;
    this.tree = access.tree();
    this.seeing = new Seeing(access);
    this.sink = sink;
  }

  /** Writes what the rules for a server of that name label. */
  void write(String server, List<LabelRule> rules) throws IOException {
    for (LabelRule rule : rules) {
      boolean meant =
          rule.server().isEmpty()
              || new NamePattern(rule.server()).matches(server)
              || new NamePattern(rule.server()).matches(access.about().server());
      if (meant) {
        write(rule);
      }
    }
  }

  private void write(LabelRule rule) throws IOException {
    NamePattern pattern = new NamePattern(rule.object());
    String folded = rule.object().toLowerCase(Locale.ROOT);
    boolean plain = !NamePattern.is(rule.object());
    for (int node = 0; node < tree.size(); node++) {
      if (!tree.kind(node).isObject() || tree.isSystem(node)) {
        continue;
      }
      String path = tree.path(node);
      if (pattern.matches(path) || isWithin(pattern, node)) {
        row(rule, node, path, null);
      } else if (!plain || folded.startsWith(path.toLowerCase(Locale.ROOT))) {
        for (int column = 0; column < tree.columns(node); column++) {
          if (pattern.matches(path + "." + tree.column(node, column))) {
            row(rule, node, path, tree.column(node, column));
          }
        }
      }
    }
  }

  private boolean isWithin(NamePattern pattern, int node) {
    for (int in = tree.parent(node); in > 0; in = tree.parent(in)) {
      if (pattern.matches(tree.path(in))) {
        return true;
      }
    }
    return false;
  }

  private void row(LabelRule rule, int node, String path, @Nullable String column)
      throws IOException {
    sink.row(
        Table.LABELS,
        rule.label(),
        tree.kind(node).contractName(),
        path,
        column,
        seeing.decides(node));
  }
}
