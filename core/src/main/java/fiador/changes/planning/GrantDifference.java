package fiador.changes.planning;

import fiador.changes.steps.AddOption;
import fiador.changes.steps.ColumnsFirst;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.Step;
import fiador.changes.steps.TakeOption;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.Rights;
import fiador.effects.Owned;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Extent;
import fiador.grants.Grants;
import fiador.grants.Terms;
import fiador.grants.rules.HouseFact;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** The grants that are demanded and missing, and those that are governed and not demanded. */
public final class GrantDifference {

  private final Access access;
  private final Tree tree;
  private final Principals people;
  private final Governed governed;
  private final Set<Step> give;
  private final Set<Step> take;
  private final Set<String> notes;

  /** What is given on columns after it went with the whole. */
  private final Set<Step> again = new LinkedHashSet<>();

  private final Owned ownership;
  private final boolean optionByPlace;

  public GrantDifference(
      Access access, Governed governed, Set<Step> give, Set<Step> take, Set<String> notes) {
    this.access = access;
    this.tree = access.tree();
    this.people = access.principals();
    this.governed = governed;
    this.give = give;
    this.take = take;
    this.notes = notes;
    this.ownership = new Owned(access);
    this.optionByPlace = access.rules().has(HouseFact.OPTION_BY_PLACE);
  }

  /**
   * Adds what has to be given and taken.
   *
   * @param demands what is wanted now
   * @param ended what was wanted for a time that is over: it goes, governed or not
   */
  void compare(Demands demands, Demands ended) {
    Set<String> grantees = new TreeSet<>(demands.rights().keySet());
    grantees.addAll(ended.rights().keySet());
    for (int id = 0; id < people.size(); id++) {
      if (governed.principal(id)) {
        grantees.add(people.name(id));
      }
    }
    for (String grantee : grantees) {
      compare(
          grantee,
          demands.rights().getOrDefault(grantee, Map.of()),
          ended.rights().getOrDefault(grantee, Map.of()));
    }
    take.addAll(again);
    new LaterDifference(access, governed, give, take).compare(demands.later(), ended.later());
    new Ungoverned(access, governed, notes).say();
  }

  private void compare(String grantee, Map<Integer, Rights> wanted, Map<Integer, Rights> endedOn) {
    int id = people.named(grantee);
    Map<Integer, Rights> ended = id >= 0 && governed.canEnd(id) ? endedOn : Map.of();
    Map<Integer, Rights> actual = id < 0 ? Map.of() : actual(id);
    Set<Integer> nodes = new LinkedHashSet<>(wanted.keySet());
    nodes.addAll(ended.keySet());
    for (int node : nodes) {
      Rights is = actual.getOrDefault(node, new Rights());
      Rights wantedThere = wanted.getOrDefault(node, new Rights());
      if (isDecided(id, node) || !ended.containsKey(node)) {
        missing(grantee, id, node, wantedThere, is, isDecided(id, node));
      } else {
        Rights stays = is.without(ended.get(node), wantedThere, optionByPlace);
        missing(grantee, id, node, stays, is, true);
        surplus(grantee, id, node, stays, is);
      }
    }
    if (id >= 0 && governed.principal(id)) {
      actual.forEach(
          (node, rights) -> {
            if (governed.grant(id, node)) {
              surplus(grantee, id, node, wanted.getOrDefault(node, new Rights()), rights);
            }
          });
    }
  }

  /** What a principal was given, by node; a grant by a pattern that means one schema is on that. */
  public Map<Integer, Rights> actual(int grantee) {
    Map<Integer, Rights> found = new LinkedHashMap<>();
    Grants grants = access.grants();
    for (int row : grants.byGrantee().run(grantee)) {
      Terms terms = grants.terms(row);
      int node = grants.node(row);
      if (!terms.isByName()
          && (terms.label() != Terms.NO_LABEL || !isLiteral(terms.pattern(), node))) {
        continue;
      }
      Rights rights = found.computeIfAbsent(node, fresh -> new Rights());
      if (grants.columns(row) == ColumnSets.WHOLE) {
        rights.whole |= terms.privileges();
        rights.grantable |= terms.grantable();
      } else {
        rights.add(row, access);
      }
    }
    return found;
  }

  private boolean isLiteral(int pattern, int schema) {
    return access.patterns().get(pattern).isOf(tree.name(schema));
  }

  /**
   * @param taken whether what is there and not wanted goes
   */
  private void missing(
      String grantee, int id, int node, Rights wanted, Rights actual, boolean taken) {
    On on = Places.on(tree, node);
    long owned = owned(id, node, wanted.grantable);
    long missing = wanted.whole & ~actual.whole & ~owned;
    if (missing != 0 && isDecided(id, node)) {
      swallowed(grantee, id, node, missing, actual);
    }
    for (boolean option : new boolean[] {false, true}) {
      long bits = option ? missing & wanted.grantable : missing & ~wanted.grantable;
      if (bits != 0) {
        give.add(new Grant(bits, on, List.of(), grantee, option));
      }
    }
    long unoptioned = wanted.grantable & actual.whole & ~actual.grantable & ~owned;
    boolean optionThere = optionByPlace && (missing & wanted.grantable) != 0;
    if (unoptioned != 0 && !optionThere) {
      give.add(new AddOption(unoptioned, on, List.of(), grantee));
    }
    missingOnColumns(grantee, id, node, wanted, actual, taken);
  }

  /** What an owner needs no grant for, who is to grant some of it on. */
  private long owned(int id, int node, long grantable) {
    return id < 0 ? 0 : ownership.owned(id, node) & (~grantable | ownership.grantable(id, node));
  }

  /** Whether the charter decides what somebody has there. */
  private boolean isDecided(int id, int node) {
    return id >= 0 && governed.grant(id, node);
  }

  private void missingOnColumns(
      String grantee, int id, int node, Rights wanted, Rights actual, boolean taken) {
    On on = Places.on(tree, node);
    long owned = owned(id, node, wanted.grantable);
    long grants = owned(id, node, -1L);
    long missing = wanted.whole & ~actual.whole & ~owned;
    Map<Integer, Extent> columns = wanted.columns;
    // taking from the whole takes from the columns too, and what is to stay there comes again
    long goes = taken ? actual.whole & ~wanted.whole : 0;
    long optionGoes = taken ? actual.grantable & ~wanted.grantable : 0;
    boolean anyOption = columns.keySet().stream().anyMatch(c -> wanted.grantableOn(c) != 0);
    if (!optionByPlace) {
      Rights.byColumns(
              columns.keySet(),
              column ->
                  wanted.grantableOn(column)
                      & actual.on(column)
                      & ~goes
                      & ~((actual.grantableOn(column) | actual.grantable) & ~optionGoes)
                      & ~grants)
          .forEach(
              (ordinals, bits) ->
                  ((bits & optionGoes) == 0 ? give : again)
                      .add(new AddOption(bits, on, names(node, ordinals), grantee)));
    } else if (anyOption && actual.grantable == 0 && missing == 0) {
      // one column with what is held on it is enough: the right belongs to the place
      columns.keySet().stream()
          .filter(column -> (wanted.grantableOn(column) & actual.on(column)) != 0)
          .findFirst()
          .ifPresent(
              column ->
                  give.add(
                      new AddOption(
                          wanted.grantableOn(column) & actual.on(column),
                          on,
                          names(node, List.of(column)),
                          grantee)));
    }
    long stays = taken ? actual.whole & wanted.whole : actual.whole;
    // where each grant has its option, the whole without it does not do for columns with it
    long optionStays = optionByPlace ? stays : stays & actual.grantable & ~optionGoes;
    for (boolean option : new boolean[] {false, true}) {
      Rights.byColumns(
              columns.keySet(),
              column -> {
                long options = wanted.grantableOn(column);
                long has = actual.on(column) & ~goes | owned(id, node, options);
                long lacking = wanted.on(column) & ~has;
                return option ? lacking & options & ~optionStays : lacking & ~options & ~stays;
              })
          .forEach(
              (ordinals, bits) -> {
                Grant step = new Grant(bits, on, names(node, ordinals), grantee, option);
                ((bits & goes) == 0 ? give : again).add(step);
              });
    }
  }

  /**
   * What is given on columns goes by a step of its own before the whole is given: taking the whole
   * back would take it too, and nobody could tell any more that it was there.
   */
  private void swallowed(String grantee, int id, int node, long given, Rights actual) {
    On on = Places.on(tree, node);
    onColumns(id, node, actual)
        .forEach(
            (grantor, there) ->
                Rights.byColumns(
                        there.columns.keySet(),
                        column -> there.on(column) & ~there.grantableOn(column) & given)
                    .forEach(
                        (ordinals, bits) ->
                            give.add(
                                new Revoke(
                                    bits, on, names(node, ordinals), grantee, false, grantor))));
  }

  private List<String> names(int node, List<Integer> ordinals) {
    return ordinals.stream().map(ordinal -> tree.column(node, ordinal)).toList();
  }

  private void surplus(String grantee, int id, int node, Rights wanted, Rights actual) {
    On on = Places.on(tree, node);
    List<Step> steps = new ArrayList<>();
    // what only comes with all the others goes with the first of them that is taken
    long possible = access.rules().grantableOn(tree.kind(node));
    long surplus = actual.whole & ~wanted.whole & possible;
    // an owner can grant whatever they were given
    long owned = ownership.grantable(id, node);
    long options = actual.grantable & ~surplus & ~wanted.grantable & possible & ~owned;
    if (optionByPlace) {
      boolean asked =
          wanted.grantable != 0
              || wanted.columns.keySet().stream().anyMatch(c -> wanted.grantableOn(c) != 0);
      // the right to grant and nothing to grant cannot be said in a sentence
      boolean alone = actual.whole == 0 && actual.columns.isEmpty();
      boolean goes = actual.grantable != 0 && !asked && !alone;
      if (surplus != 0) {
        steps.add(new Revoke(surplus, on, List.of(), grantee, false, null));
      }
      if (goes) {
        long any = actual.whole & ~surplus;
        steps.add(new TakeOption(any == 0 ? possible : any, on, List.of(), grantee, null));
      }
    } else {
      for (Map.Entry<String, Surplus> by : byGrantor(id, node, surplus, options).entrySet()) {
        Surplus much = by.getValue();
        long plain = much.privileges() & ~much.grantable();
        if (plain != 0) {
          steps.add(new Revoke(plain, on, List.of(), grantee, false, by.getKey()));
        }
        if (much.grantable() != 0) {
          steps.add(new Revoke(much.grantable(), on, List.of(), grantee, true, by.getKey()));
        }
        if (much.options() != 0) {
          steps.add(new TakeOption(much.options(), on, List.of(), grantee, by.getKey()));
        }
      }
    }
    onColumns(id, node, actual)
        .forEach((by, given) -> surplusOnColumns(node, grantee, wanted, given, by, steps));
    take.addAll(ColumnsFirst.of(steps));
  }

  private void surplusOnColumns(
      int node, String grantee, Rights wanted, Rights given, String grantor, List<Step> steps) {
    On on = Places.on(tree, node);
    Rights.byColumns(
            given.columns.keySet(), column -> given.on(column) & ~wanted.on(column) & ~wanted.whole)
        .forEach(
            (ordinals, bits) ->
                steps.add(new Revoke(bits, on, names(node, ordinals), grantee, false, grantor)));
    if (!optionByPlace) {
      long owned = ownership.grantable(people.named(grantee), node);
      Rights.byColumns(
              given.columns.keySet(),
              column ->
                  given.grantableOn(column)
                      & wanted.on(column)
                      & ~wanted.grantableOn(column)
                      & ~wanted.grantable
                      & ~owned)
          .forEach(
              (ordinals, bits) ->
                  steps.add(new TakeOption(bits, on, names(node, ordinals), grantee, grantor)));
    }
  }

  /** What is given on columns, by who gave it where that counts; null is the owner. */
  private Map<String, Rights> onColumns(int grantee, int node, Rights actual) {
    Map<String, Rights> found = new LinkedHashMap<>();
    if (!access.rules().has(HouseFact.GRANTORS_COUNT)) {
      found.put(null, actual);
      return found;
    }
    Grants grants = access.grants();
    for (int row : grants.byNode().run(node)) {
      if (grants.grantee(row) == grantee && grants.columns(row) != ColumnSets.WHOLE) {
        int by = grants.grantor(row);
        String grantor = by < 0 || by == tree.owner(node) ? null : people.name(by);
        found.computeIfAbsent(grantor, fresh -> new Rights()).add(row, access);
      }
    }
    return found;
  }

  /** Surplus privileges, which of them with the right to grant, and surplus such rights. */
  private record Surplus(long privileges, long grantable, long options) {
    Surplus and(Surplus other) {
      return new Surplus(
          privileges | other.privileges, grantable | other.grantable, options | other.options);
    }
  }

  private Map<String, Surplus> byGrantor(int grantee, int node, long surplus, long options) {
    Map<String, Surplus> found = new LinkedHashMap<>();
    Grants grants = access.grants();
    int owner = tree.owner(node);
    for (int row : grants.byNode().run(node)) {
      Terms terms = grants.terms(row);
      boolean theirs = grants.grantee(row) == grantee && grants.columns(row) == ColumnSets.WHOLE;
      if (theirs && ((terms.privileges() & surplus) != 0 || (terms.grantable() & options) != 0)) {
        int by = grants.grantor(row);
        String grantor = by < 0 || by == owner ? null : people.name(by);
        Surplus more =
            new Surplus(
                terms.privileges() & surplus,
                terms.grantable() & surplus,
                terms.grantable() & options);
        found.merge(grantor, more, Surplus::and);
      }
    }
    return found;
  }
}
