package fiador.report.lists;

import fiador.estate.PrivilegeSet;
import fiador.grants.Sights;
import fiador.policies.ColumnMask;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.predicates.Expression;
import fiador.selection.Selection;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Row policies, masks, and the rules that somebody wrote on the server itself. */
final class PolicyList implements Listing {
  private final Source source;
  private final Selection selection;

  PolicyList(Source source) {
    this.source = source;
    this.selection = source.selection();
  }

  @Override
  public List<String> fields() {
    return List.of(
        "policy",
        "decides",
        "table",
        "in",
        "column",
        "shows",
        "for",
        "exempt",
        "combine",
        "state",
        "clear_where");
  }

  @Override
  public Counted counted() {
    return new Counted("policy", "policies");
  }

  @Override
  public void rows(Sink sink) throws IOException {
    Sights sights = source.access().sights();
    for (Map.Entry<Integer, Sights.Kept> entry : new TreeMap<>(sights.kept()).entrySet()) {
      Sights.Kept kept = entry.getValue();
      if (selection.includes(kept.table()) || selection.includes(entry.getKey())) {
        kept(entry.getKey(), kept, sink);
      }
    }
    for (Map.Entry<Integer, Sights.Filter> entry : new TreeMap<>(sights.filters()).entrySet()) {
      if (selection.includes(entry.getKey())) {
        filter(entry.getKey(), entry.getValue(), sink);
      }
    }
  }

  private Row start(String policy, String decides, int table) {
    return new Row()
        .put("policy", policy)
        .put("decides", decides)
        .put("table", source.shown().path(table));
  }

  private void kept(int node, Sights.Kept kept, Sink sink) throws IOException {
    String in = node == kept.table() ? null : source.shown().path(node);
    String state = kept.asMade() ? null : "changed by hand on the server";
    TableSight sight;
    try {
      sight = SightText.read(kept.policies(), SafeColumn.all(source.access().tree(), kept.table()));
    } catch (IllegalArgumentException doesNotFit) {
      Row row = start("not known", "rows and columns", kept.table()).put("in", in);
      sink.row(row.put("state", "its columns were dropped or renamed").values());
      return;
    }
    for (RowPolicy policy : sight.rows()) {
      sink.row(
          start(policy.name(), "rows", kept.table())
              .put("in", in)
              .put("shows", predicate(policy.rows()))
              .put("for", whom(policy.applies(), Expression.TRUE))
              .put("exempt", whom(policy.exempts(), Expression.FALSE))
              .put("combine", policy.any() ? "any" : "all")
              .put("state", state)
              .values());
    }
    for (ColumnMask mask : sight.masks()) {
      sink.row(
          start(mask.policy(), "mask", kept.table())
              .put("in", in)
              .put("column", source.shown().name(mask.column()))
              .put("shows", mask.mask().text())
              .put("for", whom(mask.applies(), Expression.TRUE))
              .put("state", state)
              .put("clear_where", whom(mask.clearWhere(), Expression.FALSE))
              .values());
    }
  }

  private String predicate(Expression expression) {
    return source.shown().predicate(expression);
  }

  /** Whom it is for; null where that goes without saying. */
  private String whom(Expression condition, Expression usual) {
    return condition.equals(usual) ? null : predicate(condition);
  }

  private void filter(int table, Sights.Filter filter, Sink sink) throws IOException {
    Sights.Kept kept = source.access().sights().kept().get(table);
    for (Sights.Rule rule : filter.rules()) {
      boolean ours = kept != null && kept.policies().contains(rule.name());
      if (ours) {
        continue;
      }
      sink.row(
          start(rule.name(), "rows, to " + PrivilegeSet.text(rule.commands()), table)
              .put("shows", rule.predicate() != null ? rule.predicate() : rule.using())
              .put("for", rule.roles().stream().map(source::principal).toList())
              .put("combine", rule.any() ? "any" : "all")
              .put("state", state(filter, rule))
              .values());
    }
  }

  private static String state(Sights.Filter filter, Sights.Rule rule) {
    if (!filter.enabled()) {
      return "off";
    }
    return rule.predicate() == null && rule.using() != null ? "beyond what predicates say" : null;
  }
}
