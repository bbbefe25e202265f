package fiador.history;

import fiador.estate.Account;
import fiador.estate.NodeFact;
import fiador.estate.NodeKind;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.PrincipalKind;
import fiador.estate.Principals;
import fiador.estate.PrivilegeSet;
import fiador.estate.Secret;
import fiador.estate.Tree;
import fiador.findings.check.Phrase;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.LaterGrant;
import fiador.grants.Membership;
import fiador.grants.Memberships;
import fiador.grants.SchemaPattern;
import fiador.grants.Sights;
import fiador.grants.Terms;
import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/**
 * The facts that came and went between two surveys of a server: users and roles, memberships,
 * grants, objects, owners, powers, policies. Compared from both sides with the same code: what one
 * side has and the other has not. Cost: both surveys.
 */
public final class FactDifference {
  /** What a fact is about. */
  public enum Kind {
    PRINCIPAL,
    ACCOUNT,
    MEMBERSHIP,
    GRANT,
    OBJECT,
    OWNER,
    POLICY
  }

  /**
   * A fact of one survey that the other has not.
   *
   * @param came true where the later has it, false where the earlier had it; the ids in {@code
   *     said} are of that survey
   * @param said the fact in words
   */
  public record Fact(Kind kind, boolean came, Phrase said) {}

  private final Access one;
  private final Access other;
  private final Tree tree;
  private final Alike there;
  private final Alike back;
  private final boolean came;
  private final List<Fact> facts;

  private FactDifference(
      Access one, Access other, Alike there, Alike back, boolean came, List<Fact> facts) {
    this.one = one;
    this.other = other;
    this.tree = one.tree();
    this.there = there;
    this.back = back;
    this.came = came;
    this.facts = facts;
  }

  /** What differs, by kind, and what went before what came. */
  public static List<Fact> between(Access earlier, Access later) {
    List<Fact> facts = new ArrayList<>();
    Alike forward = new Alike(earlier, later);
    Alike backward = new Alike(later, earlier);
    new FactDifference(earlier, later, forward, backward, false, facts).find();
    new FactDifference(later, earlier, backward, forward, true, facts).find();
    facts.sort(Comparator.comparing(Fact::kind));
    return facts;
  }

  private void find() {
    for (int principal = 1; principal < one.principals().size(); principal++) {
      principal(principal);
    }
    for (int node = 1; node < tree.size(); node++) {
      node(node);
    }
    for (int node = 0; node < tree.size(); node++) {
      grants(node, one.grants(), other.grants(), "");
      grants(node, one.denials(), other.denials(), "denied: ");
    }
    patterns();
    later();
    policies();
  }

  private void add(Kind kind, Phrase said) {
    facts.add(new Fact(kind, came, said));
  }

  private void principal(int principal) {
    Principals mine = one.principals();
    int same = there.principal(principal);
    boolean user = mine.kind(principal) == PrincipalKind.USER;
    if (same < 0) {
      add(Kind.PRINCIPAL, Phrase.of(user ? "user " : "role ").who(principal));
    }
    for (Power power : Power.values()) {
      boolean others = same >= 0 && other.principals().has(same, power);
      if (mine.has(principal, power) && !others) {
        add(Kind.ACCOUNT, new Phrase().who(principal).say(" has the power " + power.text()));
      }
    }
    if (same >= 0) {
      account(principal, mine.account(principal), other.principals().account(same));
    }
    memberships(principal, same);
  }

  private void account(int principal, Account mine, Account others) {
    if (mine.disabled() && !others.disabled()) {
      add(Kind.ACCOUNT, new Phrase().who(principal).say(" is disabled"));
    }
    if (mine.until() != null && !mine.until().equals(others.until())) {
      add(Kind.ACCOUNT, new Phrase().who(principal).say(" ends at " + mine.until()));
    }
    if (mine.secret() != others.secret() && mine.secret() != Secret.UNKNOWN) {
      add(
          Kind.ACCOUNT,
          new Phrase().who(principal).say(" has a secret that is " + mine.secret().text()));
    }
    if (mine.secretSince() != null && !mine.secretSince().equals(others.secretSince())) {
      add(
          Kind.ACCOUNT,
          new Phrase().who(principal).say(" has the secret set at " + mine.secretSince()));
    }
  }

  /** How a role is held, in ids of the other survey, so that both can be compared. */
  private record Held(int role, int by, Membership how) {}

  private void memberships(int member, int same) {
    Memberships mine = one.memberships();
    Set<Held> others = new HashSet<>();
    if (same >= 0) {
      for (int edge : other.memberships().rolesOf().run(same)) {
        others.add(
            new Held(
                other.memberships().role(edge),
                other.memberships().grantor(edge),
                other.memberships().options(edge)));
      }
    }
    for (int edge : mine.rolesOf().run(member)) {
      int role = mine.role(edge);
      Membership how = mine.options(edge);
      Held held = new Held(there.principal(role), there.principal(mine.grantor(edge)), how);
      if (!others.contains(held)) {
        Phrase said = Phrase.of("role ").who(role).say(" held by ").who(member);
        add(Kind.MEMBERSHIP, said.say(options(how)));
      }
    }
  }

  private static String options(Membership how) {
    return (how.admin() ? ", may give it on" : "")
        + (how.inherit() ? "" : ", only after switching")
        + (how.set() || how.inherit() ? "" : " (which is not allowed)")
        + (how.until() == Terms.FOREVER ? "" : ", until " + Instant.ofEpochSecond(how.until()));
  }

  private void node(int node) {
    int same = there.node(node);
    boolean inside = tree.parent(node) > 0 && there.node(tree.parent(node)) < 0;
    if (same < 0 && !inside) {
      add(Kind.OBJECT, new Phrase().kindAndWhere(node));
    }
    if (same >= 0 && tree.is(node, NodeFact.SEALED) && !other.tree().is(same, NodeFact.SEALED)) {
      add(Kind.OBJECT, new Phrase().kindAndWhere(node).say(" is sealed"));
    }
    int owner = tree.owner(node);
    if (same >= 0 && owner >= 0 && there.principal(owner) != other.tree().owner(same)) {
      add(Kind.OWNER, new Phrase().kindAndWhere(node).say(" owned by ").who(owner));
    }
  }

  /** A grant on a node in ids of the other survey. */
  private record Given(int grantee, int by, Terms terms, String label, Set<String> columns) {}

  private static Set<String> columns(Access access, Grants grants, int row) {
    Set<String> names = new HashSet<>();
    if (grants.columns(row) != ColumnSets.WHOLE) {
      for (int ordinal : access.columnSets().ordinals(grants.columns(row))) {
        names.add(access.tree().column(grants.node(row), ordinal));
      }
    }
    return names;
  }

  private static Terms bare(Terms terms) {
    return new Terms(terms.privileges(), terms.grantable(), terms.covers(), terms.until());
  }

  private void grants(int node, Grants mine, Grants theirs, String before) {
    int same = there.node(node);
    Set<Given> others = new HashSet<>();
    if (same >= 0) {
      for (int row : theirs.byNode().run(same)) {
        if (theirs.terms(row).pattern() == Terms.NO_PATTERN) {
          others.add(
              new Given(
                  theirs.grantee(row),
                  theirs.grantor(row),
                  bare(theirs.terms(row)),
                  other.labelOf(theirs.terms(row)),
                  columns(other, theirs, row)));
        }
      }
    }
    for (int row : mine.byNode().run(node)) {
      Terms terms = mine.terms(row);
      Given given =
          new Given(
              there.principal(mine.grantee(row)),
              there.principal(mine.grantor(row)),
              bare(terms),
              one.labelOf(terms),
              columns(one, mine, row));
      if (terms.pattern() == Terms.NO_PATTERN && !others.contains(given)) {
        add(Kind.GRANT, grant(mine, row, before));
      }
    }
  }

  private Phrase grant(Grants mine, int row, String before) {
    Terms terms = mine.terms(row);
    int node = mine.node(row);
    Phrase said = Phrase.of(before);
    boolean all = terms.privileges() == one.rules().privilegesOn(tree.kind(node));
    said.say(
        all && Long.bitCount(terms.privileges()) > 1
            ? "all privileges"
            : PrivilegeSet.text(terms.privileges()));
    if (mine.columns(row) != ColumnSets.WHOLE) {
      BitSet ordinals = new BitSet();
      for (int ordinal : one.columnSets().ordinals(mine.columns(row))) {
        ordinals.set(ordinal);
      }
      said.say(" (").columns(node, ordinals).say(")");
    }
    said.say(" on ").kindAndWhere(node).say(" to ").who(mine.grantee(row));
    if (terms.label() != Terms.NO_LABEL) {
      said.say(", by the label " + one.labelOf(terms));
    }
    return terms.grantable() == 0 ? said : said.say(", may be granted on");
  }

  private void patterns() {
    Set<SchemaPattern> others = new HashSet<>(other.patterns());
    for (SchemaPattern pattern : one.patterns()) {
      int grantee = there.principal(pattern.grantee());
      SchemaPattern same =
          new SchemaPattern(grantee, pattern.pattern(), pattern.privileges(), pattern.grantable());
      if (!others.contains(same)) {
        Phrase said = new Phrase().privileges(pattern.privileges());
        said.say(" on schemas like " + pattern.pattern() + " to ").who(pattern.grantee());
        add(Kind.GRANT, said);
      }
    }
  }

  private record LaterPlace(int creator, int in, NodeKind kind) {}

  private record LaterGiven(LaterPlace place, int grantee, long privileges, long grantable) {}

  private void later() {
    Set<LaterGiven> others = new HashSet<>();
    for (LaterGrant theirs : other.later()) {
      LaterPlace place = new LaterPlace(theirs.creator(), theirs.in(), theirs.kind());
      for (LaterGrant.Given given : theirs.given()) {
        others.add(new LaterGiven(place, given.grantee(), given.privileges(), given.grantable()));
      }
    }
    for (LaterGrant mine : one.later()) {
      int creator = mine.creator() < 0 ? None.PRINCIPAL : there.principal(mine.creator());
      LaterPlace place = new LaterPlace(creator, there.node(mine.in()), mine.kind());
      for (LaterGrant.Given given : mine.given()) {
        LaterGiven same =
            new LaterGiven(
                place, there.principal(given.grantee()), given.privileges(), given.grantable());
        if (!others.contains(same)) {
          later(mine, given);
        }
      }
    }
  }

  private void later(LaterGrant mine, LaterGrant.Given given) {
    Phrase said = new Phrase().privileges(given.privileges());
    said.say(" on each later " + mine.kind().text() + " in ").where(mine.in());
    said.say(" to ").who(given.grantee());
    add(Kind.GRANT, mine.creator() < 0 ? said : said.say(", made by ").who(mine.creator()));
  }

  private void policies() {
    Map<Integer, Object> others = new LinkedHashMap<>();
    other.sights().kept().forEach((node, kept) -> others.put(node, facts(kept)));
    one.sights()
        .kept()
        .forEach(
            (node, kept) -> {
              if (!facts(kept).equals(others.get(there.node(node)))) {
                Phrase said = Phrase.of("policies on ").kindAndWhere(kept.table());
                add(Kind.POLICY, kept.asMade() ? said : said.say(", changed by hand"));
              }
            });
    one.sights()
        .filters()
        .forEach(
            (node, filter) -> {
              var same = other.sights().filters().get(there.node(node));
              if (same == null || !facts(filter, there).equals(facts(same, null))) {
                add(Kind.POLICY, Phrase.of("row rules on ").kindAndWhere(node));
              }
            });
    attributes();
  }

  private static Object facts(Sights.Kept kept) {
    return List.of(kept.policies(), kept.asMade());
  }

  private static Object facts(Sights.Filter filter, Alike names) {
    List<Object> rules = new ArrayList<>();
    for (var rule : filter.rules()) {
      List<Integer> roles =
          rule.roles().stream().map(id -> names == null ? id : names.principal(id)).toList();
      List<Object> said = new ArrayList<>(List.of(rule.name(), rule.any(), rule.commands(), roles));
      said.add(Objects.toString(rule.using(), ""));
      rules.add(said);
    }
    return List.of(filter.enabled(), filter.forced(), rules);
  }

  private void attributes() {
    Collection<Sights.Attribute> others = new HashSet<>();
    for (var theirs : other.sights().attributes()) {
      int database = back.node(theirs.database());
      others.add(
          new Sights.Attribute(
              theirs.database() == 0 ? 0 : database,
              theirs.user(),
              theirs.name(),
              theirs.values()));
    }
    for (var mine : one.sights().attributes()) {
      if (!others.contains(mine)) {
        String values = String.join(", ", mine.values());
        add(
            Kind.POLICY,
            Phrase.of("attribute " + mine.name() + " of " + mine.user() + ": " + values));
      }
    }
  }
}
