package fiador.policies;

import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Privilege;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Sights;
import fiador.grants.rules.HouseFact;
import fiador.predicates.Expression;
import fiador.predicates.PredicateException;
import fiador.predicates.PredicateReader;
import fiador.predicates.Subject;
import fiador.predicates.Typing;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;

/** How the users of a surveyed server see its tables, and the views that show tables safely. */
public final class Seeing {
  private final Access access;
  private final Tree tree;
  private final Sights sights;
  private final Map<Integer, List<Integer>> safeViews = new HashMap<>();

  /** On that server. Cost: what it keeps about policies. */
  public Seeing(Access access) {
    this.access = access;
    this.tree = access.tree();
    this.sights = access.sights();
    sights
        .kept()
        .forEach(
            (node, kept) -> {
              if (node != kept.table()) {
                safeViews.computeIfAbsent(kept.table(), none -> new ArrayList<>()).add(node);
              }
            });
  }

  /**
   * How one user sees one table or view.
   *
   * @param table the table whose rows are shown
   * @param sight what decides, for everybody
   * @param seen what is left of it for the user
   * @param exempt why nothing of it counts for the user, or null
   * @param beyond the server's own rules that are beyond the language of predicates: which rows
   *     they show is not known
   * @param altered whether somebody changed on the server what was made from policies
   */
  public record Answer(
      int table,
      TableSight sight,
      TableSight.Seen seen,
      String exempt,
      List<Sights.Rule> beyond,
      boolean altered) {
    /** Whether it is known which rows and columns the user sees. */
    public boolean isKnown() {
      return exempt != null || beyond.isEmpty() && !altered;
    }
  }

  /** The view that shows a table safely, -1 if there is none. */
  public int safeViewOf(int table) {
    List<Integer> views = safeViewsOf(table);
    return views.isEmpty() ? None.NODE : views.get(0);
  }

  /** The views that show a table safely: two, while one gives way to the other. */
  public List<Integer> safeViewsOf(int table) {
    return safeViews.getOrDefault(table, List.of());
  }

  /**
   * Whether a table shows a user more than the view that shows it safely.
   *
   * @param columns the columns of the table itself that the user can read
   */
  public boolean getsRound(int user, int table, BitSet columns) {
    Answer meant = of(user, safeViewOf(table));
    if (meant == null || columns.isEmpty()) {
      return false;
    }
    boolean masked =
        meant.seen().masks().keySet().stream()
            .anyMatch(name -> columns.get(tree.columnNamed(table, name)));
    return masked || !meant.isKnown() || !meant.seen().allRows() && !filters(user, table);
  }

  /**
   * The columns of a table or view that come as they are.
   *
   * @param read those that a user can read of it
   */
  BitSet clear(int user, int node, BitSet read) {
    Answer answer = of(user, node);
    BitSet clear = (BitSet) read.clone();
    if (answer != null && answer.exempt() == null) {
      answer.seen().masks().keySet().forEach(name -> clear.clear(tree.columnNamed(node, name)));
    }
    return clear;
  }

  /** Whether the server itself hides a table's rows from a user, as its policies say. */
  boolean filters(int user, int table) {
    Answer own = of(user, table);
    return own != null && own.isKnown() && own.exempt() == null;
  }

  /** Whether anything decides on rows and columns of a table or view. */
  public boolean decides(int node) {
    Sights.Filter filter = sights.filters().get(node);
    return sights.kept().containsKey(node) || filter != null && filter.enabled();
  }

  /** Whether policies are about what is written to a table, too. */
  public boolean bindsWriters(int table) {
    Sights.Kept kept = sights.kept().get(table);
    TableSight sight = kept == null ? null : read(kept, table);
    return sight != null && sight.rows().stream().anyMatch(RowPolicy::bindsWriting);
  }

  /** How a user sees a table or view; null when nothing decides on its rows and columns. */
  public Answer of(int user, int node) {
    return of(user, node, Map.of());
  }

  /** As the other, with what lookup tables say of the user, by their names. */
  public Answer of(int user, int node, Map<String, List<Object>> lookups) {
    if (!decides(node)) {
      return null;
    }
    Sights.Kept kept = sights.kept().get(node);
    boolean view = kept != null && kept.table() != node;
    TableSight made = kept == null ? TableSight.OPEN : read(kept, node);
    boolean altered = kept != null && (!kept.asMade() || made == null);
    TableSight sight = made == null ? TableSight.OPEN : made;
    List<Sights.Rule> beyond = new ArrayList<>();
    String exempt = null;
    if (!view && access.rules().has(HouseFact.VEILS_TABLES)) {
      exempt = access.isSuperuser(user) ? "superuser" : null;
    } else if (!view) {
      sight = filtered(user, node, sight, beyond);
      exempt = exemption(user, node);
    }
    Subject subject = subject(user, Math.max(0, tree.enclosing(node, NodeKind.DATABASE)), lookups);
    TableSight.Seen seen = sight.by(subject);
    return new Answer(kept == null ? node : kept.table(), sight, seen, exempt, beyond, altered);
  }

  private TableSight read(Sights.Kept kept, int node) {
    try {
      TableSight read = SightText.read(kept.policies(), columns(kept.table()));
      boolean fits = read.masks().stream().allMatch(m -> tree.columnNamed(node, m.column()) >= 0);
      return fits ? read : null;
    } catch (IllegalArgumentException doesNotFit) {
      // a column was dropped or renamed since
      return null;
    }
  }

  /** The columns of a table or view. */
  public List<SafeColumn> columns(int node) {
    return SafeColumn.all(tree, node);
  }

  /** Adds the rules that somebody wrote on the server itself. */
  private TableSight filtered(int user, int table, TableSight made, List<Sights.Rule> beyond) {
    List<RowPolicy> rows = new ArrayList<>(made.rows());
    IntOpenHashSet on = reach(user, edge -> access.memberships().options(edge).inherit());
    on.add(Principals.PUBLIC);
    boolean open = made.rows().stream().anyMatch(RowPolicy::any);
    Sights.Filter filter = sights.filters().get(table);
    // whoever dropped all rules by hand left none
    for (Sights.Rule rule : filter == null ? List.<Sights.Rule>of() : filter.rules()) {
      boolean ours = made.rows().stream().anyMatch(policy -> policy.name().equals(rule.name()));
      if (ours || (rule.commands() & Privilege.SELECT.bit()) == 0 || rule.using() == null) {
        continue;
      }
      boolean applies = rule.roles().stream().anyMatch(role -> on.contains((int) role));
      if (applies && rule.using().equals("true")) {
        rows.add(
            new RowPolicy(
                rule.name(), rule.any(), Expression.TRUE, Expression.FALSE, Expression.TRUE));
        open |= rule.any();
      } else if (applies) {
        Expression known = rule.predicate() == null ? null : predicate(rule.predicate(), table);
        if (known == null) {
          beyond.add(rule);
        } else {
          rows.add(
              new RowPolicy(rule.name(), rule.any(), Expression.TRUE, Expression.FALSE, known));
          open |= rule.any();
        }
      }
    }
    if (!open && beyond.stream().noneMatch(Sights.Rule::any)) {
      // no permissive rule is for this user
      rows.add(new RowPolicy("no rule", true, Expression.TRUE, Expression.FALSE, Expression.FALSE));
    }
    return new TableSight(rows, made.masks());
  }

  private Expression predicate(String text, int table) {
    try {
      return Typing.typed(PredicateReader.read(text), SafeColumn.names(columns(table), Map.of()));
    } catch (PredicateException beyond) {
      return null;
    }
  }

  /** Why the server does not filter for a user; null if it does. */
  private String exemption(int user, int table) {
    Principals people = access.principals();
    if (people.has(user, Power.SUPERUSER)) {
      return "superuser";
    } else if (people.has(user, Power.BYPASS_ROW_POLICIES)) {
      return "may bypass row policies";
    }
    int owner = tree.owner(table);
    boolean owns =
        reach(user, edge -> access.memberships().options(edge).inherit()).contains(owner);
    Sights.Filter filter = sights.filters().get(table);
    return owns && (filter == null || !filter.forced()) ? "owns the table" : null;
  }

  private IntOpenHashSet reach(int start, IntPredicate follows) {
    IntOpenHashSet found = new IntOpenHashSet(new int[] {start});
    IntArrayList open = IntArrayList.of(start);
    while (!open.isEmpty()) {
      for (int edge : access.memberships().rolesOf().run(open.popInt())) {
        boolean counts = !access.memberships().options(edge).implicit() && follows.test(edge);
        if (counts && found.add(access.memberships().role(edge))) {
          open.add(access.memberships().role(edge));
        }
      }
    }
    return found;
  }

  private record User(
      String name,
      Map<String, List<String>> attributes,
      java.util.Set<String> roles,
      boolean holdsAll,
      Map<String, List<Object>> lookups)
      implements Subject {
    @Override
    public List<String> attribute(String attribute) {
      return attributes.getOrDefault(attribute, List.of());
    }

    @Override
    public boolean holds(String role) {
      return holdsAll || roles.contains(role);
    }

    @Override
    public List<Object> lookup(String lookup) {
      return lookups.get(lookup);
    }
  }

  /**
   * A user as policies find it.
   *
   * @param database the node of the database in which that is kept, or 0
   * @param lookups what the lookup tables say of the user, as far as that is known
   */
  public Subject subject(int user, int database, Map<String, List<Object>> lookups) {
    Principals people = access.principals();
    boolean byHost = access.rules().has(HouseFact.ACCOUNTS_BY_HOST) && people.isUser(user);
    String key = access.bareName(user);
    Map<String, List<String>> attributes = new HashMap<>();
    for (Sights.Attribute attribute : sights.attributes()) {
      boolean here = attribute.database() == database || access.rules().has(HouseFact.VEILS_TABLES);
      if (here && attribute.user().equals(key)) {
        attributes.put(attribute.name(), attribute.values());
      }
    }
    IntOpenHashSet held = new IntOpenHashSet();
    for (int account = 0; account < people.size(); account++) {
      boolean same = byHost && people.isUser(account) && access.bareName(account).equals(key);
      if (account == user || same) {
        held.addAll(reach(account, edge -> true));
      }
    }
    java.util.Set<String> roles = new java.util.HashSet<>();
    held.forEach((int role) -> roles.add(people.name(role)));
    boolean all =
        people.has(user, Power.SUPERUSER)
            && access.rules().has(HouseFact.SUPERUSERS_HOLD_ALL_ROLES);
    String name = attributes.containsKey("name") ? attributes.get("name").get(0) : key;
    return new User(name, attributes, roles, all, lookups);
  }
}
