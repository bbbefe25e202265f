package fiador.changes.adopting;

import static java.util.Comparator.comparing;

import fiador.changes.adopting.AdoptedPolicies.Audience;
import fiador.changes.adopting.AdoptedPolicies.Lookup;
import fiador.changes.adopting.AdoptedPolicies.Masks;
import fiador.changes.adopting.AdoptedPolicies.Rows;
import fiador.changes.wanted.MaskChoice;
import fiador.estate.ColumnType;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.grants.Sights.Kept;
import fiador.policies.ColumnMask;
import fiador.policies.RowPolicy;
import fiador.policies.SafeColumn;
import fiador.policies.SightText;
import fiador.policies.TableSight;
import fiador.policies.UnderName;
import fiador.predicates.Expression;
import fiador.predicates.Expression.And;
import fiador.predicates.Expression.Column;
import fiador.predicates.Expression.Compare;
import fiador.predicates.Expression.Comparison;
import fiador.predicates.Expression.Holds;
import fiador.predicates.Expression.IsTrue;
import fiador.predicates.Expression.Literal;
import fiador.predicates.Expression.Not;
import fiador.predicates.Expression.Or;
import fiador.predicates.Expression.UserName;
import fiador.predicates.PredicateText;
import fiador.predicates.Rewriting;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.IntFunction;
import java.util.function.UnaryOperator;

/**
 * Puts the policies that a server's views and rules were made from together again: each once, with
 * all tables it is on. Cost: what is kept of policies.
 */
final class PolicyDraft {
  private final Access access;
  private final Tree tree;
  private final UnaryOperator<String> written;
  private final UnaryOperator<String> part;
  private final IntFunction<String> path;
  private final Set<String> users = new HashSet<>();
  private final Map<RowPolicy, Set<Integer>> rows = new LinkedHashMap<>();
  private final Map<Tried, Map<String, String>> masks = new LinkedHashMap<>();
  private final Map<Tried, Set<String>> columns = new LinkedHashMap<>();
  private final Set<Tried> ranked = new HashSet<>();

  /** The policies of views that stand under their tables' names. */
  private final Set<String> underNames = new HashSet<>();

  /** A mask policy, whatever its columns. */
  private record Tried(String policy, Expression applies, Expression clearWhere) {}

  /**
   * @param written a user's or role's name as charters write it
   * @param part a part of a dotted name, likewise
   * @param path a thing's dotted name, likewise
   */
  PolicyDraft(
      Access access,
      UnaryOperator<String> written,
      UnaryOperator<String> part,
      IntFunction<String> path) {
    this.access = access;
    this.tree = access.tree();
    this.written = written;
    this.part = part;
    this.path = path;
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id)) {
        users.add(written.apply(access.bareName(id)));
      }
    }
  }

  /**
   * All of them.
   *
   * @param leftOut where it is said what cannot be written
   */
  AdoptedPolicies draft(List<String> leftOut) {
    Sights sights = access.sights();
    new TreeMap<>(sights.kept())
        .forEach(
            (node, kept) -> {
              try {
                collect(node, kept);
              } catch (IllegalArgumentException doesNotFit) {
                leftOut.add(
                    "policies on " + tree.path(kept.table()) + ": its columns changed since");
              }
            });
    new TreeMap<>(sights.kept())
        .forEach(
            (node, kept) -> {
              if (!kept.asMade()) {
                leftOut.add(
                    "what was changed by hand in the policies of "
                        + tree.path(node)
                        + ": written as agreed on");
              }
            });
    boolean nothing = rows.isEmpty() && masks.isEmpty();
    return nothing
        ? AdoptedPolicies.NONE
        : new AdoptedPolicies(rowPolicies(), maskPolicies(), attributes(leftOut), lookups());
  }

  private void collect(int node, Kept kept) {
    int table = kept.table();
    TableSight sight = SightText.read(kept.policies(), SafeColumn.all(tree, table));
    boolean under = UnderName.is(access, node, kept);
    int known = under ? node : table;
    for (RowPolicy policy : sight.rows()) {
      rows.computeIfAbsent(asWritten(policy), none -> new LinkedHashSet<>()).add(known);
      if (under) {
        underNames.add(policy.name());
      }
    }
    for (ColumnMask mask : sight.masks()) {
      Tried tried = new Tried(mask.policy(), mask.applies(), renamed(mask.clearWhere()));
      masks
          .computeIfAbsent(tried, none -> new TreeMap<>())
          .put(MaskChoice.kind(type(table, mask.column())), mask.mask().text());
      columns
          .computeIfAbsent(tried, none -> new LinkedHashSet<>())
          .add(path.apply(known) + "." + part.apply(mask.column()));
      if (sight.masksOf(mask.column()).size() > 1) {
        ranked.add(tried);
      }
      if (under) {
        underNames.add(mask.policy());
      }
    }
  }

  private ColumnType type(int table, String column) {
    return tree.columnType(table, tree.columnNamed(table, column));
  }

  /** The same for every table whose columns have the same names. */
  private RowPolicy asWritten(RowPolicy policy) {
    return new RowPolicy(
        policy.name(),
        policy.any(),
        policy.applies(),
        policy.exempts(),
        renamed(policy.rows()),
        policy.bindsWriting());
  }

  private Expression renamed(Expression expression) {
    return Rewriting.of(
        expression,
        one ->
            one instanceof Holds holds
                ? new Holds(bare(written.apply(holds.role())))
                : one instanceof Column column
                    ? new Column(bare(part.apply(column.name())), 0, column.type())
                    : one);
  }

  /** Predicates quote names themselves. */
  private static String bare(String name) {
    boolean quoted = name.length() > 1 && name.startsWith("\"") && name.endsWith("\"");
    return quoted ? name.substring(1, name.length() - 1).replace("\"\"", "\"") : name;
  }

  private List<Rows> rowPolicies() {
    List<Rows> found = new ArrayList<>();
    rows.forEach(
        (policy, tables) ->
            found.add(
                new Rows(
                    policy.name(),
                    tables.stream().map(path::apply).toList(),
                    audience(policy.applies(), policy.exempts()),
                    PredicateText.of(policy.rows()),
                    policy.any(),
                    policy.bindsWriting(),
                    underNames.contains(policy.name()))));
    return found;
  }

  private List<Masks> maskPolicies() {
    List<Masks> found = new ArrayList<>();
    masks.forEach(
        (tried, byKind) ->
            found.add(
                new Masks(
                    tried.policy(),
                    List.copyOf(columns.get(tried)),
                    masked(tried.applies()),
                    tried.clearWhere().equals(Expression.FALSE)
                        ? null
                        : PredicateText.of(tried.clearWhere()),
                    byKind,
                    ranked.contains(tried) ? found.size() : null,
                    underNames.contains(tried.policy()))));
    return found;
  }

  /** Whom a mask leaves out stands behind all other conditions, if anywhere. */
  private Audience masked(Expression applies) {
    List<Expression> parts = new ArrayList<>(applies instanceof And and ? and.parts() : List.of());
    if (parts.isEmpty()) {
      parts.add(applies);
    }
    Expression last = parts.get(parts.size() - 1);
    if (last instanceof Not not && not.of() instanceof IsTrue clear) {
      parts.remove(parts.size() - 1);
      Expression rest =
          parts.isEmpty()
              ? Expression.TRUE
              : parts.size() == 1 ? parts.get(0) : new And(List.copyOf(parts));
      return audience(rest, clear.value());
    }
    return audience(applies, Expression.FALSE);
  }

  private Audience audience(Expression applies, Expression exempts) {
    List<String> any = new ArrayList<>();
    List<String> all = new ArrayList<>();
    List<Expression> parts =
        applies instanceof And and
            ? and.parts()
            : applies.equals(Expression.TRUE) ? List.of() : List.of(applies);
    for (Expression one : parts) {
      boolean first = any.isEmpty() && all.isEmpty();
      if (first && (one instanceof Or || parts.size() == 1)) {
        any.addAll(each(one));
      } else {
        all.add(who(one));
      }
    }
    List<String> none = exempts.equals(Expression.FALSE) ? List.of() : each(exempts);
    return new Audience(any, all, none);
  }

  private List<String> each(Expression of) {
    return of instanceof Or or ? or.parts().stream().map(this::who).toList() : List.of(who(of));
  }

  private String who(Expression one) {
    if (one instanceof Holds holds) {
      return "role " + written.apply(holds.role());
    }
    boolean named =
        one instanceof Compare compare
            && compare.how() == Comparison.EQUAL
            && compare.left() instanceof UserName
            && compare.right() instanceof Literal literal
            && literal.value() instanceof String name
            && users.contains(name);
    return named
        ? "user " + ((Literal) ((Compare) one).right()).value()
        : PredicateText.of(renamed(one));
  }

  /** A charter says the same of a user to all databases. */
  private Map<String, Map<String, List<String>>> attributes(List<String> leftOut) {
    Map<String, List<Integer>> accounts = new HashMap<>();
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id)) {
        accounts.computeIfAbsent(access.bareName(id), none -> new ArrayList<>()).add(id);
      }
    }
    Map<String, Map<String, List<String>>> found = new TreeMap<>();
    Map<List<String>, Map<Integer, Set<String>>> said = new TreeMap<>(comparing(String::valueOf));
    for (Sights.Attribute attribute : access.sights().attributes()) {
      if (attribute.name().equals("name")) {
        continue;
      }
      said.computeIfAbsent(List.of(attribute.user(), attribute.name()), none -> new HashMap<>())
          .put(attribute.database(), Set.copyOf(attribute.values()));
      for (int id : accounts.getOrDefault(attribute.user(), List.of())) {
        found
            .computeIfAbsent(written.apply(access.principals().name(id)), none -> new TreeMap<>())
            .put(attribute.name(), attribute.values());
      }
    }
    int databases = access.sights().guards().size();
    said.forEach(
        (what, where) -> {
          if (where.size() < databases || Set.copyOf(where.values()).size() > 1) {
            leftOut.add(
                "the attribute "
                    + what.get(1)
                    + " of "
                    + what.get(0)
                    + " differs between databases, which a charter cannot say");
          }
        });
    return found;
  }

  private List<Lookup> lookups() {
    List<Lookup> found = new ArrayList<>();
    Set<String> told = new HashSet<>();
    for (Sights.LookupTable lookup : access.sights().lookups()) {
      if (told.add(lookup.name())) {
        found.add(
            new Lookup(
                lookup.name(),
                path.apply(lookup.table()),
                part.apply(lookup.key()),
                lookup.keys().text(),
                part.apply(lookup.value())));
      }
    }
    return found;
  }
}
