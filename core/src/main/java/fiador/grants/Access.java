package fiador.grants;

import fiador.estate.Account;
import fiador.estate.Estate;
import fiador.estate.Names;
import fiador.estate.NodeFact;
import fiador.estate.None;
import fiador.estate.Power;
import fiador.estate.Principals;
import fiador.estate.Tree;
import fiador.grants.rules.Gate;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.HouseRules;
import it.unimi.dsi.fastutil.ints.IntSets;
import java.util.List;
import java.util.Map;

/**
 * Everything the effects are worked out from: one server's estate, its house rules and who was
 * given what. Immutable.
 *
 * @param about where it comes from
 * @param rules how the server combines it
 * @param estate things and people
 * @param memberships who holds which role
 * @param grants who was given what
 * @param denials who may explicitly not
 * @param columnSets the column sets that grants, denials and reads point to
 * @param reads what views read
 * @param later what objects still to be created will come with
 * @param patterns grants on schemas by pattern; those that match a schema of the estate stand among
 *     {@code grants} too, with the pattern in their terms
 * @param accounts how accounts of one name go together; null where a name is one account
 * @param sights what decides on rows and columns
 * @param seen what there is beside, and what was not seen
 */
public record Access(
    Origin about,
    HouseRules rules,
    Estate estate,
    Memberships memberships,
    Grants grants,
    Grants denials,
    ColumnSets columnSets,
    Reads reads,
    List<LaterGrant> later,
    List<SchemaPattern> patterns,
    Accounts accounts,
    Sights sights,
    Seen seen) {

  /** The same with more things in it, which nobody was given yet; ids stay. */
  public Access withMore(Tree other) {
    Estate changed = new Estate(estate.names(), other, estate.principals());
    return with(changed, grants.forMoreNodes(), denials.forMoreNodes(), reads.forMoreNodes());
  }

  /** The same where something else is known of some accounts. */
  public Access withAccounts(Map<Integer, Account> known) {
    Principals people = estate.principals().with(List.of(), IntSets.EMPTY_SET, known);
    return with(new Estate(estate.names(), estate.tree(), people), grants, denials, reads);
  }

  private Access with(Estate changed, Grants given, Grants denied, Reads read) {
    return new Access(
        about,
        rules,
        changed,
        memberships,
        given,
        denied,
        columnSets,
        read,
        later,
        patterns,
        accounts,
        sights,
        seen);
  }

  /** The same with these seals. */
  public Access sealed(List<Sights.Seal> seals) {
    return with(about, sights.sealed(seals));
  }

  /** The same where something else decides on rows and columns. */
  public Access withSights(Sights others) {
    return others.equals(sights) ? this : with(about, others);
  }

  /** The same, asked for as what it was then. */
  public Access recalled() {
    return with(about.recall(), sights);
  }

  /** The same, where something is supposed that is not so. */
  public Access supposed() {
    return with(about.suppose(), sights);
  }

  private Access with(Origin otherAbout, Sights otherSights) {
    return new Access(
        otherAbout,
        rules,
        estate,
        memberships,
        grants,
        denials,
        columnSets,
        reads,
        later,
        patterns,
        accounts,
        otherSights,
        seen);
  }

  /**
   * The superuser that the server was made with and cannot be without: its own schemas' owner; -1
   * where nothing tells. Cost: the nodes that are the server's own.
   */
  public int founder() {
    for (int at = 0; at < tree().system().size(); at++) {
      int owner = tree().owner(tree().system().get(at));
      if (owner >= 0 && principals().has(owner, Power.SUPERUSER)) {
        return owner;
      }
    }
    return None.PRINCIPAL;
  }

  /**
   * The name of a user or role without the host, where accounts have one; that is what a charter
   * says.
   */
  public String bareName(int id) {
    String name = principals().name(id);
    boolean hosts = rules.has(HouseFact.ACCOUNTS_BY_HOST) && principals().isUser(id);
    return hosts ? AccountName.of(name).user() : name;
  }

  /**
   * Whether the server refuses nothing to a user or role: by itself or, where that is inherited,
   * through a role. Cost: the roles held.
   */
  public boolean isSuperuser(int id) {
    if (principals().has(id, Power.SUPERUSER)) {
      return true;
    }
    return rules.has(HouseFact.SUPERUSER_INHERITED)
        && new Reach(this)
            .up(id)
            .intStream()
            .anyMatch(held -> principals().has(held, Power.SUPERUSER));
  }

  /** What no power gives on a node: where it is sealed, what lets people in. */
  public long notByPower(int node) {
    return tree().is(node, NodeFact.SEALED) ? rules.letsIntoSealed(tree().kind(node)) : 0;
  }

  /** Whether a gate stands at a container of its kind. */
  public boolean stands(Gate gate, int container) {
    return !gate.sealedOnly() || tree().is(container, NodeFact.SEALED);
  }

  /** Whether an owner can grant on what they own. */
  public boolean ownersGrant(int owner) {
    return principals().isUser(owner) || !rules.has(HouseFact.OWNING_ROLES_GRANT_NOTHING);
  }

  /** The label something was given by; empty where it was given on the thing itself. */
  public String labelOf(Terms terms) {
    return terms.label() == Terms.NO_LABEL ? "" : names().text(terms.label());
  }

  /** The tree of the estate. */
  public Tree tree() {
    return estate.tree();
  }

  /** The principals of the estate. */
  public Principals principals() {
    return estate.principals();
  }

  /** The texts of the estate. */
  public Names names() {
    return estate.names();
  }
}
