package fiador.servers.sheet;

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
import fiador.changes.steps.On;
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
import fiador.houses.Pattern;
import fiador.servers.kind.Dialect;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/** The statements of each kind of step, in the patterns of a house sheet. */
final class SheetStatements implements StepCases<List<String>> {
  private final SheetDialect dialect;

  SheetStatements(SheetDialect dialect) {
    this.dialect = dialect;
  }

  private List<String> one(Pattern pattern, Map<String, String> names) {
    return List.of(dialect.write(pattern, names));
  }

  private static IllegalArgumentException none(Step step) {
    return new IllegalArgumentException("a house sheet has no statement for " + step);
  }

  @Override
  public List<String> createRole(CreateRole step) {
    return one(Pattern.CREATE_ROLE, dialect.name("role", step.role()));
  }

  @Override
  public List<String> dropRole(DropRole step) {
    return one(Pattern.DROP_ROLE, dialect.name("role", step.role()));
  }

  @Override
  public List<String> createUser(CreateUser step) {
    return List.of(dialect.createUser(step.user(), Dialect.HIDDEN));
  }

  @Override
  public List<String> dropUser(DropUser step) {
    return one(Pattern.DROP_USER, dialect.name("user", step.user()));
  }

  @Override
  public List<String> rename(Rename step) {
    return step.user()
        ? one(Pattern.RENAME_USER, dialect.names("user", step.from(), "name", step.to()))
        : one(Pattern.RENAME_ROLE, dialect.names("role", step.from(), "name", step.to()));
  }

  @Override
  public List<String> letLogIn(LetLogIn step) {
    return one(
        step.enabled() ? Pattern.LET_LOG_IN : Pattern.KEEP_OUT, dialect.name("user", step.user()));
  }

  @Override
  public List<String> limitInTime(LimitInTime step) {
    throw none(step);
  }

  @Override
  public List<String> limitAccount(LimitAccount step) {
    throw none(step);
  }

  @Override
  public List<String> setPower(SetPower step) {
    throw none(step);
  }

  @Override
  public List<String> giveRole(GiveRole step) {
    Map<String, String> names = dialect.names("role", step.role(), "member", step.member());
    boolean admin = step.how().admin();
    if (step.before() != null && step.before().admin() && !admin) {
      return one(Pattern.TAKE_ADMIN, names);
    }
    return one(admin ? Pattern.GIVE_ROLE_WITH_ADMIN : Pattern.GIVE_ROLE, names);
  }

  @Override
  public List<String> takeRole(TakeRole step) {
    return one(Pattern.TAKE_ROLE, dialect.names("role", step.role(), "member", step.member()));
  }

  @Override
  public List<String> takeOver(TakeOver step) {
    List<String> both = new ArrayList<>(step.given().match(this));
    both.addAll(step.taken().match(this));
    return both;
  }

  @Override
  public List<String> letIn(LetIn step) {
    throw none(step);
  }

  @Override
  public List<String> defaultRole(DefaultRole step) {
    return step.role() == null
        ? one(Pattern.SET_NO_DEFAULT_ROLE, dialect.name("user", step.member()))
        : one(Pattern.SET_DEFAULT_ROLE, dialect.names("user", step.member(), "role", step.role()));
  }

  @Override
  public List<String> grant(Grant step) {
    Pattern pattern = step.grantOption() ? Pattern.GRANT_WITH_OPTION : Pattern.GRANT;
    return about(pattern, step.about(), step.privileges());
  }

  @Override
  public List<String> revoke(Revoke step) {
    return about(Pattern.REVOKE, step.about(), step.privileges());
  }

  @Override
  public List<String> addOption(AddOption step) {
    return about(Pattern.GRANT_WITH_OPTION, step.about(), step.privileges());
  }

  @Override
  public List<String> takeOption(TakeOption step) {
    return about(Pattern.REVOKE_OPTION, step.about(), step.privileges());
  }

  private List<String> about(Pattern pattern, About about, long privileges) {
    On on = Objects.requireNonNull(about.on(), "on what");
    return List.of(
        dialect.write(
            pattern,
            on.kind(),
            Map.of(
                "privileges",
                dialect.privileges(privileges, about.columns()),
                "on",
                dialect.on(on),
                "grantee",
                dialect.principal(Objects.requireNonNull(about.holder(), "to whom")))));
  }

  @Override
  public List<String> deny(Deny step) {
    return about(
        step.lifted() ? Pattern.LIFT_DENIAL : Pattern.DENY, step.about(), step.privileges());
  }

  @Override
  public List<String> grantLater(GrantLater step) {
    throw none(step);
  }

  @Override
  public List<String> revokeLater(RevokeLater step) {
    throw none(step);
  }

  @Override
  public List<String> changeOwner(ChangeOwner step) {
    return one(
        Pattern.CHANGE_OWNER,
        Map.of("on", dialect.on(step.on()), "owner", dialect.principal(step.owner())));
  }

  @Override
  public List<String> sight(SightStep step) {
    return step.matchSight(new SheetSight(dialect));
  }
}
