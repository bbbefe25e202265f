package fiador.changes.planning;

import fiador.changes.outcome.Outcome;
import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Governed;
import fiador.changes.wanted.PaperProblems;
import fiador.changes.wanted.Period;
import fiador.changes.wanted.Problem;
import fiador.changes.wanted.StoredName;
import fiador.changes.wanted.Wanted;
import fiador.estate.Account;
import fiador.estate.PrincipalKind;
import fiador.estate.Tree;
import fiador.grants.Access;
import fiador.grants.Lookup;
import fiador.grants.rules.HouseFact;
import fiador.grants.rules.Ownership;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Compares what is wanted with what a server has. What is missing is added; what the charter
 * governs and does not list is taken away; principals are dropped only where that is allowed.
 *
 * <p>Steps come in an order that can be carried out and in which nobody meanwhile holds less than
 * both before and after, or more than either: create, own, give, then take, then drop.
 *
 * <p>Cost: the demands times the nodes each speaks about, and the governed grants.
 */
public final class Planner {
  private Access access;
  private Tree tree;
  private Lookup lookup;
  private final boolean mayDrop;
  private final Set<String> untouchable;
  private final Clock clock;
  private Set<Integer> safeViews = Set.of();
  private Map<Integer, Integer> tables = Map.of();
  private List<Step> renames = List.of();
  private final Set<Step> create = new LinkedHashSet<>();
  private final Set<Step> give = new LinkedHashSet<>();
  private final Set<Step> take = new LinkedHashSet<>();
  private final Set<Step> drop = new LinkedHashSet<>();
  private final List<Problem> problems = new ArrayList<>();
  private final Set<String> notes = new LinkedHashSet<>();
  private final LimitPlanner limits;
  private final Set<Integer> listed = new LinkedHashSet<>();

  /** Plans against that server; nobody is dropped. */
  public Planner(Access access) {
    this(access, false, Set.of(), Clock.systemUTC());
  }

  /**
   * Plans against that server.
   *
   * @param mayDrop whether governed users and roles that are not listed are dropped
   * @param untouchable names of principals that are left alone in any case, such as the one who
   *     carries it out
   * @param clock tells what is past its time
   */
  public Planner(Access access, boolean mayDrop, Set<String> untouchable, Clock clock) {
    this.access = access;
    this.limits = new LimitPlanner(access.rules(), notes);
    this.tree = access.tree();
    this.lookup = new Lookup(access);
    this.mayDrop = mayDrop;
    this.untouchable = untouchable;
    this.clock = clock;
  }

  /** What comes before all of the plan: who gets another name. */
  public List<Step> renames() {
    return renames;
  }

  /** The server as it is, with the new names of the renamed and the views that the plan makes. */
  public Access access() {
    return access;
  }

  /** What has to be done so that the server is as wanted now. */
  public Plan plan(Wanted atAnyTime) {
    Wanted wanted = BuiltInRoles.known(access, atAnyTime.at(clock.instant()), problems, notes);
    Wanted ended = atAnyTime.endedBy(clock.instant());
    renames = new Renaming(access, untouchable, problems, notes).steps(wanted);
    if (!renames.isEmpty()) {
      access = Outcome.of(access, renames).after();
    }
    SightPlanner.Result sight =
        new SightPlanner(
                access, wanted, new Governed(access, wanted, untouchable), mayDrop, this::stored)
            .plan();
    // with the views that are still to be made
    access = sight.access();
    tree = access.tree();
    lookup = new Lookup(access);
    safeViews = safeViews(sight);
    tables = ShownSafely.tables(access, sight.safe());
    problems.addAll(sight.problems());
    notes.addAll(sight.notes());
    problems.addAll(PaperProblems.of(wanted, access.rules()));
    Map<String, List<String>> accounts = new HashMap<>();
    accounts.put(Wanted.EVERYBODY, List.of(Wanted.EVERYBODY));
    wanted.roles().forEach(role -> role(role, accounts));
    wanted.users().forEach(user -> user(user, accounts));
    PowerDifference powers = new PowerDifference(access, untouchable, give, take, notes);
    wanted.roles().forEach(role -> powers.compare(role, accounts.get(role.name())));
    wanted.users().forEach(user -> powers.compare(user, accounts.get(user.name())));
    wanted.owned().forEach(owned -> own(owned, accounts));
    new Leaving(access, new Governed(access, wanted, untouchable), listed, mayDrop)
        .handOver(create, problems, notes);
    Access owned = owned();
    Governed governed = new Governed(owned, wanted, untouchable);
    // those that are still to be made are listed too
    for (int id = access.principals().size(); id < owned.principals().size(); id++) {
      listed.add(id);
    }
    Leaving leaving = new Leaving(owned, governed, listed, mayDrop);
    new MembershipDifference(owned, governed, give, take, notes).compare(wanted, ended, accounts);
    Demands demands = new Demands(owned, wanted.sight().labels(), sight.safe(), safeViews);
    wanted.grants().forEach(grant -> demands.add(grant, accounts));
    problems.addAll(demands.problems());
    notes.addAll(demands.notes());
    Demands over = Ending.demands(owned, ended, sight.safe(), safeViews, accounts);
    new GrantDifference(owned, governed, give, take, notes).compare(demands, over);
    new Outside(owned, governed).tell(notes);
    deny(wanted, owned, accounts);
    Ending.tell(atAnyTime, clock.instant(), notes);
    leaving.strip(take);
    leaving.drop(drop, notes);
    new Resting(owned).takeOver(take, drop);
    List<Step> steps = new ArrayList<>(create);
    // what changes its owner may have another name by then
    steps.removeIf(ChangeOwner.class::isInstance);
    steps.addAll(sight.first());
    create.stream().filter(ChangeOwner.class::isInstance).forEach(steps::add);
    steps.addAll(
        problems.isEmpty()
            ? TakesInOrder.givenSafely(access, give, List.copyOf(steps), take, clock)
            : give);
    steps.addAll(problems.isEmpty() ? TakesInOrder.of(access, steps, take, clock) : take);
    steps.addAll(sight.last());
    steps.addAll(drop);
    List<Step> all = problems.isEmpty() ? MovedGrants.in(access, steps) : steps;
    return new Plan(List.copyOf(all), List.copyOf(problems), List.copyOf(notes));
  }

  /** What may not be done is denied, where the server can; what is denied besides is left alone. */
  private void deny(Wanted wanted, Access owned, Map<String, List<String>> accounts) {
    Demands denied = new Demands(owned, wanted.sight().labels(), Map.of(), Set.of()).ofDenials();
    wanted.refused().forEach(grant -> denied.add(grant, accounts));
    new DenialDifference(owned, give).compare(denied);
    if (access.denials().size() > 0) {
      notes.add(
          "the server has denials, which beat what a charter gives; those it does not name under"
              + " may_not are left alone: fiador list denials");
    }
  }

  /** The views that stand for tables: whoever settles owns them, whatever else is in a schema. */
  private Set<Integer> safeViews(SightPlanner.Result sight) {
    Set<Integer> views = new LinkedHashSet<>();
    sight.safe().values().forEach(shown -> views.add(shown.view()));
    access
        .sights()
        .kept()
        .forEach(
            (node, kept) -> {
              if (node != kept.table()) {
                views.add(node);
              }
            });
    return views;
  }

  /** The server as the rest of the plan finds it: everything has its owner by then. */
  private Access owned() {
    boolean same = create.stream().noneMatch(ChangeOwner.class::isInstance);
    return same ? access : Outcome.of(access, List.copyOf(create)).after();
  }

  private void role(Wanted.Principal wanted, Map<String, List<String>> accounts) {
    String name = stored(wanted.name());
    accounts.put(wanted.name(), List.of(name));
    int id = access.principals().named(name);
    if (id < 0) {
      create.add(new CreateRole(name));
    } else {
      listed.add(id);
      checkKind(wanted, id, PrincipalKind.ROLE);
    }
  }

  private void checkKind(Wanted.Principal wanted, int id, PrincipalKind kind) {
    if (access.principals().kind(id) != kind) {
      problems.add(
          new Problem(
              wanted.place(),
              wanted.name()
                  + " is to be a "
                  + kind.text()
                  + ", but the server has a "
                  + access.principals().kind(id).text()
                  + " of that name"));
    }
  }

  private void user(Wanted.Principal wanted, Map<String, List<String>> accounts) {
    List<String> names = StoredName.accounts(wanted, access.rules());
    if (!access.rules().has(HouseFact.ACCOUNTS_BY_HOST) && !wanted.login().hosts().isEmpty()) {
      notes.add(
          access.rules().kind()
              + " does not keep users to hosts: \"hosts\" of "
              + wanted.name()
              + " is a matter of its own configuration");
    }
    accounts.put(wanted.name(), names);
    for (String name : names) {
      account(wanted, name);
    }
  }

  private void account(Wanted.Principal wanted, String name) {
    int id = access.principals().named(name);
    Instant end = wanted.login().until();
    boolean endsItself = access.rules().has(HouseFact.ENDS_ACCOUNTS);
    // whoever settles is not locked out by the way
    boolean ours = untouchable.contains(name) || untouchable.contains(wanted.name());
    boolean over = wanted.login().isOver(clock.instant()) && !ours;
    boolean disabled = wanted.login().disabled() || over && !endsItself;
    Account before = Account.PLAIN;
    boolean wasDisabled = false;
    if (id < 0) {
      create.add(new CreateUser(name));
    } else {
      listed.add(id);
      before = access.principals().account(id);
      boolean noLogin = access.principals().kind(id) == PrincipalKind.ROLE;
      wasDisabled = before.disabled() || noLogin;
      if (noLogin && !disabled && !access.rules().has(HouseFact.USERS_ARE_ROLES)) {
        checkKind(wanted, id, PrincipalKind.USER);
        return;
      }
    }
    if (disabled != wasDisabled && !access.rules().has(HouseFact.LOCKS_ACCOUNTS)) {
      notes.add(
          access.rules().kind()
              + " cannot lock an account: "
              + wanted.name()
              + " stays able to log in until it is dropped");
    } else if (disabled != wasDisabled) {
      (disabled ? take : give).add(new LetLogIn(name, !disabled));
    }
    LimitAccount limit = limits.limit(wanted, name, before);
    if (limit != null) {
      give.add(limit);
    }
    if (end != null && endsItself && !end.equals(before.until())) {
      give.add(new LimitInTime(name, before.until(), end));
    } else if (end != null && !endsItself && !over) {
      notes.add(
          access.rules().kind()
              + " ends no accounts by itself: "
              + (access.rules().has(HouseFact.LOCKS_ACCOUNTS)
                  ? "settle (or settle --only-ended) after " + Period.endText(end) + " locks "
                  : "after " + Period.endText(end) + " take out of the charter ")
              + wanted.name());
    }
  }

  /** The name as the server will store it: exactly when it stands in quotes, else folded. */
  private String stored(String name) {
    return StoredName.of(name, access.rules());
  }

  private void own(Wanted.Owned wanted, Map<String, List<String>> accounts) {
    Lookup.Found found = lookup.node(wanted.target().name(), 0, false);
    String owner = accounts.getOrDefault(wanted.owner(), List.of(stored(wanted.owner()))).get(0);
    if (!found.ok()) {
      problems.add(new Problem(wanted.place(), found.problem()));
      return;
    }
    int node = tables.getOrDefault(found.id(), found.id());
    if (access.rules().ownership() == Ownership.NONE) {
      notes.add(access.rules().kind() + " knows no owners: \"owns\" is left out");
    } else if (!access.rules().has(HouseFact.CHANGES_OWNERS)) {
      if (!isOwner(owner, node)) {
        notes.add(
            access.rules().kind()
                + " cannot give a schema another owner: "
                + wanted.target().name()
                + " stays as it is");
      }
    } else if (safeViews.contains(node)) {
      problems.add(
          new Problem(
              wanted.place(),
              tree.path(node)
                  + " shows a table safely and reads what nobody else may read, so it stays with"
                  + " the account that settles"));
    } else {
      changeOwners(wanted, node, owner);
    }
  }

  private void changeOwners(Wanted.Owned wanted, int node, String owner) {
    changeOwner(node, owner);
    if (wanted.inside()) {
      for (int child : tree.children().run(node)) {
        if (!safeViews.contains(child)) {
          changeOwner(child, owner);
        }
      }
    }
  }

  private boolean isOwner(String name, int node) {
    int is = tree.owner(node);
    return is >= 0 && access.principals().name(is).equals(name);
  }

  private void changeOwner(int node, String owner) {
    if (!isOwner(owner, node)) {
      int before = tree.owner(node);
      String old = before < 0 ? null : access.principals().name(before);
      create.add(new ChangeOwner(Places.on(tree, node), owner, old));
    }
  }
}
