package fiador.servers;

import fiador.changes.wanted.ViewPlace;
import fiador.changes.wanted.Wanted;
import fiador.changes.wanted.WantedSight;
import fiador.changes.wanted.WantedSight.Labelled;
import fiador.estate.ColumnType;
import fiador.estate.DottedName;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.rules.HouseFact;
import fiador.policies.Mask;
import fiador.predicates.Expression;
import fiador.predicates.PredicateException;
import fiador.predicates.PredicateReader;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;

/** Masks on some tables of a charter, by views beside the tables or under their names. */
final class RandomMasks {
  static final WantedSight NONE =
      new WantedSight(List.of(), List.of(), Map.of(), List.of(), Map.of(), List.of(), true);
  private static final Wanted.Place HERE = new Wanted.Place("masks.yaml", 1, 1);
  private static final int MOST = 3;

  private RandomMasks() {}

  /** The charter with masks on up to three of the tables that its server has. */
  static Wanted on(Wanted wanted, Access access, Random random) throws PredicateException {
    if (!possible(access)) {
      return wanted;
    }
    List<Integer> tables = tables(access);
    List<WantedSight.Masks> masks = new ArrayList<>();
    List<Wanted.Principal> roles = wanted.roles();
    for (int i = 0; i < MOST && !tables.isEmpty() && !roles.isEmpty(); i++) {
      int table = tables.remove(random.nextInt(tables.size()));
      int column = random.nextInt(access.tree().columns(table));
      if (access.rules().systemColumns().contains(access.tree().column(table, column))) {
        continue;
      }
      String role = roles.get(random.nextInt(roles.size())).name();
      Expression others = new Expression.Not(new Expression.IsTrue(new Expression.Holds(role)));
      ViewPlace place = random.nextInt(3) == 0 ? ViewPlace.BESIDE : ViewPlace.UNDER_NAME;
      String name = name(access.tree(), table, column);
      String own = DottedName.quoted(access.tree().column(table, column));
      masks.add(
          new WantedSight.Masks(
              "m" + i,
              List.of(new Labelled(name, HERE)),
              List.of(),
              List.of(),
              Map.of(),
              others,
              i == 1 ? PredicateReader.read(own + " is null") : null,
              HERE,
              Map.of("otherwise", Mask.of("blank")),
              i,
              place,
              HERE));
    }
    return with(
        wanted, new WantedSight(List.of(), masks, Map.of(), List.of(), Map.of(), List.of(), true));
  }

  /** Whether no policy is refused for what others could do to the guarded schema, or as whom. */
  private static boolean possible(Access access) {
    for (int id = 1; id < access.principals().size(); id++) {
      if (access.principals().isUser(id) && access.principals().name(id).startsWith("@")) {
        return false;
      }
    }
    return access.patterns().stream()
        .map(pattern -> pattern.pattern().replace("\\%", "").replace("\\_", ""))
        .noneMatch(open -> open.contains("%") || open.contains("_"));
  }

  /** The charter with other policies. */
  static Wanted with(Wanted wanted, WantedSight sight) {
    return new Wanted(
        wanted.roles(),
        wanted.users(),
        wanted.memberships(),
        wanted.grants(),
        wanted.refused(),
        wanted.owned(),
        wanted.governs(),
        sight);
  }

  /** Those that can be shown by a view at all. */
  private static List<Integer> tables(Access access) {
    Tree tree = access.tree();
    Set<Integer> read = new TreeSet<>();
    for (int node = 0; node < tree.size(); node++) {
      var rows = access.reads().byView();
      for (int place = rows.from(node); place < rows.to(node); place++) {
        read.add(access.reads().under().get(rows.row(place)));
      }
    }
    List<Integer> found = new ArrayList<>();
    for (int node = 0; node < tree.size(); node++) {
      int schema = tree.enclosing(node, NodeKind.SCHEMA);
      boolean plain = tree.kind(node) == NodeKind.TABLE && schema >= 0 && tree.columns(node) > 0;
      boolean stuck = read.contains(node) && !access.rules().has(HouseFact.RENAMES_UNDER_VIEWS);
      if (plain && !stuck && !tree.is(schema, NodeFact.SYSTEM) && !tree.isSystem(node)) {
        boolean quoted = false;
        for (int column = 0; column < tree.columns(node); column++) {
          quoted |= tree.column(node, column).indexOf('"') >= 0;
          quoted |= tree.columnType(node, column) == ColumnType.FLOAT;
        }
        if (!quoted) {
          found.add(node);
        }
      }
    }
    return found;
  }

  private static String name(Tree tree, int table, int column) {
    List<String> parts = new ArrayList<>();
    for (int at = table; at > 0; at = tree.parent(at)) {
      parts.add(0, DottedName.quoted(tree.name(at)));
    }
    parts.add(DottedName.quoted(tree.column(table, column)));
    return String.join(".", parts);
  }
}
