package fiador.changes.outcome;

import fiador.changes.steps.AddOption;
import fiador.changes.steps.ChangeOwner;
import fiador.changes.steps.CreateRole;
import fiador.changes.steps.CreateUser;
import fiador.changes.steps.DefaultRole;
import fiador.changes.steps.Deny;
import fiador.changes.steps.DropRole;
import fiador.changes.steps.DropUser;
import fiador.changes.steps.GiveRole;
import fiador.changes.steps.Grant;
import fiador.changes.steps.GrantLater;
import fiador.changes.steps.LetIn;
import fiador.changes.steps.LetLogIn;
import fiador.changes.steps.LimitAccount;
import fiador.changes.steps.LimitInTime;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.Step;
import fiador.changes.steps.StepCases;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import fiador.estate.Account;
import fiador.estate.PrincipalKind;
import fiador.grants.Access;
import fiador.grants.Sights;
import it.unimi.dsi.fastutil.ints.IntOpenHashSet;
import java.util.List;

/**
 * What an estate is after some steps, as an overlay of what it is. Cost: the steps, and the grants
 * on the nodes they speak about.
 */
public final class Outcome {
  /** From so many steps on all principals are looked up at once. */
  private static final int MANY = 500;

  private final Ground ground;
  private final MembershipsAfter memberships;
  private final GrantsAfter grants;
  private final DenialsAfter denials;

  /**
   * The estate after the steps, and where to look for a difference.
   *
   * @param after the estate
   * @param grantees those to whom or from whom grants went
   * @param nodes the nodes they are on, or that changed their owner
   * @param members those whose memberships or logins changed
   * @param onlyRights whether nothing but rights came and went: who everybody is stays the same,
   *     and what policies say of them
   */
  public record Result(
      Access after,
      IntOpenHashSet grantees,
      IntOpenHashSet nodes,
      IntOpenHashSet members,
      boolean onlyRights) {}

  private Outcome(Access base, boolean many) {
    this.ground = new Ground(base, many);
    this.memberships = new MembershipsAfter(ground);
    this.grants = new GrantsAfter(ground);
    this.denials = new DenialsAfter(ground);
  }

  /**
   * Works the steps in.
   *
   * @throws IllegalArgumentException when a step speaks about something that is not there
   */
  public static Result of(Access base, List<Step> steps) {
    if (steps.isEmpty()) {
      return new Result(
          base, new IntOpenHashSet(), new IntOpenHashSet(), new IntOpenHashSet(), true);
    }
    Outcome outcome = new Outcome(base, steps.size() > MANY);
    Cases cases = outcome.new Cases();
    steps.forEach(step -> step.match(cases));
    boolean rights =
        steps.stream().allMatch(step -> step instanceof Grant || step instanceof Revoke);
    return outcome.result(SightsAfter.of(base, steps), rights);
  }

  private Result result(Sights sights, boolean onlyRights) {
    grants.finish();
    denials.finish();
    memberships.finish();
    ground.whatIf.later(ground.base.later());
    Access after = ground.whatIf.access().withSights(sights);
    return new Result(after, ground.grantees, ground.nodes, ground.joining, onlyRights);
  }

  private void drop(String name) {
    int id = ground.principal(name);
    Access base = ground.base;
    ground.joining.add(id);
    ground.grantees.add(id);
    for (int edge : base.memberships().membersOf().run(id)) {
      ground.joining.add(base.memberships().member(edge));
    }
    for (int row : base.grants().byGrantee().run(id)) {
      ground.nodes.add(base.grants().node(row));
    }
    ground.whatIf.drop(id);
    grants.forget(id);
    memberships.forget(id);
  }

  private void letLogIn(LetLogIn step) {
    int id = ground.principal(step.user());
    ground.joining.add(id);
    if (ground.isOld(id)) {
      Account old = ground.base.principals().account(id);
      ground.whatIf.account(id, old.with(!step.enabled(), old.until()));
    }
  }

  /** What each kind of step changes. */
  private final class Cases implements StepCases<Void> {
    @Override
    public Void createRole(CreateRole step) {
      ground.create(PrincipalKind.ROLE, step.role());
      return null;
    }

    @Override
    public Void dropRole(DropRole step) {
      drop(step.role());
      return null;
    }

    @Override
    public Void createUser(CreateUser step) {
      ground.create(PrincipalKind.USER, step.user());
      return null;
    }

    @Override
    public Void dropUser(DropUser step) {
      drop(step.user());
      return null;
    }

    @Override
    public Void rename(Rename step) {
      ground.rename(step.from(), step.to());
      return null;
    }

    @Override
    public Void letLogIn(LetLogIn step) {
      Outcome.this.letLogIn(step);
      return null;
    }

    @Override
    public Void limitInTime(LimitInTime step) {
      // a time limit changes nothing that anybody holds now
      return null;
    }

    @Override
    public Void limitAccount(LimitAccount step) {
      // what an account is kept to changes nothing that anybody holds
      return null;
    }

    @Override
    public Void setPower(SetPower step) {
      int id = ground.principal(step.principal());
      ground.whatIf.power(id, step.power(), step.given());
      ground.joining.add(id);
      return null;
    }

    @Override
    public Void giveRole(GiveRole step) {
      memberships.join(ground.principal(step.member()), ground.principal(step.role()), step.how());
      return null;
    }

    @Override
    public Void takeRole(TakeRole step) {
      memberships.leave(
          ground.principal(step.member()),
          ground.principal(step.role()),
          ground.grantor(step.grantor()));
      return null;
    }

    @Override
    public Void takeOver(TakeOver step) {
      step.given().match(this);
      step.taken().match(this);
      return null;
    }

    @Override
    public Void letIn(LetIn step) {
      step.taking().match(this);
      return null;
    }

    @Override
    public Void defaultRole(DefaultRole step) {
      memberships.defaultRole(step);
      return null;
    }

    @Override
    public Void grant(Grant step) {
      grants.grant(step);
      return null;
    }

    @Override
    public Void revoke(Revoke step) {
      grants.revoke(step);
      return null;
    }

    @Override
    public Void addOption(AddOption step) {
      grants.grant(new Grant(step.privileges(), step.on(), step.columns(), step.grantee(), true));
      return null;
    }

    @Override
    public Void takeOption(TakeOption step) {
      grants.takeOption(step);
      return null;
    }

    @Override
    public Void deny(Deny step) {
      denials.deny(step);
      return null;
    }

    @Override
    public Void grantLater(GrantLater step) {
      // what will be created is nothing that anybody holds now
      return null;
    }

    @Override
    public Void revokeLater(RevokeLater step) {
      // as for giving it
      return null;
    }

    @Override
    public Void changeOwner(ChangeOwner step) {
      grants.changeOwner(ground.principal(step.owner()), ground.node(step.on()));
      return null;
    }

    @Override
    public Void sight(SightStep step) {
      // worked in by SightsAfter
      return null;
    }
  }
}
