package fiador.changes;

import fiador.changes.outcome.Outcome;
import fiador.changes.planning.Demands;
import fiador.changes.planning.Taking;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.On;
import fiador.changes.steps.Places;
import fiador.changes.steps.Step;
import fiador.changes.wanted.Rights;
import fiador.changes.wanted.Wanted;
import fiador.estate.Principals;
import fiador.grants.Access;
import fiador.grants.ColumnSets;
import fiador.grants.Grants;
import fiador.grants.Lookup;
import fiador.grants.Membership;
import fiador.grants.rules.HouseFact;
import fiador.refusal.BadInput;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** An estate as it would be if something were granted or taken. Nothing is written anywhere. */
public final class Supposing {
  /** What is supposed. */
  public sealed interface Supposed {
    /** Whether it is supposed not to be so. */
    boolean not();
  }

  /** Somebody holds a role. */
  public record Holds(String member, String role, boolean not) implements Supposed {}

  /** Somebody was given something. */
  public record May(String grantee, List<Wanted.Grant> grants, boolean not) implements Supposed {}

  private final Access access;
  private final Lookup lookup;
  private final List<Step> steps = new ArrayList<>();

  private Supposing(Access access) {
    this.access = access;
    this.lookup = new Lookup(access);
  }

  /**
   * What would change, one supposition after the other.
   *
   * @return the steps to it, with the estate before and after and what they do to people
   * @throws BadInput if a name is not there, or something is so already
   */
  public static Gap of(Access access, List<Supposed> all, Clock clock) throws BadInput {
    Access at = access;
    List<Step> steps = new ArrayList<>();
    for (Supposed one : all) {
      Supposing supposing = new Supposing(at);
      supposing.add(one);
      steps.addAll(supposing.steps);
      at = Outcome.of(at, supposing.steps).after();
    }
    return Gap.of(access, steps, clock);
  }

  private void add(Supposed one) throws BadInput {
    if (one instanceof Holds holds) {
      int member = principal(holds.member());
      int role = principal(holds.role());
      if (holds.not()) {
        leave(member, role);
      } else {
        join(member, role);
      }
    } else if (one instanceof May may) {
      may(may);
    }
  }

  private int principal(String name) throws BadInput {
    if (name.equalsIgnoreCase("public")) {
      return Principals.PUBLIC;
    }
    Lookup.Found found = lookup.principal(name);
    if (!found.ok()) {
      throw new BadInput(found.problem());
    }
    return found.id();
  }

  private String name(int principal) {
    return access.principals().name(principal);
  }

  private void join(int member, int role) throws BadInput {
    if (access.memberships().held(member, role) != null) {
      throw new BadInput(name(member) + " holds " + name(role) + " already");
    } else if (member == role) {
      throw new BadInput(name(member) + " cannot hold itself");
    }
    steps.add(new GiveRole(name(role), name(member), Membership.PLAIN, null, false));
  }

  private void leave(int member, int role) throws BadInput {
    Taking taking = new Taking(access);
    boolean any = false;
    for (int edge : access.memberships().rolesOf().run(member)) {
      Step leave = access.memberships().role(edge) == role ? taking.leave(edge) : null;
      if (leave != null) {
        steps.add(leave);
        any = true;
      }
    }
    if (!any) {
      throw new BadInput(
          name(member) + " was not given " + name(role) + " directly, so it cannot be taken");
    }
  }

  private void may(May may) throws BadInput {
    int grantee = principal(may.grantee());
    Demands demands = new Demands(access, Map.of(), Map.of(), Set.of());
    for (Wanted.Grant grant : may.grants()) {
      demands.add(grant, List.of(name(grantee)));
    }
    if (!demands.problems().isEmpty()) {
      throw new BadInput(demands.problems().get(0).message());
    }
    int before = steps.size();
    demands
        .rights()
        .getOrDefault(name(grantee), Map.of())
        .forEach(
            (node, rights) -> {
              if (may.not()) {
                take(grantee, node, rights);
              } else {
                give(grantee, node, rights);
              }
            });
    if (steps.size() == before) {
      throw new BadInput(
          may.not()
              ? name(grantee) + " was given nothing of that directly, so it cannot be taken"
              : name(grantee) + " was given all of that already");
    }
  }

  private void give(int grantee, int node, Rights rights) {
    Grants grants = access.grants();
    long has = 0;
    long mayGrant = 0;
    for (int row : grants.byNode().run(node)) {
      if (grants.grantee(row) == grantee && grants.columns(row) == ColumnSets.WHOLE) {
        has |= grants.terms(row).privileges();
        mayGrant |= grants.terms(row).grantable();
      }
    }
    On on = Places.on(access.tree(), node);
    long option = rights.grantable & ~mayGrant;
    long plain = rights.whole & ~rights.grantable & ~has;
    for (boolean grantOption : new boolean[] {false, true}) {
      long bits = grantOption ? option : plain;
      if (bits != 0) {
        steps.add(new Grant(bits, on, List.of(), name(grantee), grantOption));
      }
    }
    long whole = has | rights.whole;
    Rights.byColumns(rights.columns.keySet(), column -> rights.on(column) & ~whole)
        .forEach(
            (columns, bits) ->
                steps.add(
                    new Grant(
                        bits,
                        on,
                        columns.stream().map(c -> access.tree().column(node, c)).toList(),
                        name(grantee),
                        columns.stream().allMatch(c -> (rights.grantableOn(c) & bits) == bits))));
  }

  private void take(int grantee, int node, Rights rights) {
    Taking taking = new Taking(access);
    Grants grants = access.grants();
    boolean columnsFall = !access.rules().has(HouseFact.COLUMNS_APART);
    for (int row : grants.byNode().run(node)) {
      if (grants.grantee(row) != grantee) {
        continue;
      }
      boolean whole = grants.columns(row) == ColumnSets.WHOLE;
      add(whole || columnsFall ? taking.revoke(row, rights.whole) : null);
      if (!whole) {
        rights.columns.forEach(
            (column, much) -> add(takenFrom(taking, row, much.privileges(), column)));
      }
    }
  }

  private Step takenFrom(Taking taking, int row, long bits, int column) {
    for (int ordinal : access.columnSets().ordinals(access.grants().columns(row))) {
      if (ordinal == column) {
        return taking.revoke(row, bits, column);
      }
    }
    return null;
  }

  private void add(Step step) {
    if (step != null) {
      steps.add(step);
    }
  }
}
