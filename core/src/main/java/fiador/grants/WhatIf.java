package fiador.grants;

import fiador.estate.Account;
import fiador.estate.Estate;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.rules.HouseFact;
import it.unimi.dsi.fastutil.ints.IntArrayList;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Edits of an {@link Access}, and what it is with them: a view that shares everything that was not
 * edited. Cost: the edits, and the runs of the principals and nodes they touch; where owners change
 * or principals come or go, also an array of the nodes' owners.
 */
public final class WhatIf {
  private final Access base;
  private final List<Principals.Added> principals = new ArrayList<>();
  private final IntOpenHashSet gone = new IntOpenHashSet();
  private final Map<Integer, Account> accounts = new HashMap<>();
  private final Map<Integer, Integer> owners = new HashMap<>();
  private final Map<Integer, Long> withheld = new HashMap<>();
  private final IntOpenHashSet revoked = new IntOpenHashSet();
  private final List<Row> given = new ArrayList<>();
  private final IntOpenHashSet lifted = new IntOpenHashSet();
  private final List<Row> denied = new ArrayList<>();
  private final Map<Integer, String> renamed = new HashMap<>();
  private final Map<Integer, Turned> powers = new HashMap<>();
  private final IntOpenHashSet left = new IntOpenHashSet();
  private final List<Memberships.Added> joined = new ArrayList<>();
  private List<LaterGrant> later;
  private List<SchemaPattern> patterns;

  private record Row(int grantee, int node, Terms terms, int columns, int grantor) {}

  /** No edits yet. */
  public WhatIf(Access base) {
    this.base = base;
    this.later = base.later();
    this.patterns = base.patterns();
  }

  /** Adds a user or role; gives its id. */
  public int principal(PrincipalKind kind, String name) {
    principals.add(new Principals.Added(kind, name));
    return base.principals().size() + principals.size() - 1;
  }

  /** Takes a principal away, with all that was given to it and all its memberships. */
  public WhatIf drop(int principal) {
    gone.add(principal);
    var rows = base.grants().byGrantee();
    for (int place = rows.from(principal); place < rows.to(principal); place++) {
      revoked.add(rows.row(place));
    }
    boolean known = principal < base.principals().size();
    for (int row : known ? base.denials().byGrantee().run(principal) : new int[0]) {
      lifted.add(row);
    }
    for (var edges : List.of(base.memberships().rolesOf(), base.memberships().membersOf())) {
      for (int place = edges.from(principal); place < edges.to(principal); place++) {
        left.add(edges.row(place));
      }
    }
    return this;
  }

  /** Gives a principal another name. */
  public WhatIf rename(int principal, String name) {
    renamed.put(principal, name);
    return this;
  }

  /** Gives a principal a power, or takes it. */
  public WhatIf power(int principal, Power power, boolean on) {
    powers.merge(principal, new Turned(on ? power.bit() : 0, on ? 0 : power.bit()), Turned::then);
    return this;
  }

  /** Powers that come and powers that go, as bits. */
  private record Turned(int on, int off) {
    Turned then(Turned next) {
      return new Turned(on & ~next.off | next.on, off & ~next.on | next.off);
    }
  }

  /** Changes what is known of an account. */
  public WhatIf account(int principal, Account account) {
    accounts.put(principal, account);
    return this;
  }

  /**
   * Gives a node another owner.
   *
   * @param without the privileges that the new owner has not from themselves
   */
  public WhatIf owner(int principal, int node, long without) {
    owners.put(node, principal);
    withheld.put(node, without);
    return this;
  }

  /** Adds a grant; parameters as for {@link AccessBuilder#grant}. */
  public WhatIf grant(int grantee, int node, Terms terms, int columns, int grantor) {
    given.add(new Row(grantee, node, terms, columns, grantor));
    return this;
  }

  /** Takes a grant away. */
  public WhatIf revoke(int row) {
    revoked.add(row);
    return this;
  }

  /** Adds a denial; parameters as for {@link AccessBuilder#denial}. */
  public WhatIf deny(int principal, int node, Terms terms, int columns) {
    denied.add(new Row(principal, node, terms, columns, None.PRINCIPAL));
    return this;
  }

  /** Takes a denial away. */
  public WhatIf lift(int row) {
    lifted.add(row);
    return this;
  }

  /** Adds a membership. */
  public WhatIf join(int member, int role, Membership how, int grantor) {
    joined.add(new Memberships.Added(member, role, how, grantor));
    return this;
  }

  /** Takes a membership away. */
  public WhatIf leave(int edge) {
    left.add(edge);
    return this;
  }

  /** Puts other grants for what will be created later in the place of those there are. */
  public WhatIf later(List<LaterGrant> instead) {
    later = List.copyOf(instead);
    return this;
  }

  /** Puts other grants by pattern in the place of those there are. */
  public WhatIf patterns(List<SchemaPattern> instead) {
    patterns = List.copyOf(instead);
    return this;
  }

  /** The estate with the edits. */
  public Access access() {
    Principals people = base.principals();
    boolean peopleChange =
        !principals.isEmpty()
            || !gone.isEmpty()
            || !accounts.isEmpty()
            || !renamed.isEmpty()
            || !powers.isEmpty();
    if (peopleChange) {
      Principals all = people.with(principals, gone, accounts).renamed(renamed);
      Map<Integer, Integer> bits = new HashMap<>();
      powers.forEach((id, turned) -> bits.put(id, all.powers(id) & ~turned.off() | turned.on()));
      people = all.powered(bits);
    }
    Tree tree = base.tree();
    if (!owners.isEmpty()) {
      tree = tree.withOwners(owners, withheld, people.size());
    } else if (!principals.isEmpty()) {
      tree = tree.withMorePrincipals();
    }
    Estate estate = new Estate(base.names(), tree, people);
    boolean byHost = base.rules().has(HouseFact.ACCOUNTS_BY_HOST);
    if (byHost) {
      alsoForOtherAccounts();
    }
    Accounts together =
        byHost && (peopleChange || patterns != base.patterns())
            ? new Accounts(estate, patterns)
            : base.accounts();
    if (patterns != base.patterns()) {
      replacePatterns(tree);
    }
    return new Access(
        base.about(),
        base.rules(),
        estate,
        base.memberships().with(left, joined),
        base.grants().with(revoked, added(given, base.grants())),
        lifted.isEmpty() && denied.isEmpty()
            ? base.denials()
            : base.denials().with(lifted, added(denied, base.denials())),
        base.columnSets(),
        base.reads(),
        later,
        patterns,
        together,
        base.sights(),
        base.seen());
  }

  private record Pair(int user, int role) {}

  /** What a session may switch to because another account of its name holds it. */
  private void alsoForOtherAccounts() {
    var edges = base.memberships();
    Set<Pair> turned = new LinkedHashSet<>();
    for (int edge : left.toIntArray()) {
      turned.add(new Pair(edges.member(edge), edges.role(edge)));
      for (int user : base.accounts().countingFor(edges.member(edge))) {
        turned.add(new Pair(user, edges.role(edge)));
      }
    }
    for (Memberships.Added one : joined) {
      turned.add(new Pair(one.member(), one.role()));
      for (int user : base.accounts().countingFor(one.member())) {
        turned.add(new Pair(user, one.role()));
      }
    }
    turned.forEach(this::throughAnotherAccount);
  }

  /** One that holds a role itself needs no other account for it; else the first of those counts. */
  private void throughAnotherAccount(Pair pair) {
    var edges = base.memberships();
    int known = -1;
    boolean own =
        joined.stream()
            .anyMatch(
                one ->
                    one.member() == pair.user && one.role() == pair.role && !one.how().implicit());
    boolean fresh = pair.user >= base.principals().size();
    for (int edge : fresh ? new int[0] : edges.rolesOf().run(pair.user)) {
      if (edges.role(edge) == pair.role && !left.contains(edge)) {
        boolean implicit = edges.options(edge).implicit();
        own |= !implicit;
        known = implicit ? edge : known;
      }
    }
    int through = own ? -1 : firstHolder(pair);
    Membership old = known < 0 ? null : edges.options(known);
    boolean idle = old != null && !old.inherit() && !old.set();
    boolean same = old != null && !idle && edges.grantor(known) == through;
    if (known >= 0 && !same) {
      left.add(known);
    }
    if (through >= 0 && !same) {
      boolean atOnce = old != null && (idle || old.inherit());
      Membership way = new Membership(false, atOnce, true, Terms.FOREVER, true);
      joined.add(new Memberships.Added(pair.user, pair.role, way, through));
    }
  }

  /** The first by its host of the other accounts that hold the role and count for the user. */
  private int firstHolder(Pair pair) {
    var edges = base.memberships();
    IntArrayList holders = new IntArrayList();
    boolean known = pair.role < base.principals().size();
    for (int edge : known ? edges.membersOf().run(pair.role) : new int[0]) {
      if (!left.contains(edge) && !edges.options(edge).implicit()) {
        holders.add(edges.member(edge));
      }
    }
    joined.stream()
        .filter(one -> one.role() == pair.role && !one.how().implicit())
        .forEach(one -> holders.add(one.member()));
    int first = -1;
    String firstHost = null;
    for (int holder : holders) {
      boolean counts =
          holder != pair.user
              && holder < base.principals().size()
              && IntStream.of(base.accounts().countingFor(holder)).anyMatch(u -> u == pair.user);
      String host = counts ? AccountName.of(base.principals().name(holder)).host() : null;
      if (counts && (first < 0 || host.compareTo(firstHost) < 0)) {
        first = holder;
        firstHost = host;
      }
    }
    return first;
  }

  private void replacePatterns(Tree tree) {
    Grants grants = base.grants();
    for (int place = tree.children().from(0); place < tree.children().to(0); place++) {
      var rows = grants.byNode();
      int schema = tree.children().row(place);
      for (int at = rows.from(schema); at < rows.to(schema); at++) {
        if (grants.terms(rows.row(at)).pattern() != Terms.NO_PATTERN) {
          revoked.add(rows.row(at));
        }
      }
    }
    int covers = NodeKind.allObjects();
    for (int index = 0; index < patterns.size(); index++) {
      SchemaPattern pattern = patterns.get(index);
      Terms terms = pattern.terms(base.rules(), covers, index);
      for (int schema : pattern.matches(tree)) {
        grant(pattern.grantee(), schema, terms, ColumnSets.WHOLE, None.PRINCIPAL);
      }
    }
  }

  private static Grants added(List<Row> rows, Grants to) {
    int[] grantee = new int[rows.size()];
    int[] node = new int[rows.size()];
    int[] termsOf = new int[rows.size()];
    int[] columns = new int[rows.size()];
    int[] grantor = new int[rows.size()];
    List<Terms> terms = new ArrayList<>(List.of(to.allTerms()));
    Map<Terms, Integer> ids = new HashMap<>();
    for (int i = 0; i < terms.size(); i++) {
      ids.put(terms.get(i), i);
    }
    for (int i = 0; i < grantee.length; i++) {
      Row row = rows.get(i);
      grantee[i] = row.grantee();
      node[i] = row.node();
      columns[i] = row.columns();
      grantor[i] = row.grantor();
      termsOf[i] =
          ids.computeIfAbsent(
              row.terms(),
              fresh -> {
                terms.add(fresh);
                return terms.size() - 1;
              });
    }
    return Grants.loose(new Grants.Rows(grantee, node, termsOf, columns, grantor), terms);
  }
}
