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
import fiador.changes.steps.On;
import fiador.changes.steps.Rename;
import fiador.changes.steps.Revoke;
import fiador.changes.steps.RevokeLater;
import fiador.changes.steps.SetPower;
import fiador.changes.steps.SightStep;
import fiador.changes.steps.StepCases;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import fiador.estate.Account;
import fiador.grants.Access;
import fiador.grants.Membership;
import java.util.Map;
import java.util.Objects;

/** Whether a survey shows that a step has taken effect. */
final class StepsDone implements StepCases<Boolean> {
  private final Access access;
  private final RightsDone rights;

  /** With the other names of tables that move; whoever made it may add to them. */
  StepsDone(Access access, Map<On, On> names) {
    this.access = access;
    this.rights = new RightsDone(access, names);
  }

  @Override
  public Boolean createRole(CreateRole step) {
    return exists(step.role());
  }

  @Override
  public Boolean dropRole(DropRole step) {
    return !exists(step.role());
  }

  @Override
  public Boolean createUser(CreateUser step) {
    return exists(step.user());
  }

  @Override
  public Boolean dropUser(DropUser step) {
    return !exists(step.user());
  }

  @Override
  public Boolean rename(Rename step) {
    return exists(step.to()) && !exists(step.from());
  }

  @Override
  public Boolean letLogIn(LetLogIn step) {
    int id = access.principals().named(step.user());
    return id >= 0 && canLogIn(id) == step.enabled();
  }

  @Override
  public Boolean limitInTime(LimitInTime step) {
    int id = access.principals().named(step.user());
    Account account = id < 0 ? Account.PLAIN : access.principals().account(id);
    return Objects.equals(account.until(), step.until());
  }

  @Override
  public Boolean limitAccount(LimitAccount step) {
    int id = access.principals().named(step.user());
    Account account = id < 0 ? Account.PLAIN : access.principals().account(id);
    return account.limits().equals(step.after());
  }

  @Override
  public Boolean setPower(SetPower step) {
    int id = access.principals().named(step.principal());
    return id >= 0 && access.principals().has(id, step.power()) == step.given();
  }

  @Override
  public Boolean giveRole(GiveRole step) {
    return isHeld(step);
  }

  @Override
  public Boolean takeRole(TakeRole step) {
    return membership(step.member(), step.role(), step.grantor()) == null;
  }

  @Override
  public Boolean takeOver(TakeOver step) {
    return step.taken().match(this);
  }

  @Override
  public Boolean letIn(LetIn step) {
    return step.taking().match(this);
  }

  @Override
  public Boolean defaultRole(DefaultRole step) {
    return Objects.equals(heldAtLogin(step.member()), step.role());
  }

  @Override
  public Boolean grant(Grant step) {
    boolean given = rights.given(step.about(), step.privileges(), false);
    return given && (!step.grantOption() || rights.given(step.about(), step.privileges(), true));
  }

  @Override
  public Boolean revoke(Revoke step) {
    return rights.gone(step.about(), step.privileges(), false);
  }

  @Override
  public Boolean addOption(AddOption step) {
    return rights.given(step.about(), step.privileges(), true);
  }

  @Override
  public Boolean takeOption(TakeOption step) {
    return rights.gone(step.about(), step.privileges(), true);
  }

  @Override
  public Boolean deny(Deny step) {
    long denied = rights.denied(step);
    return step.lifted()
        ? (denied & step.privileges()) == 0
        : (denied & step.privileges()) == step.privileges();
  }

  @Override
  public Boolean grantLater(GrantLater step) {
    long given = rights.later(step.creator(), step.schema(), step.kind(), step.grantee());
    return (given & step.privileges()) == step.privileges();
  }

  @Override
  public Boolean revokeLater(RevokeLater step) {
    long given = rights.later(step.creator(), step.schema(), step.kind(), step.grantee());
    return (given & step.privileges()) == 0;
  }

  @Override
  public Boolean changeOwner(ChangeOwner step) {
    int node = rights.node(step.on());
    int is = node < 0 ? -1 : access.tree().owner(node);
    return is >= 0 && access.principals().name(is).equals(step.owner());
  }

  @Override
  public Boolean sight(SightStep step) {
    return step.matchSight(new SightsDone(access));
  }

  private boolean exists(String name) {
    return access.principals().named(name) >= 0;
  }

  private boolean canLogIn(int id) {
    return access.principals().isUser(id) && !access.principals().account(id).disabled();
  }

  /** How somebody holds a role from a grantor, or where none is named from anybody; or null. */
  private Membership membership(String member, String role, String grantor) {
    int id = access.principals().named(member);
    int of = access.principals().named(role);
    if (grantor == null) {
      return id < 0 || of < 0 ? null : access.memberships().held(id, of);
    }
    int by = access.principals().named(grantor);
    for (int edge : id < 0 ? new int[0] : access.memberships().rolesOf().run(id)) {
      Membership how = access.memberships().options(edge);
      boolean theirs = access.memberships().grantor(edge) == by;
      if (access.memberships().role(edge) == of && theirs && !how.implicit()) {
        return how;
      }
    }
    return null;
  }

  private boolean isHeld(GiveRole give) {
    Membership how = membership(give.member(), give.role(), null);
    if (how == null || how.admin() != give.how().admin()) {
      return false;
    }
    Membership before = give.before();
    boolean turned = before != null && before.inherit() != give.how().inherit();
    return !turned || how.inherit() == give.how().inherit();
  }

  private String heldAtLogin(String member) {
    int id = access.principals().named(member);
    for (int edge : id < 0 ? new int[0] : access.memberships().rolesOf().run(id)) {
      Membership how = access.memberships().options(edge);
      if (how.inherit() && !how.implicit()) {
        return access.principals().name(access.memberships().role(edge));
      }
    }
    return null;
  }
}
