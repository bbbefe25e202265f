package fiador.grants;

import fiador.estate.Account;
import fiador.estate.Estate;
import fiador.estate.NodeKind;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.Tree;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

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
    for (var edges : List.of(base.memberships().rolesOf(), base.memberships().membersOf())) {
      for (int place = edges.from(principal); place < edges.to(principal); place++) {
        left.add(edges.row(place));
      }
    }
    return this;
  }

  /** Changes what is known of an account. */
  public WhatIf account(int principal, Account account) {
    accounts.put(principal, account);
    return this;
  }

  /**
   * Gives a node another owner.
   *
   * @param without the privileges that the new owner has not from himself
   */
  public WhatIf owner(int node, int principal, long without) {
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
    boolean peopleChange = !principals.isEmpty() || !gone.isEmpty() || !accounts.isEmpty();
    if (peopleChange) {
      people = people.with(principals, gone, accounts);
    }
    Tree tree = base.tree();
    if (!owners.isEmpty()) {
      tree = tree.withOwners(owners, withheld, people.size());
    } else if (!principals.isEmpty()) {
      tree = tree.withPrincipals(people.size());
    }
    Estate estate = new Estate(base.names(), tree, people);
    boolean byHost = base.rules().accounts() == HouseRules.Accounts.BY_HOST;
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
        base.grants().with(revoked, added()),
        base.denials(),
        base.columnSets(),
        base.reads(),
        later,
        patterns,
        together,
        base.sights(),
        base.seen());
  }

  /** What a session may switch to because another account of its name holds it. */
  private void alsoForOtherAccounts() {
    var edges = base.memberships();
    for (int edge : left.toIntArray()) {
      for (int user : base.accounts().countingFor(edges.member(edge))) {
        for (int own : edges.rolesOf().run(user)) {
          boolean through = edges.grantor(own) == edges.member(edge);
          if (through && edges.role(own) == edges.role(edge) && edges.options(own).implicit()) {
            left.add(own);
          }
        }
      }
    }
    for (Memberships.Added one : List.copyOf(joined)) {
      for (int user : base.accounts().countingFor(one.member())) {
        boolean has = false;
        int idle = -1;
        for (int own : edges.rolesOf().run(user)) {
          boolean same = edges.role(own) == one.role() && !left.contains(own);
          has |= same;
          idle = same && isIdle(edges.options(own)) ? own : idle;
        }
        if (idle >= 0) {
          left.add(idle);
        }
        if (!has || idle >= 0) {
          Membership way = new Membership(false, idle >= 0, true, Terms.FOREVER, true);
          joined.add(new Memberships.Added(user, one.role(), way, one.member()));
        }
      }
    }
  }

  /** A default role that the account does not hold: it counts once another account holds it. */
  private static boolean isIdle(Membership how) {
    return how.implicit() && !how.inherit() && !how.set();
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
        grant(pattern.grantee(), schema, terms, ColumnSets.WHOLE, -1);
      }
    }
  }

  private Grants added() {
    int[] grantee = new int[given.size()];
    int[] node = new int[given.size()];
    int[] termsOf = new int[given.size()];
    int[] columns = new int[given.size()];
    int[] grantor = new int[given.size()];
    List<Terms> terms = new ArrayList<>(List.of(base.grants().allTerms()));
    Map<Terms, Integer> ids = new HashMap<>();
    for (int i = 0; i < terms.size(); i++) {
      ids.put(terms.get(i), i);
    }
    for (int i = 0; i < grantee.length; i++) {
      Row row = given.get(i);
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
    return Grants.loose(grantee, node, termsOf, columns, grantor, terms);
  }
}
