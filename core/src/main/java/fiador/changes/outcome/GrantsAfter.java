package fiador.changes.outcome;

import fiador.changes.steps.About;
import fiador.changes.steps.Grant;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.TakeOption;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.SchemaPattern;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/** Who was given what after some steps. Cost: the grants on the nodes they speak about. */
final class GrantsAfter {
  private final Ground ground;
  private final Access base;
  private final Tree tree;
  private final boolean optionByPlace;
  private final boolean reachesDown;
  private final boolean byPattern;
  private final Map<Place, List<Row>> rows = new LinkedHashMap<>();
  private final List<SchemaPattern> patterns;

  private record Place(int grantee, int node) {}

  private record Row(Terms terms, int columns, int grantor) {
    boolean isWhole() {
      return columns == ColumnSets.WHOLE;
    }

    boolean isNothing() {
      return (terms.privileges() | terms.grantable()) == 0;
    }
  }

  GrantsAfter(Ground ground) {
    this.ground = ground;
    this.base = ground.base;
    this.tree = ground.tree;
    this.optionByPlace = ground.has(HouseFact.OPTION_BY_PLACE);
    this.reachesDown = ground.has(HouseFact.SCHEMA_GRANTS_REACH_DOWN);
    this.byPattern = ground.has(HouseFact.SCHEMA_GRANTS_BY_PATTERN);
    this.patterns = new ArrayList<>(base.patterns());
  }

  /** Hands all of it to the estate to be. */
  void finish() {
    rows.forEach(
        (place, list) -> {
          for (Row row : list) {
            if (!row.isNothing()) {
              ground.whatIf.grant(
                  place.grantee(), place.node(), row.terms(), row.columns(), row.grantor());
            }
          }
        });
    if (!patterns.equals(base.patterns())) {
      ground.whatIf.patterns(patterns);
    }
  }

  void forget(int id) {
    patterns.removeIf(pattern -> pattern.grantee() == id);
    rows.keySet().removeIf(place -> place.grantee() == id);
  }

  /**
   * What the old owner gave and was given is the new one's, and what the new one had from the old
   * one comes to what they keep for themselves.
   *
   * <p>Source: PostgreSQL, aclnewowner in acl.c.
   */
  void changeOwner(int owner, int node) {
    int old = tree.owner(node);
    ground.touched(owner, node);
    ground.joining.add(owner);
    if (old >= 0) {
      ground.touched(old, node);
    }
    long kept = base.rules().privilegesOn(tree.kind(node)) & ~tree.withheld(node);
    if (ground.has(HouseFact.GRANTORS_COUNT) && old >= 0) {
      IntOpenHashSet grantees = new IntOpenHashSet(List.of(old, owner));
      for (int row : base.grants().byNode().run(node)) {
        grantees.add(base.grants().grantee(row));
      }
      for (int grantee : grantees.toIntArray()) {
        List<Row> theirs = rows(grantee, node);
        List<Row> moved = new ArrayList<>();
        for (Row row : theirs) {
          moved.add(
              new Row(row.terms(), row.columns(), row.grantor() == old ? owner : row.grantor()));
        }
        theirs.clear();
        rows(grantee == old ? owner : grantee, node).addAll(moved);
      }
      List<Row> own = rows(owner, node);
      for (Row row : own) {
        boolean fromHimself = row.grantor() == owner && row.isWhole();
        kept |= fromHimself ? row.terms().privileges() : 0;
      }
      own.removeIf(row -> row.grantor() == owner && row.isWhole());
    }
    ground.whatIf.owner(owner, node, base.rules().privilegesOn(tree.kind(node)) & ~kept);
  }

  void grant(Grant grant) {
    int grantee = ground.principal(grant.grantee());
    int node = ground.node(grant.on());
    long privileges = grant.privileges();
    long all = base.rules().privilegesOn(tree.kind(node));
    long grantable = !grant.grantOption() ? 0 : optionByPlace ? all : privileges;
    ground.touched(grantee, node);
    if (byPattern && tree.kind(node) == NodeKind.SCHEMA) {
      pattern(grantee, node, privileges, grantable, true);
      return;
    }
    int covers = reachesDown ? tree.kind(node).inside() : 0;
    int columns = grant.columns().isEmpty() ? ColumnSets.WHOLE : columnSet(node, grant.columns());
    boolean optionOfTable = optionByPlace && columns != ColumnSets.WHOLE;
    if (columns != ColumnSets.WHOLE && !ground.has(HouseFact.COLUMNS_APART)) {
      // what is held on the whole takes in what would be on columns
      for (Row row : rows(grantee, node)) {
        boolean whole = row.isWhole();
        privileges &= whole ? ~row.terms().privileges() | grantable : -1L;
      }
    }
    Terms terms = new Terms(privileges, optionOfTable ? 0 : grantable, covers, Terms.FOREVER);
    rows(grantee, node).add(new Row(terms, columns, tree.owner(node)));
    if (optionOfTable && grantable != 0) {
      rows(grantee, node).add(new Row(Terms.of(0, grantable), ColumnSets.WHOLE, None.PRINCIPAL));
    }
  }

  /** Takes privileges and, where it goes with them or is asked for, the right to grant on. */
  void revoke(Revoke step) {
    boolean option = step.withOption() || !optionByPlace;
    edit(step.about(), step.privileges(), true, option);
  }

  /** Takes the right to grant on and leaves the privileges. */
  void takeOption(TakeOption step) {
    edit(step.about(), step.privileges(), false, true);
  }

  private void edit(About about, long privileges, boolean takePrivilege, boolean takeOption) {
    int grantee = ground.principal(about.holder());
    int node = ground.node(about.on());
    ground.touched(grantee, node);
    // what comes with all privileges only goes with the first of them that is taken
    long with = privileges | base.rules().neverGranted();
    long lost = takePrivilege ? with : 0;
    // where the right to grant is one for the place, taking a privilege leaves it
    long unable = takeOption ? (optionByPlace ? -1 : with) : 0;
    if (byPattern && tree.kind(node) == NodeKind.SCHEMA) {
      pattern(grantee, node, lost, unable, false);
      return;
    }
    List<Row> old = rows(grantee, node);
    List<Row> left = new ArrayList<>();
    int by = about.grantor() == null ? tree.owner(node) : ground.principal(about.grantor());
    for (Row row : old) {
      boolean theirs =
          !ground.has(HouseFact.GRANTORS_COUNT) || row.grantor() < 0 || row.grantor() == by;
      left.addAll(theirs ? edited(row, node, about.columns(), lost, unable) : List.of(row));
    }
    old.clear();
    old.addAll(left);
  }

  private List<Row> edited(Row row, int node, List<String> columns, long lost, long unable) {
    Terms terms = row.terms();
    boolean whole = row.isWhole();
    Row less =
        new Row(
            new Terms(
                terms.privileges() & ~lost,
                terms.grantable() & ~unable,
                terms.covers(),
                terms.until()),
            row.columns(),
            row.grantor());
    if (columns.isEmpty()) {
      // taking from the whole takes from the columns
      return List.of(less);
    }
    if (whole && ground.has(HouseFact.COLUMNS_APART)) {
      return List.of(row);
    } else if (whole) {
      return apart(row, node, columns, less);
    }
    int[] named = base.columnSets().ordinals(columnSet(node, columns));
    IntOpenHashSet hit = new IntOpenHashSet(named);
    int[] in =
        Arrays.stream(base.columnSets().ordinals(row.columns())).filter(hit::contains).toArray();
    int[] out =
        Arrays.stream(base.columnSets().ordinals(row.columns()))
            .filter(ordinal -> !hit.contains(ordinal))
            .toArray();
    List<Row> split = new ArrayList<>();
    if (in.length > 0) {
      split.add(new Row(less.terms(), base.columnSets().intern(in), row.grantor()));
    }
    if (out.length > 0) {
      split.add(new Row(terms, base.columnSets().intern(out), row.grantor()));
    }
    return split;
  }

  /** What is left of a grant on the whole when columns are taken from it. */
  private List<Row> apart(Row row, int node, List<String> columns, Row less) {
    int[] others =
        IntStream.range(0, tree.columns(node))
            .filter(column -> !columns.contains(tree.column(node, column)))
            .toArray();
    long lost = row.terms().privileges() & ~less.terms().privileges();
    long unable = row.terms().grantable() & ~less.terms().grantable();
    if (others.length == 0) {
      return List.of(less);
    }
    Terms rest = new Terms(lost | unable, unable, 0, row.terms().until());
    return List.of(less, new Row(rest, base.columnSets().intern(others), row.grantor()));
  }

  private int columnSet(int node, List<String> names) {
    return base.columnSets()
        .intern(names.stream().mapToInt(name -> tree.columnNamed(node, name)).sorted().toArray());
  }

  /** The rows of a grantee on a node, taken out of what is shared so that they can be edited. */
  private List<Row> rows(int grantee, int node) {
    return rows.computeIfAbsent(
        new Place(grantee, node),
        key -> {
          List<Row> found = new ArrayList<>();
          Grants grants = base.grants();
          for (int row : grants.byNode().run(node)) {
            if (grants.grantee(row) == grantee && grants.terms(row).isByName()) {
              found.add(new Row(grants.terms(row), grants.columns(row), grants.grantor(row)));
              ground.whatIf.revoke(row);
            }
          }
          return found;
        });
  }

  private void pattern(int grantee, int schema, long privileges, long grantable, boolean add) {
    String text = SchemaPattern.of(tree.name(schema));
    for (int i = 0; i < patterns.size(); i++) {
      SchemaPattern old = patterns.get(i);
      boolean same = old.isOf(tree.name(schema));
      if (old.grantee() == grantee && same) {
        long has = add ? old.privileges() | privileges : old.privileges() & ~privileges;
        long may = add ? old.grantable() | grantable : old.grantable() & ~grantable;
        if (has == 0 && may == 0) {
          patterns.remove(i);
        } else {
          patterns.set(i, new SchemaPattern(grantee, old.pattern(), has, may));
        }
        return;
      }
    }
    if (add) {
      patterns.add(new SchemaPattern(grantee, text, privileges, grantable));
    }
  }
}
