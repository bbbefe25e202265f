package fiador.servers.kind;

import fiador.changes.steps.About;
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
import fiador.changes.steps.StepCases;
import fiador.changes.steps.TakeOption;
import fiador.changes.steps.TakeOver;
import fiador.changes.steps.TakeRole;
import fiador.estate.Privilege;
import java.util.ArrayList;
import java.util.List;

/** The statements of each kind of step, in a server's own spelling. */
final class StepStatements implements StepCases<List<String>> {
  private final Dialect dialect;

  StepStatements(Dialect dialect) {
    this.dialect = dialect;
  }

  @Override
  public List<String> createRole(CreateRole step) {
    return List.of("CREATE ROLE " + dialect.principal(step.role()));
  }

  @Override
  public List<String> dropRole(DropRole step) {
    return List.of("DROP ROLE " + dialect.principal(step.role()));
  }

  @Override
  public List<String> createUser(CreateUser step) {
    // without quotes: run by mistake it is refused, and is nobody's secret
    return List.of(dialect.createUser(step.user(), Dialect.HIDDEN));
  }

  @Override
  public List<String> dropUser(DropUser step) {
    return List.of("DROP USER " + dialect.principal(step.user()));
  }

  @Override
  public List<String> rename(Rename step) {
    return List.of(dialect.rename(step));
  }

  @Override
  public List<String> letLogIn(LetLogIn step) {
    return List.of(dialect.letLogIn(step));
  }

  @Override
  public List<String> limitInTime(LimitInTime step) {
    return List.of(dialect.limitInTime(step));
  }

  @Override
  public List<String> limitAccount(LimitAccount step) {
    return List.of(dialect.limitAccount(step));
  }

  @Override
  public List<String> setPower(SetPower step) {
    return List.of(dialect.setPower(step));
  }

  @Override
  public List<String> giveRole(GiveRole step) {
    return List.of(dialect.giveRole(step));
  }

  @Override
  public List<String> takeRole(TakeRole step) {
    return List.of(dialect.takeRole(step));
  }

  @Override
  public List<String> takeOver(TakeOver step) {
    return List.of(dialect.sql(step.given()), dialect.sql(step.taken()));
  }

  @Override
  public List<String> letIn(LetIn step) {
    long usage = Privilege.USAGE.bit();
    List<String> let = new ArrayList<>();
    let.add(dialect.grant(usage, step.schema(), List.of(), step.giver(), false));
    let.addAll(step.taking().match(this));
    String what = dialect.privileges(usage, List.of());
    let.add(dialect.revoke(what, step.schema(), step.giver(), null));
    return let;
  }

  @Override
  public List<String> defaultRole(DefaultRole step) {
    return List.of(dialect.defaultRole(step));
  }

  @Override
  public List<String> grant(Grant step) {
    return grant(step.about(), step.privileges(), step.grantOption());
  }

  @Override
  public List<String> revoke(Revoke step) {
    String what = dialect.privileges(step.privileges(), step.columns());
    return revoke(step.about(), step.withOption() ? dialect.withOption(what) : what);
  }

  @Override
  public List<String> addOption(AddOption step) {
    return grant(step.about(), step.privileges(), true);
  }

  @Override
  public List<String> takeOption(TakeOption step) {
    return revoke(
        step.about(), "GRANT OPTION FOR " + dialect.privileges(step.privileges(), step.columns()));
  }

  @Override
  public List<String> deny(Deny step) {
    throw new IllegalArgumentException("no server known in code can deny anything");
  }

  @Override
  public List<String> grantLater(GrantLater step) {
    return List.of(dialect.grantLater(step));
  }

  @Override
  public List<String> revokeLater(RevokeLater step) {
    return List.of(dialect.revokeLater(step));
  }

  @Override
  public List<String> changeOwner(ChangeOwner step) {
    return List.of(dialect.changeOwner(step));
  }

  @Override
  public List<String> sight(SightStep step) {
    return step.matchSight(dialect.policies());
  }

  private List<String> grant(About about, long privileges, boolean option) {
    return List.of(dialect.grant(privileges, about.on(), about.columns(), about.holder(), option));
  }

  private List<String> revoke(About about, String what) {
    return List.of(dialect.revoke(what, about.on(), about.holder(), about.grantor()));
  }
}
