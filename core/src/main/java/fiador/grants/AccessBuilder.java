package fiador.grants;

import fiador.columns.Ints;
import fiador.estate.Adjacency;
import fiador.estate.Estate;
import fiador.estate.EstateBuilder;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Tree;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.longs.Long2IntOpenHashMap;
import it.unimi.dsi.fastutil.longs.LongOpenHashSet;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Collects an estate and who was given what on it. Principals and nodes come first, by id. */
public final class AccessBuilder {
  private final EstateBuilder estate = new EstateBuilder();
  private final ColumnSets columnSets = new ColumnSets();
  private final Rows grants = new Rows();
  private final Rows denials = new Rows();
  private final IntArrayList member = new IntArrayList();
  private final IntArrayList role = new IntArrayList();
  private final IntArrayList memberGrantor = new IntArrayList();
  private final IntArrayList memberOptions = new IntArrayList();
  private final Pool<Membership> options = new Pool<>();
  private final IntArrayList view = new IntArrayList();
  private final IntArrayList under = new IntArrayList();
  private final IntArrayList underColumns = new IntArrayList();
  private final IntArrayList shownIn = new IntArrayList();
  private final IntArrayList shownAs = new IntArrayList();
  private final IntArrayList shownOf = new IntArrayList();
  private final IntArrayList shownFrom = new IntArrayList();
  private final IntArrayList shownAsIs = new IntArrayList();
  private final List<LaterGrant> later = new ArrayList<>();
  private final List<SchemaPattern> patterns = new ArrayList<>();
  private final SightsBuilder sights = new SightsBuilder();
  private final List<Seen.Beside> beside = new ArrayList<>();
  private final List<Seen.Unseen> unseen = new ArrayList<>();
  private final AbroadBuilder abroad = new AbroadBuilder();

  /** The estate's own builder. */
  public EstateBuilder estate() {
    return estate;
  }

  /** The column sets to point to. */
  public ColumnSets columnSets() {
    return columnSets;
  }

  /** Adds a membership; {@code grantor} may be -1. */
  public AccessBuilder member(int memberId, int roleId, Membership how, int grantor) {
    member.add(memberId);
    role.add(roleId);
    memberOptions.add(options.id(how));
    memberGrantor.add(grantor);
    return this;
  }

  /**
   * Adds a grant.
   *
   * @param columns a column set's id, or {@link ColumnSets#WHOLE}
   * @param grantor a principal, or -1
   */
  public AccessBuilder grant(int grantee, int node, Terms terms, int columns, int grantor) {
    grants.add(grantee, node, terms, columns, grantor);
    return this;
  }

  /** Adds a denial; parameters as for {@link #grant}. */
  public AccessBuilder denial(int principal, int node, Terms terms, int columns) {
    denials.add(principal, node, terms, columns, None.PRINCIPAL);
    return this;
  }

  /** Says that a view reads columns of something. */
  public AccessBuilder reads(int viewNode, int underNode, int columns) {
    view.add(viewNode);
    under.add(underNode);
    underColumns.add(columns);
    return this;
  }

  /**
   * Says that a view's column shows a column of what lies under it.
   *
   * @param column the ordinal in the view
   * @param under a node, or {@link Lineage#NOTHING}
   * @param from the ordinal there
   * @param asIs whether its values stand there as they are
   */
  public AccessBuilder shows(int viewNode, int column, int under, int from, boolean asIs) {
    shownAsIs.add(asIs ? 1 : 0);
    shownIn.add(viewNode);
    shownAs.add(column);
    shownOf.add(under);
    shownFrom.add(from);
    return this;
  }

  /** Adds what objects still to be created will come with. */
  public AccessBuilder later(LaterGrant grant) {
    later.add(grant);
    return this;
  }

  /** Adds a grant on schemas by pattern. */
  public AccessBuilder pattern(SchemaPattern grant) {
    patterns.add(grant);
    return this;
  }

  /** Adds what somebody has beside what grants can say. */
  public AccessBuilder beside(Seen.Beside one) {
    beside.add(one);
    return this;
  }

  /** Says that facts of some kind were not seen. */
  public AccessBuilder unseen(Seen.Unseen kind) {
    unseen.add(kind);
    return this;
  }

  /** Collects what decides on rows and columns. */
  public SightsBuilder sights() {
    return sights;
  }

  /** Collects what is really elsewhere. */
  public AbroadBuilder abroad() {
    return abroad;
  }

  /** How many grants there are so far. */
  public int grants() {
    return grants.grantee.size();
  }

  /** How many memberships there are so far. */
  public int memberships() {
    return member.size();
  }

  /** The whole, immutable. Cost: its size. */
  public Access build(Origin about, HouseRules rules) {
    Estate built = estate.build();
    int people = built.principals().size();
    int nodes = built.tree().size();
    Accounts accounts = null;
    Rows effective = grants;
    if (rules.has(HouseFact.ACCOUNTS_BY_HOST)) {
      accounts = new Accounts(built, patterns);
      addRolesOfOtherAccounts(accounts);
      effective = grants.copy();
      expandPatterns(built.tree(), rules, effective);
    }
    return new Access(
        about,
        rules,
        built,
        new Memberships(
            people,
            member.toIntArray(),
            role.toIntArray(),
            memberGrantor.toIntArray(),
            memberOptions.toIntArray(),
            options.values),
        effective.build(people, nodes),
        denials.build(people, nodes),
        columnSets,
        new Reads(
            Adjacency.group(nodes, view.toIntArray()),
            Ints.of(under.toIntArray()),
            Ints.of(underColumns.toIntArray()),
            new Lineage(
                Adjacency.group(nodes, shownIn.toIntArray()),
                Ints.of(shownAs.toIntArray()),
                Ints.of(shownOf.toIntArray()),
                Ints.of(shownFrom.toIntArray()),
                Ints.of(shownAsIs.toIntArray()))),
        List.copyOf(later),
        List.copyOf(patterns),
        accounts,
        sights.build(),
        new Seen(List.copyOf(beside), List.copyOf(unseen), abroad.build()));
  }

  /**
   * A session may also switch to the roles of the other accounts that count for it. A default role
   * that an account does not hold itself, an implicit membership from nobody, works if one of them
   * does.
   */
  private void addRolesOfOtherAccounts(Accounts accounts) {
    LongOpenHashSet known = new LongOpenHashSet();
    Long2IntOpenHashMap defaults = new Long2IntOpenHashMap();
    defaults.defaultReturnValue(-1);
    int given = member.size();
    for (int edge = 0; edge < given; edge++) {
      long pair = (long) member.getInt(edge) << 32 | role.getInt(edge);
      known.add(pair);
      Membership how = options.values.get(memberOptions.getInt(edge));
      if (how.implicit() && how.inherit() && memberGrantor.getInt(edge) < 0) {
        defaults.put(pair, edge);
      }
    }
    for (int edge = 0; edge < given; edge++) {
      int holder = member.getInt(edge);
      if (options.values.get(memberOptions.getInt(edge)).implicit()) {
        continue;
      }
      for (int user : accounts.countingFor(holder)) {
        int way = defaults.get((long) user << 32 | role.getInt(edge));
        if (way >= 0 && memberGrantor.getInt(way) < 0) {
          memberGrantor.set(way, holder);
        } else if (known.add((long) user << 32 | role.getInt(edge))) {
          member(
              user,
              role.getInt(edge),
              new Membership(false, false, true, Terms.FOREVER, true),
              holder);
        }
      }
    }
    for (int way : defaults.values()) {
      if (memberGrantor.getInt(way) < 0) {
        Membership nothing = new Membership(false, false, false, Terms.FOREVER, true);
        memberOptions.set(way, options.id(nothing));
      }
    }
  }

  private void expandPatterns(Tree tree, HouseRules rules, Rows into) {
    for (int index = 0; index < patterns.size(); index++) {
      SchemaPattern given = patterns.get(index);
      Terms terms = given.terms(rules, NodeKind.allObjects(), index);
      for (int schema : given.matches(tree)) {
        into.add(given.grantee(), schema, terms, ColumnSets.WHOLE, None.PRINCIPAL);
      }
    }
  }

  private static final class Pool<T> {
    private final List<T> values = new ArrayList<>();
    private final Map<T, Integer> ids = new HashMap<>();
    private T lastValue;
    private int lastId;

    int id(T value) {
      if (value.equals(lastValue)) {
        return lastId;
      }
      lastValue = value;
      lastId =
          ids.computeIfAbsent(
              value,
              fresh -> {
                values.add(fresh);
                return values.size() - 1;
              });
      return lastId;
    }
  }

  private static final class Rows {
    private final IntArrayList grantee = new IntArrayList();
    private final IntArrayList node = new IntArrayList();
    private final IntArrayList termsOf = new IntArrayList();
    private final IntArrayList columns = new IntArrayList();
    private final IntArrayList grantor = new IntArrayList();
    private final Pool<Terms> terms;

    Rows() {
      this(new Pool<>());
    }

    private Rows(Pool<Terms> terms) {
      this.terms = terms;
    }

    void add(int to, int on, Terms what, int columnSet, int by) {
      grantee.add(to);
      node.add(on);
      termsOf.add(terms.id(what));
      columns.add(columnSet);
      grantor.add(by);
    }

    /** The same rows, to which others can be added; terms are shared. */
    Rows copy() {
      Rows same = new Rows(terms);
      same.grantee.addAll(grantee);
      same.node.addAll(node);
      same.termsOf.addAll(termsOf);
      same.columns.addAll(columns);
      same.grantor.addAll(grantor);
      return same;
    }

    Grants build(int principals, int nodes) {
      return new Grants(
          principals,
          nodes,
          new Grants.Rows(
              grantee.toIntArray(),
              node.toIntArray(),
              termsOf.toIntArray(),
              columns.toIntArray(),
              grantor.toIntArray()),
          terms.values);
    }
  }
}
